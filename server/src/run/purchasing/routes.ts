import { endpoints } from '@nemawashi/contract'
import type { Routes } from '../../kernel/routes'
import { closePurchaseOrder, createPurchaseOrder, loadPurchaseOrder } from './purchaseOrders'
import { purchaseFilters, purchaseList } from './repository'

const { run } = endpoints

export function purchasingRoutes(routes: Routes): void {
  routes.list(run.listPurchaseOrders, purchaseList, purchaseFilters)
  routes.read(run.getPurchaseOrder, (reader, { params }) => loadPurchaseOrder(reader, params.id))
  routes.change(run.createPurchaseOrder, (work, { body }) => createPurchaseOrder(work, body))
  routes.change(run.closePurchaseOrder, (work, { params, body }) => closePurchaseOrder(work, params.id, body.version, body.isClosed))
}
