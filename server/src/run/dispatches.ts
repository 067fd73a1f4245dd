import { dispatchLife, may, type DispatchState } from '@nemawashi/core'
import type { Dispatch, PickInput } from '@nemawashi/contract'
import { PartEntity, PartnerEntity, PlaceEntity } from '../define/entities'
import type { Reader } from '../kernel/database'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { loadAt, requireReference, saveNext } from '../kernel/versioned'
import type { ConsideredPoint } from '../record/consider'
import { LotEntity, OccasionEntity, type LotRow } from '../stock/entities'
import { holdLot, openHold } from '../stock/holds'
import { requireStep } from '../stock/finerStandings'
import { postMovement } from '../stock/ledger'
import { placeFor } from '../stock/placeFor'
import { loadBalances, namedBalances } from '../stock/repository'
import { gateWords, keptBack, requireGates } from './checks'
import { askOfDispatch, callOffChecks, type Leaving } from './dispatchLoad'
import { dispatchHead, picksOf, plannedLines, returnsOf } from './dispatchRepository'
import { CustomerReturnEntity, DispatchEntity, DispatchPickEntity, type DispatchRow } from './entities'
import { noteOccasion } from './occasions'
import { openEach } from './openEach'
import type { Hold } from './openTogether'
import { checksOn } from './orderRepository'
import { operationsOf } from './repository'

export const dispatchWords = 'dispatch'

/** Released pieces of a lot at an inspection place: what came back and was freed waits there to be put away. */
async function freeWhereReturned(reader: Reader, lotId: string) {
  const bays = new Set((await reader.findBy(PlaceEntity, { purpose: 'inspection' })).map((place) => place.id))
  return (await namedBalances(reader, lotId)).filter(({ standing, placeId }) => standing === 'released' && bays.has(placeId))
}

export async function loadDispatch(reader: Reader, id: string): Promise<Dispatch> {
  const head = await dispatchHead(reader, id)
  if (!head) throw new ServerError('not_found', `There is no dispatch with the id ${id}.`)
  const returns = await returnsOf(reader, id)
  const found = await checksOn(reader, [id, ...returns.map((back) => back.id)])
  const leaving = found.get(id) ?? []
  const picks: Dispatch['picks'] = []
  for (const pick of await picksOf(reader, id))
    picks.push({ ...pick, backAndFree: pick.returned > 0 ? await freeWhereReturned(reader, pick.lotId) : [] })
  return {
    ...head,
    lines: await plannedLines(reader, id),
    picks,
    checks: [...found.values()].flat(),
    gates: head.state === 'planned' || head.state === 'picked' ? keptBack(leaving).map(gateWords) : [],
    returns,
  }
}

async function lotOf(work: Work, lotId: string, field: string): Promise<LotRow> {
  const lot = await work.manager.findOneBy(LotEntity, { id: lotId })
  if (!lot) throw new ServerError('reference_unknown', `The lot ${lotId} does not exist.`, { field })
  return lot
}

/** Opens what the operations of a kind ask for, of pieces of a lot; gates hold those at the place. */
async function openAt(
  work: Work,
  lot: LotRow,
  of: { kind: 'shipping' | 'return'; customerId: string; quantity: number; occasionId: string; placeId: string; containerId: string | null },
): Promise<void> {
  const part = await work.manager.findOneByOrFail(PartEntity, { id: lot.partId })
  const { orderNumber } = await work.manager.findOneByOrFail(OccasionEntity, { id: of.occasionId })
  const moment = of.kind === 'shipping' ? 'beforeDispatch' : 'arrival'
  for (const operationId of await operationsOf(work.manager, part.id, of.kind)) {
    const coming = {
      operationId,
      moment,
      part,
      supplierId: null,
      customerId: of.customerId,
      quantity: of.quantity,
      orderNumber,
      at: work.now,
    } as const
    const opening = ({ point }: ConsideredPoint) => ({ lotIds: [lot.id], holdPlaceId: point.holdPlaceId ?? of.placeId, occasionId: of.occasionId })
    // What comes back is on hold already.
    const hold: Hold = of.kind === 'return' ? openHold : (by, lotId, cause, within) => holdLot(by, lotId, cause, { ...within, placeId: of.placeId })
    const standings = [of.kind === 'return' ? 'onHold' : 'released'] as const
    await openEach(work, coming, lot.id, opening, { hold, where: { placeId: of.placeId, containerId: of.containerId, standings } })
  }
}

/** Takes released pieces to the door, and opens what is asked of each lot, and of all as one, before they leave. */
export async function pickLots(
  work: Work,
  of: { id: string; customerId: string; orderNumber: string },
  picks: readonly PickInput[],
): Promise<Leaving[]> {
  const { id, customerId } = of
  const door = await placeFor(work.manager, 'shipping')
  const byLot = new Map<string, { lot: LotRow; quantity: number }>()
  for (const [i, { lotId, containerId, placeId, quantity }] of picks.entries()) {
    const lot = await lotOf(work, lotId, `picks.${i}.lotId`)
    await requireStep(work, lotId, containerId, 'pick', `picks.${i}.lotId`)
    const place = await work.manager.findOneBy(PlaceEntity, { id: placeId })
    if (place?.purpose !== 'store')
      throw new ServerError('reference_unknown', 'Pieces are picked from a place with the purpose "store".', { field: `picks.${i}.placeId` })
    const from = { placeId, standing: 'released' } as const
    const to = { placeId: door.id, standing: 'released' } as const
    await postMovement(work, lotId, { containerId, quantity, from, to }, 'picked', { occasionId: id })
    await work.manager.insert(DispatchPickEntity, { id: work.newId(), dispatchId: id, lotId, containerId, quantity, fromPlaceId: placeId })
    byLot.set(lotId, { lot, quantity: quantity + (byLot.get(lotId)?.quantity ?? 0) })
  }
  const leaving: Leaving[] = []
  for (const { lot, quantity } of byLot.values()) leaving.push({ part: await work.manager.findOneByOrFail(PartEntity, { id: lot.partId }), quantity })
  await askOfDispatch(work, of, 'beforeDispatch', leaving)
  for (const { lot, quantity } of byLot.values())
    await openAt(work, lot, { kind: 'shipping', customerId, quantity, occasionId: id, placeId: door.id, containerId: null })
  return leaving
}

/**
 * Picks released pieces for a customer at once: they wait at the door until they are sent. What is asked before picking is asked with it,
 * and keeps them there. @throws {CoreError} `movement_exceeds_balance`.
 */
export async function pickDispatch(
  work: Work,
  { customerId, orderNumber, picks }: { customerId: string; orderNumber: string; picks: readonly PickInput[] },
): Promise<Dispatch> {
  await requireReference(work, PartnerEntity, 'customer', customerId, 'customerId')
  const door = await placeFor(work.manager, 'shipping')
  const id = await noteOccasion(work, 'dispatch', 'beforeDispatch', { partnerId: customerId, orderNumber, placeId: door.id })
  const picked = { state: 'picked', leavesOn: null, pickedAt: work.now, pickedById: work.personId } as const
  const row: DispatchRow = { id, code: await work.nextCode('S'), ...picked, sentAt: null, version: 1 }
  await work.manager.insert(DispatchEntity, { ...row })
  work.audit({ action: 'picked', subject: dispatchWords, subjectId: id, after: { customerId, orderNumber, picks } })
  const of = { id, customerId, orderNumber }
  await askOfDispatch(work, of, 'beforePicking', await pickLots(work, of, picks))
  return loadDispatch(work.manager, id)
}

const stateWords = {
  planned: 'is only planned',
  picked: 'is picked already',
  sent: 'is on its way already',
  cancelled: 'is called off already',
} as const

/** What a dispatch comes to by an act. @throws {ServerError} `not_picked`, `already_picked`, `already_sent` where its state does not allow it. */
export function requireLife({ code, state }: DispatchRow, act: keyof typeof dispatchLife): DispatchState {
  if (may(dispatchLife, act, state)) return dispatchLife[act].to
  const error = { planned: 'not_picked', picked: 'already_picked', sent: 'already_sent', cancelled: 'already_sent' } as const
  throw new ServerError(error[state], `${code} ${stateWords[state]}.`, { state })
}

/** @throws {ServerError} `gate_closed`, `already_sent`; {CoreError} `movement_exceeds_balance` where pieces are no longer released. */
export async function sendDispatch(work: Work, id: string, version: number): Promise<Dispatch> {
  const row = await loadAt(work, DispatchEntity, dispatchWords, id, version)
  const state = requireLife(row, 'send')
  const { checks } = await loadDispatch(work.manager, id)
  requireGates(`${row.code} may not leave`, keptBack(checks))
  const door = await placeFor(work.manager, 'shipping')
  const away = await placeFor(work.manager, 'outside')
  for (const { lotId, containerId, quantity } of await work.manager.findBy(DispatchPickEntity, { dispatchId: id })) {
    await requireStep(work, lotId, containerId, 'ship', 'lotId')
    const movement = {
      containerId,
      quantity,
      from: { placeId: door.id, standing: 'released' },
      to: { placeId: away.id, standing: 'shipped' },
    } as const
    await postMovement(work, lotId, movement, 'shipped', { occasionId: id })
  }
  await saveNext(work, DispatchEntity, dispatchWords, 'sent', row, { state, sentAt: work.now })
  return loadDispatch(work.manager, id)
}

/** Calls a dispatch off; pieces that are held or were decided on meanwhile stay where they are. */
export async function cancelDispatch(work: Work, id: string, version: number): Promise<Dispatch> {
  const row = await loadAt(work, DispatchEntity, dispatchWords, id, version)
  const state = requireLife(row, 'callOff')
  const door = await placeFor(work.manager, 'shipping')
  for (const { lotId, containerId, quantity, fromPlaceId } of await work.manager.findBy(DispatchPickEntity, { dispatchId: id })) {
    const spot = (await loadBalances(work.manager, lotId)).find(
      (balance) => balance.standing === 'released' && balance.placeId === door.id && balance.containerId === containerId,
    )
    const free = Math.min(quantity, spot?.quantity ?? 0)
    if (free === 0) continue
    const to = { placeId: fromPlaceId, standing: 'released' } as const
    await postMovement(work, lotId, { containerId, quantity: free, from: { placeId: door.id, standing: 'released' }, to }, 'putAway', {})
  }
  await callOffChecks(work, id, `${row.code} was called off`)
  await saveNext(work, DispatchEntity, dispatchWords, 'called off', row, { state })
  return loadDispatch(work.manager, id)
}

/** Takes back what a customer returns: it is on hold whatever is asked for, and stays so until somebody decides. */
export async function takeBack(
  work: Work,
  dispatchId: string,
  { pickId, quantity, reason }: { pickId: string; quantity: number; reason: string },
): Promise<Dispatch> {
  const row = await work.manager.findOneBy(DispatchEntity, { id: dispatchId })
  const pick = await work.manager.findOneBy(DispatchPickEntity, { id: pickId, dispatchId })
  if (!row || !pick) throw new ServerError('not_found', 'There is no such dispatch, or nothing of it was picked so.')
  if (row.state !== 'sent') throw new ServerError('not_sent', `${row.code} has not left: nothing of it can come back.`, { state: row.state })
  const { partnerId, orderNumber } = await work.manager.findOneByOrFail(OccasionEntity, { id: dispatchId })
  const away = await placeFor(work.manager, 'outside')
  const bay = await placeFor(work.manager, 'inspection')
  const lot = await lotOf(work, pick.lotId, 'pickId')
  const id = await noteOccasion(work, 'return', 'arrival', { partnerId, orderNumber, placeId: bay.id, fromPlaceId: away.id })
  const back = { id, code: await work.nextCode('B'), dispatchId, lotId: lot.id, quantity, reason }
  await work.manager.insert(CustomerReturnEntity, back)
  work.audit({ action: 'came back', subject: 'customer return', subjectId: id, after: back })
  const from = { placeId: away.id, standing: 'shipped' } as const
  const to = { placeId: bay.id, standing: 'onHold' } as const
  await postMovement(work, lot.id, { containerId: pick.containerId, quantity, from, to }, 'cameBack', { occasionId: id })
  await openAt(work, lot, { kind: 'return', customerId: partnerId ?? '', quantity, occasionId: id, placeId: bay.id, containerId: pick.containerId })
  return loadDispatch(work.manager, dispatchId)
}
