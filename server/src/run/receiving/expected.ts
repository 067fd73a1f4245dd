import { expectedTransitions, canTransition, type ExpectedState } from '@nemawashi/core'
import type { ExpectedDelivery, ExpectedInput, LoadFacts } from '@nemawashi/contract'
import { requirePartner } from '../../define/masters/partners'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, loadReference, saveNext } from '../../kernel/work/versioned'
import { cancelInspection } from '../../opening/cancel'
import { ExpectedDeliveryEntity, ExpectedLineEntity, type ExpectedDeliveryRow, type ExpectedLineRow } from './expectedEntities'
import { noteOccasion } from '../../opening/occasions'
import { openTogether } from '../../opening/openTogether'
import { asWritten, checkLineQuantity } from '../purchasing/purchaseOrders'
import { fromSupplier, loadOf, loadReceivingRoute, findPutAwayDestination, type Arriving } from './receipt'
import { loadExpected } from './loadExpected'
import { partRows } from '../../define/masters/rows'
import { inspectionRows } from '../../inspections/rows'

export const expectedWords = 'expected delivery'

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
    lines.push({ ...from, part: await partRows.load(work.manager, partId), quantity })
  const way = await loadReceivingRoute(
    work.manager,
    lines.map(({ part }) => part),
  )
  const load = await loadOf(way, lines, work.newId, moment)
  const entries = []
  for (const entry of load)
    entries.push({
      ...entry,
      opening: { lotIds: [], loadId: id, holdPlaceId: (await findPutAwayDestination(work.manager, [entry], null)).placeId, occasionId },
    })
  await openTogether(work, entries)
}

/** Refuses what cannot be done to it in its state. @throws {ServerError} `not_expected`. */
export function assertTransition(row: ExpectedDeliveryRow, act: keyof typeof expectedTransitions): ExpectedState {
  const { code, state } = row
  if (!canTransition(expectedTransitions, act, state))
    throw new ServerError('not_expected', `${code} is ${state === 'turnedAway' ? 'refused' : state} already.`, { state })
  return expectedTransitions[act].to
}

const occasionOf = ({ supplierId, orderNumber }: Pick<ExpectedDeliveryRow, 'supplierId' | 'orderNumber'>) => ({
  partnerId: supplierId,
  orderNumber,
})

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

export const goodsOf = (lines: readonly { readonly partId: string; readonly quantity: number }[]) =>
  lines
    .map(({ partId, quantity }) => `${partId} ${quantity}`)
    .sort()
    .join()

/** Announces a delivery, or registers one that nobody announced. @throws {ServerError} `reference_unknown`, `already_announced`; {CoreError} `quantity_invalid`. */
export async function announce(work: Work, { lines, load, isHere, isAnother, ...said }: ExpectedInput): Promise<ExpectedDelivery> {
  const body = { ...said, orderNumber: await asWritten(work.manager, said.supplierId, said.orderNumber) }
  await requirePartner(work, 'supplier', body.supplierId, 'supplierId')
  for (const [i, { partId, quantity }] of lines.entries()) {
    const { unit } = await loadReference(work, partRows, 'part', partId, `lines.${i}.partId`)
    checkLineQuantity(quantity, i, unit)
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
  work.audit({ action: moment, subject: expectedWords, subjectId: row.id, after: { ...row, lines } })
  await openFor(work, row, moment, occasionId)
  return loadExpected(work.manager, row.id)
}

/** Its vehicle is at the dock. @throws {ServerError} `not_expected`, `stale_version`. */
export async function register(work: Work, id: string, version: number, load: LoadFacts): Promise<ExpectedDelivery> {
  const current = await loadAt(work, ExpectedDeliveryEntity, expectedWords, id, version)
  const state = assertTransition(current, 'register')
  const registeredId = await noteOccasion(work, 'deliveryRegistered', 'registered', occasionOf(current))
  await saveNext(work, ExpectedDeliveryEntity, expectedWords, 'registered', current, { ...load, state, registeredId })
  await openFor(work, current, 'registered', registeredId)
  return loadExpected(work.manager, id)
}

/** It goes back as it came. What is open of its load is called off. @throws {ServerError} `not_expected`, `stale_version`. */
export async function refuseDelivery(work: Work, id: string, version: number, reason: string): Promise<ExpectedDelivery> {
  const current = await loadAt(work, ExpectedDeliveryEntity, expectedWords, id, version)
  const state = assertTransition(current, 'refuse')
  await saveNext(work, ExpectedDeliveryEntity, expectedWords, 'refused', current, { state, reason }, reason)
  for (const inspection of await inspectionRows.list(work.manager, { subjectId: id, subjectKind: 'load' }))
    if (inspection.state !== 'decided' && inspection.state !== 'cancelled')
      await cancelInspection(work, inspection, `${current.code} refused: ${reason}`)
  return loadExpected(work.manager, id)
}
