import { checkLotSize, type Moment } from '@nemawashi/core'
import type { ProductionOrder } from '@nemawashi/contract'
import { PartEntity, PartnerEntity, type PartRow } from '../define/entities'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { loadAt, requireReference, saveNext } from '../kernel/versioned'
import { considerAt, type Coming } from '../record/consider'
import { LotEntity, LotUseEntity, type LotRow } from '../stock/entities'
import { holdLot } from '../stock/holds'
import { postMovement } from '../stock/ledger'
import { placeFor } from '../stock/placeFor'
import { loadBalances } from '../stock/repository'
import { requireGates } from './checks'
import { OrderStepEntity, ProductionOrderEntity, type ProductionOrderRow } from './entities'
import { noteOccasion } from './occasions'
import { openTogether } from './openTogether'
import { loadOrder } from './orders'
import { operationsOf } from './repository'

const words = 'production order'
type Act = 'release' | 'start' | 'confirm' | 'finish'
const actWords: Readonly<Record<Act, string>> = {
  release: 'be released',
  start: 'have a step started',
  confirm: 'have a step confirmed',
  finish: 'be finished',
}

/** Plans an order; its steps are the production operations on the way of the part. @throws {ServerError} `nothing_to_make`. */
export async function planOrder(
  work: Work,
  { partId, quantity, orderNumber, customerId }: { partId: string; quantity: number; orderNumber: string; customerId: string | null },
): Promise<ProductionOrder> {
  await requireReference(work, PartEntity, 'part', partId, 'partId')
  await requireReference(work, PartnerEntity, 'customer', customerId, 'customerId')
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
  work.audit({ action: 'planned', subject: words, subjectId: order.id, after: order })
  return loadOrder(work.manager, order.id)
}

interface At {
  readonly row: ProductionOrderRow
  readonly order: ProductionOrder
  readonly part: PartRow
}

/** The order, where this act comes next and no gate stands before it. @throws {ServerError} `order_not_so_far`, `gate_closed`. */
async function atAct(work: Work, id: string, version: number, act: Act): Promise<At> {
  const row = await loadAt(work, ProductionOrderEntity, words, id, version)
  const order = await loadOrder(work.manager, id)
  if (order.next?.act !== act)
    throw new ServerError('order_not_so_far', `${order.code} cannot ${actWords[act]} now.`, { state: order.state, next: order.next?.act ?? null })
  requireGates(`${order.code} cannot ${actWords[act]} yet`, order.next.gates)
  return { row, order, part: await work.manager.findOneByOrFail(PartEntity, { id: row.partId }) }
}

/** Releases an order: the lot that its pieces will be is there before the first check. */
export async function releaseOrder(work: Work, id: string, version: number): Promise<ProductionOrder> {
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
  await work.manager.insert(LotEntity, { ...lot })
  work.audit({ action: 'given', subject: 'lot', subjectId: lot.id, after: lot })
  await saveNext(work, ProductionOrderEntity, words, 'released', row, { state: 'released', lotId: lot.id, releasedAt: work.now })
  return loadOrder(work.manager, id)
}

/** Opens what a step asks for at a moment; a gate holds what of the lot is free. */
async function openAt(
  work: Work,
  { row, part }: At,
  of: { operationId: string; moment: Moment; quantity: number; occasionId: string },
): Promise<void> {
  const coming: Coming = { ...of, part, subject: 'lot', supplierId: null, customerId: row.customerId, at: work.now }
  const lotId = row.lotId ?? ''
  const line = await placeFor(work.manager, 'production')
  const entries = (await considerAt(work.manager, coming, work.newId)).map((considered) => ({
    coming,
    considered,
    opening: { lotIds: [lotId], holdPlaceId: considered.point.holdPlaceId ?? line.id, occasionId: of.occasionId },
  }))
  await openTogether(work, entries, holdLot)
}

export async function startStep(work: Work, id: string, version: number): Promise<ProductionOrder> {
  const at = await atAct(work, id, version, 'start')
  const step = await work.manager.findOneByOrFail(OrderStepEntity, { id: at.order.next?.stepId ?? '' })
  const { operationId } = step
  const occasionId = await noteOccasion(work, 'stepStarted', 'start', { operationId, partnerId: at.row.customerId, orderNumber: at.row.code })
  await work.manager.update(OrderStepEntity, { id: step.id }, { state: 'running', startId: occasionId })
  await openAt(work, at, { operationId, moment: 'start', quantity: at.order.next?.quantity ?? 0, occasionId })
  await saveNext(work, ProductionOrderEntity, words, 'step started', at.row, {})
  return loadOrder(work.manager, id)
}

/**
 * Confirms the running step: at the first one its good pieces come to be, at a later one all that is free is accounted for.
 * @throws {ServerError} `step_does_not_add_up`, `order_not_so_far`, `gate_closed`.
 */
export async function confirmStep(
  work: Work,
  id: string,
  version: number,
  { good, scrapped, setAside }: { good: number; scrapped: number; setAside: number },
): Promise<ProductionOrder> {
  const at = await atAct(work, id, version, 'confirm')
  const step = await work.manager.findOneByOrFail(OrderStepEntity, { id: at.order.next?.stepId ?? '' })
  const isFirst = step.position === 1
  const there = at.order.next?.quantity ?? 0
  const together = good + scrapped + setAside
  const isWhole = [good, scrapped, setAside].every((value) => Number.isSafeInteger(value) && value >= 0)
  if (!isWhole || (isFirst ? together < 1 || together > there : together !== there))
    throw new ServerError(
      'step_does_not_add_up',
      `Received ${good} good, ${scrapped} scrapped and ${setAside} set aside, ${together} together; ${isFirst ? `the order is for ${there}` : `${there} came to the step`}.`,
      { field: 'good', together, there },
    )
  const { operationId } = step
  const occasionId = await noteOccasion(work, 'stepConfirmed', 'end', { operationId, partnerId: at.row.customerId, orderNumber: at.row.code })
  await work.manager.update(OrderStepEntity, { id: step.id }, { state: 'confirmed', endId: occasionId, good, scrapped, setAside })
  const lotId = at.row.lotId ?? ''
  const line = { placeId: (await placeFor(work.manager, 'production')).id, standing: 'released' } as const
  if (isFirst) await postMovement(work, lotId, { containerId: null, quantity: together, from: null, to: line }, 'made', { occasionId })
  const lose = async (quantity: number, to: 'scrapped' | 'quarantined') => {
    const kind = to === 'scrapped' ? 'scrappedAtStep' : 'setAsideAtStep'
    const placeId = (await placeFor(work.manager, to === 'scrapped' ? 'scrap' : 'quarantine')).id
    await postMovement(work, lotId, { containerId: null, quantity, from: line, to: { placeId, standing: to } }, kind, { occasionId })
  }
  if (scrapped > 0) await lose(scrapped, 'scrapped')
  if (setAside > 0) await lose(setAside, 'quarantined')
  if (good > 0) await openAt(work, at, { operationId, moment: 'end', quantity: good, occasionId })
  await saveNext(work, ProductionOrderEntity, words, 'step confirmed', at.row, {})
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
  const row = await loadAt(work, ProductionOrderEntity, words, id, version)
  if (row.state !== 'released' || row.lotId === null)
    throw new ServerError('order_not_so_far', `${row.code} is ${row.state}: pieces are issued to a released order.`, { state: row.state })
  const lot = await work.manager.findOneBy(LotEntity, { id: lotId })
  if (!lot) throw new ServerError('not_found', `There is no lot with the id ${lotId}.`, { field: 'lotId' })
  if (lotId === row.lotId) throw new ServerError('order_not_so_far', `${row.code} cannot use its own lot.`, { field: 'lotId' })
  const occasionId = await noteOccasion(work, 'stepStarted', 'start', { orderNumber: row.code, fromPlaceId: placeId })
  const from = { placeId, standing: 'released' } as const
  const to = { placeId: (await placeFor(work.manager, 'production')).id, standing: 'used' } as const
  await postMovement(work, lotId, { containerId, quantity, from, to }, 'issued', { occasionId })
  await work.manager.insert(LotUseEntity, { id: work.newId(), fromLotId: lotId, toLotId: row.lotId, quantity, occasionId, at: work.now })
  await saveNext(work, ProductionOrderEntity, words, 'component issued', row, {})
  return loadOrder(work.manager, id)
}

/** Ends an order: what is released on the line goes to the store of the part. */
export async function finishOrder(work: Work, id: string, version: number): Promise<ProductionOrder> {
  const { row, part } = await atAct(work, id, version, 'finish')
  const toPlaceId = part.putAwayPlaceId ?? (await placeFor(work.manager, 'store')).id
  for (const { containerId, placeId, standing, quantity } of await loadBalances(work.manager, row.lotId ?? '')) {
    if (standing !== 'released' || placeId === toPlaceId) continue
    const to = { placeId: toPlaceId, standing } as const
    await postMovement(work, row.lotId ?? '', { containerId, quantity, from: { placeId, standing }, to }, 'putAway', {})
  }
  await saveNext(work, ProductionOrderEntity, words, 'finished', row, { state: 'finished', finishedAt: work.now })
  return loadOrder(work.manager, id)
}
