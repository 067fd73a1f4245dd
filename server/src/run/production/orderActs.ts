import { checkLotSize, isOrderCancellable, isSettled, movesFrom, serialsFor } from '@nemawashi/core'
import type { ProductionOrder } from '@nemawashi/contract'
import { asksAt } from '../../attach/repository'
import { PartEntity, PlaceEntity } from '../../define/masters/entities'
import { requirePartner } from '../../define/masters/partners'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, requireReference, saveNext } from '../../kernel/work/versioned'
import { cancelInspection } from '../../opening/cancel'
import { InspectionEntity } from '../../inspections/entities'
import { ContainerEntity, LotEntity, LotUseEntity, type LotRow } from '../../stock/ledger/entities'
import { requireStep } from '../../stock/restrictions/finerStandings'
import { movePieces } from '../../stock/ledger/ledger'
import { takePieces } from '../../stock/units/pieces'
import { placeFor } from '../../stock/putAway/placeFor'
import { isMadeFrom, namedBalances } from '../../stock/ledger/repository'
import { onLine } from '../../opening/onLine'
import { OrderStepEntity, ProductionOrderEntity, type ProductionOrderRow } from './entities'
import { noteOccasion } from '../../opening/occasions'
import { comesUp, freeOf, noteReport, openAtStep, openEveryMinutes, openEveryPieces, type StepOf } from './openAtStep'
import { atAct, orderWords, stepAt } from './orderAt'
import { loadOrder } from './orders'
import { operationsOf } from '../receiving/repository'
import { checkSerials, labelOfSerial } from '../receiving/serials'
import { reportsOf } from './stepReportRepository'
import { bookPieces, doneOf, requirePieces, timesOf, type Pieces } from './stepReports'

/** Plans an order; its steps are the production operations on the way of the part. @throws {ServerError} `nothing_to_make`. */
export async function planOrder(
  work: Work,
  { partId, quantity, orderNumber, customerId }: { partId: string; quantity: number; orderNumber: string; customerId: string | null },
): Promise<ProductionOrder> {
  await requireReference(work, PartEntity, 'part', partId, 'partId')
  await requirePartner(work, 'customer', customerId, 'customerId')
  checkLotSize(quantity)
  const operations = await operationsOf(work.manager, partId, 'production')
  if (operations.length === 0) throw new ServerError('nothing_to_make', 'The part has no production step on its way.', { field: 'partId' })
  const order: ProductionOrderRow = {
    id: work.newId(),
    code: await work.nextCode('W'),
    partId,
    quantity,
    orderNumber,
    customerId,
    lotId: null,
    state: 'planned',
    createdAt: work.now,
    releasedAt: null,
    finishedAt: null,
    version: 1,
  }
  await work.manager.insert(ProductionOrderEntity, { ...order })
  for (const [i, operationId] of operations.entries())
    await work.manager.insert(OrderStepEntity, {
      id: work.newId(),
      orderId: order.id,
      position: i + 1,
      operationId,
      state: 'waiting',
      startId: null,
      endId: null,
      good: 0,
      scrapped: 0,
      setAside: 0,
    })
  work.audit({ action: 'planned', subject: orderWords, subjectId: order.id, after: order })
  return loadOrder(work.manager, order.id)
}

/**
 * Releases an order: the lot that its pieces will be is there before the first check, and so are their serial numbers.
 * @throws {ServerError} `serials_missing`, `already_exists`.
 */
export async function releaseOrder(work: Work, id: string, version: number, given: readonly string[] | null = null): Promise<ProductionOrder> {
  const { row, part } = await atAct(work, id, version, 'release')
  const originId = await noteOccasion(work, 'orderReleased', 'start', { partnerId: row.customerId, orderNumber: row.orderNumber })
  const lot: LotRow = {
    id: work.newId(),
    code: await work.nextCode('L'),
    partId: part.id,
    originId,
    supplierId: null,
    supplierLot: '',
    quantity: row.quantity,
    createdAt: work.now,
  }
  const serials = given ?? (part.tracking === 'serial' ? serialsFor(lot.code, row.quantity) : [])
  await checkSerials(work, part, { serials, quantity: row.quantity, field: 'serials', words: row.code })
  await work.manager.insert(LotEntity, { ...lot })
  for (const serial of serials)
    await work.manager.insert(ContainerEntity, { id: work.newId(), lotId: lot.id, label: labelOfSerial(part, serial), serial, quantity: 1 })
  work.audit({ action: 'given', subject: 'lot', subjectId: lot.id, after: serials.length > 0 ? { ...lot, serials } : lot })
  await saveNext(work, ProductionOrderEntity, orderWords, 'released', row, { state: 'released', lotId: lot.id, releasedAt: work.now })
  return loadOrder(work.manager, id)
}

export async function startStep(work: Work, id: string, version: number): Promise<ProductionOrder> {
  const at = await atAct(work, id, version, 'start')
  const step = await stepAt(work, at)
  const { operationId } = step
  const occasionId = await noteOccasion(work, 'stepStarted', 'start', { operationId, partnerId: at.row.customerId, orderNumber: at.row.code })
  await work.manager.update(OrderStepEntity, { id: step.id }, { state: 'running', startId: occasionId })
  await openAtStep(work, { ...at, step }, 'start', occasionId, at.order.next?.quantity ?? 0)
  await saveNext(work, ProductionOrderEntity, orderWords, 'step started', at.row, {})
  return loadOrder(work.manager, id)
}

/** What was not told while the step ran comes up with its confirmation: the pieces and minutes since the last time, and the last piece. */
async function catchUp(work: Work, of: StepOf, before: number, after: number): Promise<void> {
  const { minutes, lookedAt } = await timesOf(work, of.step)
  const noted = { done: after, minutes: Math.floor(minutes) }
  if (await comesUp(work, of, 'everyPieces', before, after)) {
    const occasionId = await noteReport(work, of, { ...noted, kind: 'pieces' })
    await openEveryPieces(work, of, occasionId, before, after)
  }
  await openEveryMinutes(work, of, { before: lookedAt, after: minutes, done: after })
  const isTold = (await reportsOf(work.manager, of.step.id)).some(({ kind }) => kind === 'lastPiece')
  if (!isTold && (await asksAt(work.manager, of.step.operationId, 'lastPiece', work.today)))
    await openAtStep(work, of, 'lastPiece', await noteReport(work, of, { ...noted, kind: 'lastPiece' }), 1)
}

/**
 * Confirms the running step with what was not reported yet: at the first one its good pieces come to be, at a later one all that is free is
 * accounted for.
 * @throws {ServerError} `step_does_not_add_up`, `step_paused`, `order_not_so_far`, `gate_closed`.
 */
export async function confirmStep(work: Work, id: string, version: number, pieces: Pieces): Promise<ProductionOrder> {
  const at = await atAct(work, id, version, 'confirm')
  const step = await stepAt(work, at)
  const of: StepOf = { ...at, step }
  if ((await timesOf(work, step)).isPaused)
    throw new ServerError('step_paused', `${at.order.code} stands still: resume the step first.`, { order: at.order.code })
  const isFirst = step.position === 1
  const there = at.order.next?.quantity ?? 0
  const before = doneOf(step)
  const after = before + doneOf(pieces)
  const isEnough = (together: number) => (isFirst ? after >= 1 && together <= there : together === there)
  requirePieces(pieces, isEnough, isFirst ? `the order is for ${there}${before > 0 ? ' more' : ''}` : `${there} came to the step`, there)
  const { operationId } = step
  const occasionId = await noteOccasion(work, 'stepConfirmed', 'end', { operationId, partnerId: at.row.customerId, orderNumber: at.row.code })
  const good = step.good + pieces.good
  const sum = { good, scrapped: step.scrapped + pieces.scrapped, setAside: step.setAside + pieces.setAside }
  await work.manager.update(OrderStepEntity, { id: step.id }, { state: 'confirmed', endId: occasionId, ...sum })
  await bookPieces(work, at, step, pieces, occasionId)
  const free = await freeOf(work, at.row)
  await catchUp(work, of, before, after)
  if (free > 0) await openAtStep(work, of, 'end', occasionId, free)
  await saveNext(work, ProductionOrderEntity, orderWords, 'step confirmed', at.row, {})
  return loadOrder(work.manager, id)
}

/** Pieces of another lot go into this one. What is on hold is refused by the ledger. */
export async function issueComponent(
  work: Work,
  id: string,
  {
    version,
    lotId,
    containerId,
    placeId,
    quantity,
  }: { version: number; lotId: string; containerId: string | null; placeId: string; quantity: number },
): Promise<ProductionOrder> {
  const row = await loadAt(work, ProductionOrderEntity, orderWords, id, version)
  if (row.state !== 'released' || row.lotId === null)
    throw new ServerError('order_not_so_far', `${row.code} is ${row.state}: pieces are issued to a released order.`, { state: row.state })
  const lot = await work.manager.findOneBy(LotEntity, { id: lotId })
  if (!lot) throw new ServerError('not_found', `There is no lot with the id ${lotId}.`, { field: 'lotId' })
  if (lotId === row.lotId) throw new ServerError('order_not_so_far', `${row.code} cannot use its own lot.`, { field: 'lotId' })
  if (await isMadeFrom(work.manager, lotId, row.lotId))
    throw new ServerError('order_not_so_far', `${lot.code} is made from the lot of ${row.code}: it cannot go into it as well.`, { field: 'lotId' })
  const place = await work.manager.findOneBy(PlaceEntity, { id: placeId })
  if (!place || !movesFrom(place.purpose))
    throw new ServerError('place_not_for', `What lies in ${place?.name ?? 'that place'} belongs to its order or its dispatch: it is not issued.`, {
      field: 'placeId',
      purpose: place?.purpose ?? null,
    })
  await requireStep(work, lotId, containerId, 'use', 'lotId')
  const occasionId = await noteOccasion(work, 'stepStarted', 'start', { orderNumber: row.code, fromPlaceId: placeId })
  const to = { placeId: (await placeFor(work.manager, 'production')).id, standing: 'used' } as const
  for (const { spot, quantity: taken } of await takePieces(work, lotId, { containerId, placeId, standing: 'released', quantity }))
    await movePieces(work, lotId, { spot, quantity: taken, to }, 'issued', { occasionId })
  await work.manager.insert(LotUseEntity, { id: work.newId(), fromLotId: lotId, toLotId: row.lotId, quantity, occasionId, at: work.now })
  await saveNext(work, ProductionOrderEntity, orderWords, 'component issued', row, {})
  return loadOrder(work.manager, id)
}

/** Calls an order off that has made nothing, with what it asks for. @throws {ServerError} `order_not_so_far`, `stale_version`. */
export async function cancelOrder(work: Work, id: string, version: number, reason: string): Promise<ProductionOrder> {
  const row = await loadAt(work, ProductionOrderEntity, orderWords, id, version)
  const order = await loadOrder(work.manager, id)
  const made = order.balances.reduce((sum, { quantity }) => sum + quantity, 0)
  if (!isOrderCancellable({ state: row.state, made }))
    throw new ServerError(
      'order_not_so_far',
      `${row.code} is ${row.state} and has made ${made}: what was made is accounted for, and the order is finished.`,
      {
        state: row.state,
        next: order.next?.act ?? null,
      },
    )
  for (const { id: inspectionId, state } of order.steps.flatMap(({ checks }) => checks))
    if (!isSettled(state))
      await cancelInspection(
        work,
        await work.manager.findOneByOrFail(InspectionEntity, { id: inspectionId }),
        `${row.code} was called off: ${reason}`,
      )
  await saveNext(work, ProductionOrderEntity, orderWords, 'called off', row, { state: 'cancelled' }, reason)
  return loadOrder(work.manager, id)
}

/** Ends an order: what is released on the line goes to the store of the part. */
export async function finishOrder(work: Work, id: string, version: number): Promise<ProductionOrder> {
  const { row, part } = await atAct(work, id, version, 'finish')
  const toPlaceId = part.putAwayPlaceId ?? (await placeFor(work.manager, 'store')).id
  for (const spot of onLine(await namedBalances(work.manager, row.lotId ?? '')))
    await movePieces(work, row.lotId ?? '', { spot, quantity: spot.quantity, to: { placeId: toPlaceId, standing: 'released' } }, 'putAway', {})
  await saveNext(work, ProductionOrderEntity, orderWords, 'finished', row, { state: 'finished', finishedAt: work.now })
  return loadOrder(work.manager, id)
}
