import {
  dispatchTransitions,
  eventsOf,
  holdReaches,
  keepEvents,
  canTransition,
  setApart,
  takeFrom,
  type Balance,
  type DispatchState,
} from '@nemawashi/core'
import type { BalanceRow, Dispatch, PickInput } from '@nemawashi/contract'
import { PartEntity, PlaceEntity } from '../../define/masters/entities'
import { requirePartner } from '../../define/masters/partners'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, saveNext } from '../../kernel/work/versioned'
import type { ConsideredPoint } from '../../opening/evaluatePoints'
import { LotEntity, OccasionEntity, type LotRow } from '../../stock/ledger/entities'
import { holdLot, openHold } from '../../stock/holds/holds'
import { requireStep } from '../../stock/restrictions/finerStandings'
import { movePieces } from '../../stock/ledger/ledger'
import { takePieces } from '../../stock/units/pieces'
import { placeFor, placeOfCustomers } from '../../stock/putAway/placeFor'
import { loadBalances, namedBalances, openHolds } from '../../stock/ledger/repository'
import { gateWords, keptBack, requireGates } from '../receiving/checks'
import { askOfDispatch, callOffChecks, type Leaving } from './dispatchLoad'
import { cameBackOf, dispatchHead, picksOf, plannedLines, returnsOf, type DispatchHead } from './repository'
import { CustomerReturnEntity, DispatchEntity, DispatchPickEntity, type DispatchPickRow, type DispatchRow } from './entities'
import { noteOccasion } from '../../opening/occasions'
import { openEach } from '../../opening/openEach'
import type { Hold } from '../../opening/openTogether'
import { checksOn } from '../production/repository'
import { operationsOf } from '../receiving/repository'

export const dispatchWords = 'dispatch'

/** Released pieces of a lot at an inspection place: what came back and was freed waits there to be put away. */
async function freeWhereReturned(reader: Reader, lotId: string) {
  const bays = new Set((await reader.findBy(PlaceEntity, { purpose: 'inspection' })).map((place) => place.id))
  return (await namedBalances(reader, lotId)).filter(({ standing, placeId }) => standing === 'released' && bays.has(placeId))
}

/** What of a pick is at the door, free or on hold; once it has left, what left. */
function leavingOf(
  { id, state }: DispatchHead,
  pick: { readonly containerId: string | null; readonly quantity: number; readonly shipped: number | null },
  balances: readonly BalanceRow[],
): { leaving: number; onHold: number } {
  if (state === 'sent') return { leaving: pick.shipped ?? 0, onHold: 0 }
  const own = balances.filter(
    (spot) => spot.placePurpose === 'shipping' && spot.containerId === pick.containerId && holdReaches({ containerId: null, eventId: id }, spot),
  )
  const count = (standing: Balance['standing']) =>
    Math.min(
      pick.quantity,
      own.filter((spot) => spot.standing === standing).reduce((sum, { quantity }) => sum + quantity, 0),
    )
  return { leaving: count('released'), onHold: count('onHold') }
}

export async function loadDispatch(reader: Reader, id: string): Promise<Dispatch> {
  const head = await dispatchHead(reader, id)
  if (!head) throw new ServerError('not_found', `There is no dispatch with the id ${id}.`)
  const returns = await returnsOf(reader, id)
  const found = await checksOn(reader, [id, ...returns.map((back) => back.id)])
  const leaving = found.get(id) ?? []
  const picks: Dispatch['picks'] = []
  for (const { containerId, shipped, ...pick } of await picksOf(reader, id)) {
    const own = leavingOf(head, { ...pick, containerId, shipped }, await namedBalances(reader, pick.lotId))
    picks.push({ ...pick, ...own, backAndFree: pick.returned > 0 ? await freeWhereReturned(reader, pick.lotId) : [] })
  }
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

/** Opens what the operations of a kind ask for, of the pieces of a lot that the event set apart; gates hold those. */
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
    const { occasionId, containerId } = of
    const opening = ({ point }: ConsideredPoint) => ({
      lotIds: [lot.id],
      holdPlaceId: point.holdPlaceId ?? of.placeId,
      occasionId,
      eventId: occasionId,
    })
    // What comes back is on hold already.
    const hold: Hold = of.kind === 'return' ? openHold : holdLot
    const standings = [of.kind === 'return' ? 'onHold' : 'released'] as const
    await openEach(work, coming, lot.id, opening, { hold, where: { containerId, eventId: occasionId, standings } })
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
    for (const { spot, quantity: taken } of await takePieces(work, lotId, { containerId, placeId, standing: 'released', quantity })) {
      const to = { placeId: door.id, standing: 'released', sublot: setApart(spot.sublot, id) } as const
      await movePieces(work, lotId, { spot, quantity: taken, to }, 'picked', { occasionId: id })
    }
    const pick = { id: work.newId(), dispatchId: id, lotId, containerId, quantity, fromPlaceId: placeId, shipped: null }
    await work.manager.insert(DispatchPickEntity, pick)
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
  await requirePartner(work, 'customer', customerId, 'customerId')
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
export function requireLife({ code, state }: DispatchRow, act: keyof typeof dispatchTransitions): DispatchState {
  if (canTransition(dispatchTransitions, act, state)) return dispatchTransitions[act].to
  const error = { planned: 'not_picked', picked: 'already_picked', sent: 'already_sent', cancelled: 'already_sent' } as const
  throw new ServerError(error[state], `${code} ${stateWords[state]}.`, { state })
}

/** Pieces of a dispatch at the door, in a standing: those that were picked for it, and no others of their lot. */
async function atDoor(
  work: Work,
  { dispatchId, lotId, containerId }: Pick<DispatchPickRow, 'dispatchId' | 'lotId' | 'containerId'>,
  standing: Balance['standing'],
): Promise<Balance[]> {
  const door = await placeFor(work.manager, 'shipping')
  const own = { containerId: null, eventId: dispatchId }
  return (await loadBalances(work.manager, lotId)).filter(
    (spot) => spot.placeId === door.id && spot.standing === standing && spot.containerId === containerId && holdReaches(own, spot),
  )
}

/** @throws {ServerError} `gate_closed` where pieces of it are on hold at the door. */
async function requireNoneHeld(work: Work, { code }: DispatchRow, picks: readonly DispatchPickRow[]): Promise<void> {
  for (const pick of picks) {
    const held = await atDoor(work, pick, 'onHold')
    if (held.length === 0) continue
    const holding = (await openHolds(work.manager, pick.lotId, null)).filter((hold) => held.some((spot) => holdReaches(hold, spot)))
    const count = held.reduce((sum, { quantity }) => sum + quantity, 0)
    const cause = holding.length > 0 ? ` for ${[...new Set(holding.map((of) => of.code))].join(', ')}` : ''
    const reasons = [`${count} of its pieces ${count === 1 ? 'is' : 'are'} on hold${cause}`]
    throw new ServerError('gate_closed', `${code} may not leave: ${reasons.join('; ')}.`, { reasons, inspectionId: holding[0]?.id ?? null })
  }
}

/**
 * Lets a dispatch leave with the pieces that were picked for it and are still free; what a decision took out of it stays behind.
 * @throws {ServerError} `gate_closed`, `already_sent`, `nothing_there` where none of its pieces is left.
 */
export async function sendDispatch(work: Work, id: string, version: number): Promise<Dispatch> {
  const row = await loadAt(work, DispatchEntity, dispatchWords, id, version)
  const state = requireLife(row, 'send')
  const { checks } = await loadDispatch(work.manager, id)
  requireGates(`${row.code} may not leave`, keptBack(checks))
  const away = await placeOfCustomers(work.manager)
  const picks = await work.manager.findBy(DispatchPickEntity, { dispatchId: id })
  await requireNoneHeld(work, row, picks)
  let together = 0
  for (const pick of picks) {
    const own = takeFrom(await atDoor(work, pick, 'released'), pick.quantity)
    if (own.length > 0) await requireStep(work, pick.lotId, pick.containerId, 'ship', 'lotId')
    let shipped = 0
    for (const { spot, quantity } of own) {
      await movePieces(work, pick.lotId, { spot, quantity, to: { placeId: away.id, standing: 'shipped' } }, 'shipped', { occasionId: id })
      shipped += quantity
    }
    await work.manager.update(DispatchPickEntity, { id: pick.id }, { shipped })
    together += shipped
  }
  if (together === 0)
    throw new ServerError('nothing_there', `${row.code} has no pieces left: what was picked for it was decided on otherwise. Call it off.`, {
      field: 'picks',
    })
  await saveNext(work, DispatchEntity, dispatchWords, 'sent', row, { state, sentAt: work.now })
  return loadDispatch(work.manager, id)
}

/** Calls a dispatch off; pieces that are held or were decided on meanwhile stay where they are. */
export async function cancelDispatch(work: Work, id: string, version: number): Promise<Dispatch> {
  const row = await loadAt(work, DispatchEntity, dispatchWords, id, version)
  const state = requireLife(row, 'callOff')
  for (const pick of await work.manager.findBy(DispatchPickEntity, { dispatchId: id })) {
    for (const { spot, quantity } of takeFrom(await atDoor(work, pick, 'released'), pick.quantity)) {
      const to = { placeId: pick.fromPlaceId, standing: 'released', sublot: keepEvents(spot.sublot, (eventId) => eventId !== id) } as const
      await movePieces(work, pick.lotId, { spot, quantity, to }, 'putAway', { occasionId: id })
    }
  }
  await callOffChecks(work, id, `${row.code} was called off`)
  await saveNext(work, DispatchEntity, dispatchWords, 'called off', row, { state })
  return loadDispatch(work.manager, id)
}

/** Whether pieces left with this dispatch, and with no later one. */
const isSentWith = (sublot: string, dispatchId: string) => eventsOf(sublot).at(-1) === dispatchId

/** Takes back what a customer returns: it is on hold whatever is asked for, and stays so until somebody decides. */
export async function receiveReturn(
  work: Work,
  dispatchId: string,
  { pickId, quantity, reason }: { pickId: string; quantity: number; reason: string },
): Promise<Dispatch> {
  const row = await work.manager.findOneBy(DispatchEntity, { id: dispatchId })
  const pick = await work.manager.findOneBy(DispatchPickEntity, { id: pickId, dispatchId })
  if (!row || !pick) throw new ServerError('not_found', 'There is no such dispatch, or nothing of it was picked so.')
  if (row.state !== 'sent') throw new ServerError('not_sent', `${row.code} has not left: nothing of it can come back.`, { state: row.state })
  const { partnerId, orderNumber } = await work.manager.findOneByOrFail(OccasionEntity, { id: dispatchId })
  const bay = await placeFor(work.manager, 'inspection')
  const left = pick.shipped ?? 0
  const before = await cameBackOf(work.manager, pickId)
  if (quantity > left - before)
    throw new ServerError('movement_exceeds_balance', `${quantity} were to come back; ${left} left, and ${before} of them came back before.`, {
      field: 'quantity',
      received: quantity,
      available: left - before,
    })
  const lot = await lotOf(work, pick.lotId, 'pickId')
  // They lie where they were sent to, whichever place that is for today.
  const gone = (await loadBalances(work.manager, lot.id)).find(
    (spot) => spot.standing === 'shipped' && spot.containerId === pick.containerId && spot.quantity > 0 && isSentWith(spot.sublot, dispatchId),
  )
  const fromPlaceId = gone?.placeId ?? (await placeOfCustomers(work.manager)).id
  const id = await noteOccasion(work, 'return', 'arrival', { partnerId, orderNumber, placeId: bay.id, fromPlaceId })
  const back = { id, code: await work.nextCode('B'), dispatchId, lotId: lot.id, pickId, quantity, reason }
  await work.manager.insert(CustomerReturnEntity, back)
  work.audit({ action: 'came back', subject: 'customer return', subjectId: id, after: back })
  const came = { containerId: pick.containerId, placeId: fromPlaceId, standing: 'shipped', quantity } as const
  for (const { spot, quantity: taken } of await takePieces(work, lot.id, { ...came, isMeant: ({ sublot }) => isSentWith(sublot, dispatchId) })) {
    const to = { placeId: bay.id, standing: 'onHold', sublot: setApart(spot.sublot, id) } as const
    await movePieces(work, lot.id, { spot, quantity: taken, to }, 'cameBack', { occasionId: id })
  }
  await openAt(work, lot, { kind: 'return', customerId: partnerId ?? '', quantity, occasionId: id, placeId: bay.id, containerId: pick.containerId })
  return loadDispatch(work.manager, dispatchId)
}
