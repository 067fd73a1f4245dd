import { fillLines, expectedTransitions, isOpen, canTransition, type ExpectedState } from '@nemawashi/core'
import type { ExpectedDelivery, ExpectedInput, LoadFacts } from '@nemawashi/contract'
import { PartEntity } from '../../define/masters/entities'
import { requirePartner } from '../../define/masters/partners'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, requireReference, saveNext } from '../../kernel/work/versioned'
import { cancelInspection } from '../../opening/cancel'
import { InspectionEntity, type InspectionRow } from '../../inspections/entities'
import { gateWords } from './checks'
import { inspectionsAsked } from './deliveries'
import { ExpectedDeliveryEntity, ExpectedLineEntity, type ExpectedDeliveryRow, type ExpectedLineRow } from './expectedEntities'
import { expectedHead, expectedLines, type AnnouncedLine } from './expectedRepository'
import { lotsOf } from './repository'
import { noteOccasion } from '../../opening/occasions'
import { openTogether } from '../../opening/openTogether'
import { asWritten, checkQuantity } from '../purchasing/purchaseOrders'
import { fromSupplier, loadOf, loadReceivingRoute, findPutAwayDestination, type Arriving } from './receipt'

const words = 'expected delivery'

/** Gates on its load that keep the receipt from being posted: those that nobody has finished. What they found goes on to the goods. */
const keepsOut = ({ isGate, state }: Pick<InspectionRow, 'isGate' | 'state'>) => isGate && isOpen(state)

/** What was announced, held against what came: the delivery that its receipt made has its id. */
async function heldAgainst(
  reader: Reader,
  id: string,
  announced: readonly AnnouncedLine[],
  isReceived: boolean,
): Promise<Pick<ExpectedDelivery, 'lines' | 'alsoCame'>> {
  if (!isReceived) return { lines: announced.map((line) => ({ ...line, came: null })), alsoCame: [] }
  const lots = await lotsOf(reader, id)
  const arrived = new Map<string, number>()
  for (const { partId, quantity } of lots) arrived.set(partId, (arrived.get(partId) ?? 0) + quantity)
  const fills = fillLines(announced, arrived)
  const known = new Set(announced.map(({ partId }) => partId))
  return {
    lines: announced.map((line, i) => ({ ...line, came: fills[i]?.received ?? 0 })),
    alsoCame: lots
      .filter(({ partId }) => !known.has(partId))
      .map(({ partId, partCode, partName, unit, quantity }) => ({ partId, partCode, partName, unit, quantity })),
  }
}

export async function loadExpected(reader: Reader, id: string): Promise<ExpectedDelivery> {
  const head = await expectedHead(reader, id)
  if (!head) throw new ServerError('not_found', `There is no expected delivery with the id ${id}.`)
  const { carrier, vehicle, driver, seal, loadNumber, ...shown } = head
  const inspections = await inspectionsAsked(reader, { subjectId: id })
  return {
    ...shown,
    load: { carrier, vehicle, driver, seal, loadNumber, inspections },
    gateReasons: inspections.filter(keepsOut).map(gateWords),
    ...(await heldAgainst(reader, id, await expectedLines(reader, id), head.state === 'received')),
  }
}

/** Opens what is asked of its load at a moment before the receipt. */
async function openFor(
  work: Work,
  { id, supplierId, orderNumber }: ExpectedDeliveryRow,
  moment: 'announced' | 'registered',
  occasionId: string,
): Promise<void> {
  const from = await fromSupplier(work.manager, { supplierId, orderNumber, at: work.now })
  const lines: Arriving[] = []
  for (const { partId, quantity } of await work.manager.findBy(ExpectedLineEntity, { deliveryId: id }))
    lines.push({ ...from, part: await work.manager.findOneByOrFail(PartEntity, { id: partId }), quantity })
  const way = await loadReceivingRoute(
    work.manager,
    lines.map(({ part }) => part),
  )
  const asked = await loadOf(way, lines, work.newId, moment)
  const entries = []
  for (const entry of asked)
    entries.push({
      ...entry,
      opening: { lotIds: [], loadId: id, holdPlaceId: (await findPutAwayDestination(work.manager, [entry], null)).placeId, occasionId },
    })
  await openTogether(work, entries)
}

/** Refuses what cannot be done to it in its state. @throws {ServerError} `not_expected`. */
function assertTransition(row: ExpectedDeliveryRow, act: keyof typeof expectedTransitions): ExpectedState {
  const { code, state } = row
  if (!canTransition(expectedTransitions, act, state))
    throw new ServerError('not_expected', `${code} is ${state === 'turnedAway' ? 'turned away' : state} already.`, { state })
  return expectedTransitions[act].to
}

const occasionOf = ({ supplierId, orderNumber }: Pick<ExpectedDeliveryRow, 'supplierId' | 'orderNumber'>) => ({ partnerId: supplierId, orderNumber })

/** The same goods of the same order, announced a second time while the first are still to come, are mostly a slip. @throws {ServerError} `already_announced`. */
async function refuseSecondAnnouncement(
  work: Work,
  { supplierId, orderNumber, lines }: Pick<ExpectedInput, 'supplierId' | 'orderNumber' | 'lines'>,
): Promise<void> {
  const wanted = goodsOf(lines)
  for (const state of ['announced', 'registered'] as const)
    for (const { id, code } of await work.manager.findBy(ExpectedDeliveryEntity, { supplierId, orderNumber, state }))
      if (goodsOf(await work.manager.findBy(ExpectedLineEntity, { deliveryId: id })) === wanted)
        throw new ServerError('already_announced', `${code} announces the same goods of this order, and has not come yet.`, {
          field: 'orderNumber',
          received: orderNumber,
          delivery: code,
        })
}

const goodsOf = (lines: readonly { readonly partId: string; readonly quantity: number }[]) =>
  lines
    .map(({ partId, quantity }) => `${partId} ${quantity}`)
    .sort()
    .join()

/** Announces a delivery, or registers one that nobody announced. @throws {ServerError} `reference_unknown`, `already_announced`; {CoreError} `quantity_invalid`. */
export async function announce(work: Work, { lines, load, isHere, isAnother, ...said }: ExpectedInput): Promise<ExpectedDelivery> {
  const body = { ...said, orderNumber: await asWritten(work.manager, said.supplierId, said.orderNumber) }
  await requirePartner(work, 'supplier', body.supplierId, 'supplierId')
  for (const [i, { partId, quantity }] of lines.entries()) {
    await requireReference(work, PartEntity, 'part', partId, `lines.${i}.partId`)
    checkQuantity(quantity, i)
  }
  if (!isAnother) await refuseSecondAnnouncement(work, { ...body, lines })
  const kind = isHere ? 'deliveryRegistered' : 'deliveryAnnounced'
  const moment = isHere ? 'registered' : 'announced'
  const occasionId = await noteOccasion(work, kind, moment, occasionOf(body))
  const row: ExpectedDeliveryRow = {
    ...body,
    ...load,
    id: work.newId(),
    code: await work.nextCode('D'),
    state: moment,
    announcedId: isHere ? null : occasionId,
    registeredId: isHere ? occasionId : null,
    reason: '',
    version: 1,
  }
  await work.manager.insert(ExpectedDeliveryEntity, { ...row })
  for (const [position, line] of lines.entries()) {
    const kept: ExpectedLineRow = { id: work.newId(), deliveryId: row.id, position, ...line }
    await work.manager.insert(ExpectedLineEntity, { ...kept })
  }
  work.audit({ action: moment, subject: words, subjectId: row.id, after: { ...row, lines } })
  await openFor(work, row, moment, occasionId)
  return loadExpected(work.manager, row.id)
}

/** Its vehicle is at the dock. @throws {ServerError} `not_expected`, `stale_version`. */
export async function register(work: Work, id: string, version: number, load: LoadFacts): Promise<ExpectedDelivery> {
  const current = await loadAt(work, ExpectedDeliveryEntity, words, id, version)
  const state = assertTransition(current, 'register')
  const registeredId = await noteOccasion(work, 'deliveryRegistered', 'registered', occasionOf(current))
  await saveNext(work, ExpectedDeliveryEntity, words, 'registered', current, { ...load, state, registeredId })
  await openFor(work, current, 'registered', registeredId)
  return loadExpected(work.manager, id)
}

/** It goes back as it came. What is open of its load is called off. @throws {ServerError} `not_expected`, `stale_version`. */
export async function refuseDelivery(work: Work, id: string, version: number, reason: string): Promise<ExpectedDelivery> {
  const current = await loadAt(work, ExpectedDeliveryEntity, words, id, version)
  const state = assertTransition(current, 'turnAway')
  await saveNext(work, ExpectedDeliveryEntity, words, 'turned away', current, { state, reason }, reason)
  for (const inspection of await work.manager.findBy(InspectionEntity, { subjectId: id, subjectKind: 'load' }))
    if (inspection.state !== 'decided' && inspection.state !== 'cancelled')
      await cancelInspection(work, inspection, `${current.code} turned away: ${reason}`)
  return loadExpected(work.manager, id)
}

/** What its load was asked before the receipt, as the receipt goes on from it. */
export interface Foreseen {
  readonly id: string
  readonly code: string
  /** Inspections of the load that were not acceptable: they hold what came. */
  readonly holding: readonly InspectionRow[]
}

/**
 * Takes an expected delivery as received. A gate on its load that nobody has finished keeps the receipt from being posted.
 * @throws {ServerError} `not_found`, `not_expected`, `gate_closed`.
 */
export async function receiveExpected(work: Work, id: string, supplierId: string): Promise<Foreseen> {
  const current = await work.manager.findOneBy(ExpectedDeliveryEntity, { id })
  if (!current) throw new ServerError('not_found', `There is no expected delivery with the id ${id}.`, { field: 'expectedId', received: id })
  const state = assertTransition(current, 'receive')
  if (current.supplierId !== supplierId)
    throw new ServerError('not_expected', `${current.code} is expected from another supplier.`, { field: 'supplierId', received: supplierId })
  const inspections = await work.manager.findBy(InspectionEntity, { subjectId: id, subjectKind: 'load' })
  const closed = (await inspectionsAsked(work.manager, { subjectId: id })).filter(keepsOut)
  if (closed[0])
    throw new ServerError('gate_closed', `The receipt of ${current.code} cannot be posted: ${closed.map(gateWords).join('; ')}.`, {
      reasons: closed.map(gateWords),
      inspectionId: closed[0].id,
    })
  await saveNext(work, ExpectedDeliveryEntity, words, 'received', current, { state })
  const holding = inspections.filter((of) => of.state === 'finished' && of.verdict === 'notAcceptable' && (of.isGate || of.onFailure === 'hold'))
  return { id, code: current.code, holding }
}
