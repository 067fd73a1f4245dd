import { endpoints } from '@nemawashi/contract'
import type { Kernel } from '../../kernel/kernel'
import { sendPaper } from '../../kernel/pdf/paper'
import type { Routes } from '../../kernel/routes'
import { loadDelivery } from './deliveries'
import { announce, register, refuseDelivery } from './expected'
import { loadExpected } from './loadExpected'
import { expectedFilters, expectedList } from './expectedRepository'
import { labelsPaper } from './labelsPdf'
import { addPaper } from './papers'
import { previewDelivery } from './preview'
import { receiveDelivery } from './receive'
import { deliveryList } from './repository'

const { run } = endpoints

export function receivingRoutes(routes: Routes, kernel: Kernel): void {
  const { clock } = kernel
  routes.list(run.listExpected, expectedList, expectedFilters)
  routes.read(run.getExpected, (reader, { params }) => loadExpected(reader, params.id))
  routes.change(run.announce, (work, { body }) => announce(work, body))
  routes.change(run.register, (work, { params, body }) => register(work, params.id, body.version, body.load))
  routes.change(run.refuseDelivery, (work, { params, body }) => refuseDelivery(work, params.id, body.version, body.reason))

  routes.list(run.listDeliveries, deliveryList)
  routes.read(run.getDelivery, (reader, { params }) => loadDelivery(reader, params.id))
  routes.read(run.previewDelivery, (reader, { body }) => previewDelivery(reader, body, clock.now()))
  routes.change(run.receiveDelivery, (work, { body }) => receiveDelivery(work, body))

  routes.change(run.addPaper, (work, { params, body }) => addPaper(work, params.id, body))
  routes.stream(run.getLabelsPdf, async (reader, { params, response }) => {
    const delivery = await loadDelivery(reader, params.id)
    await sendPaper(kernel, response, labelsPaper, delivery, `${delivery.code}-labels`)
  })
}
