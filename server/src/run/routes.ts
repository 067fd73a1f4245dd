import { deliveryList } from './receiving/repository'
import { endpoints } from '@nemawashi/contract'
import { v7 } from 'uuid'
import type { Kernel } from '../kernel/kernel'
import type { Routes } from '../kernel/routes'
import { ServerError } from '../kernel/base/serverError'
import { correctDelivery, effectsOf } from './receiving/correct'
import { loadDelivery } from './receiving/deliveries'
import { putAway } from './moving/putAway'
import { pickPlanned, planDispatch } from './shipping/planDispatch'
import { cancelDispatch, loadDispatch, pickDispatch, sendDispatch, takeBack } from './shipping/dispatches'
import { dispatchFilters, dispatchList, pickableList } from './shipping/dispatchRepository'
import { announce, loadExpected, register, turnAway } from './receiving/expected'
import { expectedFilters, expectedList } from './receiving/expectedRepository'
import { dismissEvent, loadEvent, playAgain, takeEvents } from './feed/feed'
import { feedFilters, feedList, noticeList } from './feed/feedRepository'
import { cancelOrder, confirmStep, finishOrder, issueComponent, planOrder, releaseOrder, startStep } from './production/orderActs'
import { stockAt, stockFilters, stockList } from './moving/stockRepository'
import { orderFilters, orderList } from './production/orderRepository'
import { loadOrder } from './production/orders'
import { pastOccasions } from './rehearsal/pastOccasions'
import { LotEntity } from '../stock/ledger/entities'
import { sendPaper } from '../kernel/pdf/paper'
import { labelsPaper } from './receiving/labelsPdf'
import { addPaper } from './receiving/papers'
import { notePaper } from './shipping/notePdf'
import { loadRules, movesDue, saveRules } from '../stock/putAway/putAwayRules'
import { previewDelivery } from './receiving/preview'
import { closePurchaseOrder, createPurchaseOrder, loadPurchaseOrder } from './purchasing/purchaseOrders'
import { purchaseFilters, purchaseList } from './purchasing/purchaseRepository'
import { receiveDelivery } from './receiving/receive'
import { rehearse } from './rehearsal/rehearse'
import { reportStep } from './production/stepReports'
import { movementFilters, movementList, transferList } from './moving/transferRepository'
import { transfer } from './moving/transfers'

const { attach, run } = endpoints

function expectedRoutes(routes: Routes): void {
  routes.list(run.listPurchaseOrders, purchaseList, purchaseFilters)
  routes.read(run.getPurchaseOrder, (reader, { params }) => loadPurchaseOrder(reader, params.id))
  routes.change(run.createPurchaseOrder, (work, { body }) => createPurchaseOrder(work, body))
  routes.change(run.closePurchaseOrder, (work, { params, body }) => closePurchaseOrder(work, params.id, body.version, body.isClosed))
  routes.list(run.listExpected, expectedList, expectedFilters)
  routes.read(run.getExpected, (reader, { params }) => loadExpected(reader, params.id))
  routes.change(run.announce, (work, { body }) => announce(work, body))
  routes.change(run.register, (work, { params, body }) => register(work, params.id, body.version, body.load))
  routes.change(run.turnAway, (work, { params, body }) => turnAway(work, params.id, body.version, body.reason))
}

function orderRoutes(routes: Routes): void {
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

function feedRoutes(routes: Routes): void {
  routes.list(run.listFeedEvents, feedList, feedFilters)
  routes.list(run.listNotices, noticeList)
  routes.read(run.getFeedEvent, (reader, { params }) => loadEvent(reader, params.id))
  routes.changeEach(run.sendEvents, async (each, { body }) => ({ answers: await takeEvents(each, body.events) }))
  routes.changeEach(run.playAgain, async (each, { params, body }) => {
    await playAgain(each, params.id, body)
    return each((work) => {
      work.nothingChanged()
      return loadEvent(work.manager, params.id)
    })
  })
  routes.change(run.dismissEvent, (work, { params, body }) => dismissEvent(work, params.id, body))
}

function transferRoutes(routes: Routes): void {
  routes.list(run.listTransfers, transferList)
  routes.list(run.listMovements, movementList, movementFilters)
  routes.read(run.getPutAwayRules, (reader) => loadRules(reader))
  routes.change(run.savePutAwayRules, (work, { body }) => saveRules(work, body))
  routes.readLong(run.getMovesDue, (reader) => movesDue(reader))
  routes.change(run.transfer, (work, { body }) => transfer(work, body))
}

function dispatchRoutes(routes: Routes): void {
  routes.list(run.listStock, ({ at }) => (at === undefined ? stockList : stockAt(new Date(at))), stockFilters)
  routes.list(run.listPickable, pickableList)
  routes.list(run.listDispatches, dispatchList, dispatchFilters)
  routes.read(run.getDispatch, (reader, { params }) => loadDispatch(reader, params.id))
  routes.change(run.pickDispatch, (work, { body }) => pickDispatch(work, body))
  routes.change(run.planDispatch, (work, { body }) => planDispatch(work, body))
  routes.change(run.pickPlanned, (work, { params, body }) => pickPlanned(work, params.id, body.version, body.picks))
  routes.change(run.sendDispatch, (work, { params, body }) => sendDispatch(work, params.id, body.version))
  routes.change(run.cancelDispatch, (work, { params, body }) => cancelDispatch(work, params.id, body.version))
  routes.change(run.takeBack, (work, { params, body }) => takeBack(work, params.id, body))
}

export function runRoutes(routes: Routes, kernel: Kernel): void {
  const { clock } = kernel
  expectedRoutes(routes)
  orderRoutes(routes)
  dispatchRoutes(routes)
  transferRoutes(routes)
  feedRoutes(routes)
  routes.list(run.listDeliveries, deliveryList)
  routes.read(run.getDelivery, (reader, { params }) => loadDelivery(reader, params.id))

  routes.readLong(attach.rehearse, (reader, { query }) => rehearse(reader, query, clock.now()))
  routes.readLong(attach.getPastOccasions, (reader, { query }) => pastOccasions(reader, query, clock.now()))

  routes.read(run.previewDelivery, (reader, { body }) => previewDelivery(reader, body, clock.now()))
  routes.change(run.receiveDelivery, (work, { body }) => receiveDelivery(work, body))

  routes.read(run.checkCorrection, async (reader, { params, body }) => ({
    effects: await effectsOf(reader, params.id, body.correction, { newId: v7, now: clock.now().toISOString() }),
  }))
  routes.change(run.correctDelivery, (work, { params, body }) => correctDelivery(work, params.id, body.correction, body.reason))

  routes.change(run.addPaper, (work, { params, body }) => addPaper(work, params.id, body))
  routes.stream(run.getLabelsPdf, async (reader, { params, response }) => {
    const delivery = await loadDelivery(reader, params.id)
    await sendPaper(kernel, response, labelsPaper, delivery, `${delivery.code}-labels`)
  })
  routes.stream(run.getNotePdf, async (reader, { params, response }) => {
    const dispatch = await loadDispatch(reader, params.id)
    await sendPaper(kernel, response, notePaper, dispatch, dispatch.code)
  })
  routes.change(run.putAway, async (work, { params, body }) => {
    const lot = await work.manager.findOneBy(LotEntity, { id: params.id })
    if (!lot) throw new ServerError('not_found', `There is no lot with the id ${params.id}.`)
    return { balances: await putAway(work, lot, body) }
  })
}
