import { endpoints } from '@nemawashi/contract'
import type { Routes } from '../../kernel/routes'
import { cancelOrder } from './cancelOrder'
import { confirmStep } from './confirmStep'
import { finishOrder } from './finishOrder'
import { issueComponent } from './issueComponent'
import { planOrder } from './planOrder'
import { releaseOrder } from './releaseOrder'
import { startStep } from './startStep'
import { loadOrder } from './orders'
import { orderFilters, orderList } from './repository'
import { reportStep } from './stepReports'

const { run } = endpoints

export function productionRoutes(routes: Routes): void {
  routes.list(run.listOrders, orderList, orderFilters)
  routes.read(run.getOrder, (reader, { params }) => loadOrder(reader, params.id))
  routes.change(run.createOrder, (work, { body }) => planOrder(work, body))
  routes.change(run.releaseOrder, (work, { params, body }) => releaseOrder(work, params.id, body.version, body.serials))
  routes.change(run.issueComponent, (work, { params, body }) => issueComponent(work, params.id, body))
  routes.change(run.startStep, (work, { params, body }) => startStep(work, params.id, body.version))
  routes.change(run.reportStep, (work, { params, body }) => reportStep(work, params.id, body.version, body.report))
  routes.change(run.confirmStep, (work, { params, body }) => confirmStep(work, params.id, body.version, body))
  routes.change(run.cancelOrder, (work, { params, body }) => cancelOrder(work, params.id, body.version, body.reason))
  routes.change(run.finishOrder, (work, { params, body }) => finishOrder(work, params.id, body.version))
}
