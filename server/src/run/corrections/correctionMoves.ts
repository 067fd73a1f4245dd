import { holdReaches, restOfLot, takeFrom, type Balance, type Movement, type MovementEnd } from '@nemawashi/core'
import type { Correction } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import { type LotRow } from '../../stock/ledger/entities'
import { placeFor } from '../../stock/putAway/placeFor'
import { hasDecisions, loadDecisions } from '../../stock/ledger/decisionRepository'
import { loadMovements, unitKindsOf } from '../../stock/ledger/repository'
import { openHolds } from '../../stock/ledger/holdRepository'
import { cameOf, inReach, sumOf } from './correctionCase'

/** One piece has a serial number, and what came in containers is in one of them. @throws {ServerError} `serials_missing`, `containers_do_not_add_up`. */
async function requireTold(
  reader: Reader,
  lot: LotRow,
  { containerId, quantity }: Correction & { field: 'quantity' },
  there: readonly Balance[],
): Promise<void> {
  const units = await unitKindsOf(reader, lot.id)
  const unit = units.find(({ id }) => id === containerId)
  if (containerId !== null && !unit)
    throw new ServerError('reference_unknown', `${lot.code} has no such container.`, { field: 'containerId', received: containerId })
  if (unit?.kind === 'serial' && quantity > 1)
    throw new ServerError(
      'serials_missing',
      `Received ${quantity} for the serial number ${unit.serial ?? unit.label}: one piece has it, or none came.`,
      {
        field: 'quantity',
        received: quantity,
      },
    )
  if (containerId === null && units.length > 0 && there.length === 0)
    throw new ServerError(
      'containers_do_not_add_up',
      `Every piece of ${lot.code} is in a container or has a number: say which of them came with another quantity.`,
      {
        field: 'containerId',
        received: quantity,
      },
    )
}

/** So many pieces from these spots, in their order. */
function takeTo(spots: readonly Balance[], count: number, toOf: (spot: Balance) => MovementEnd): Movement[] {
  return takeFrom(spots, count).map(({ spot, quantity }) => {
    const { containerId, placeId, standing, sublot } = spot
    return { containerId, quantity, from: { placeId, standing, sublot }, to: toOf(spot) }
  })
}

/** Where pieces lay that were said never to have come, the last said first: they are put back there where nothing was decided since. */
async function backTo(reader: Reader, lotId: string, containerId: string | null, never: readonly Balance[], count: number): Promise<Movement[]> {
  const decidedAt = (await loadDecisions(reader, lotId)).at(-1)?.signedAt ?? ''
  const bay = await placeFor(reader, 'inspection')
  const said = (await loadMovements(reader, lotId))
    .filter((movement) => movement.toStanding === 'notArrived' && movement.containerId === containerId)
    .reverse()
  const holds = await openHolds(reader, lotId, null)
  const left = never.map((spot) => ({ ...spot }))
  const movements: Movement[] = []
  let wanted = count
  for (const { fromPlaceId, fromStanding, quantity, at, toPlaceId, toSublot } of said) {
    const spot = left.find(({ placeId, sublot }) => placeId === toPlaceId && sublot === toSublot)
    const taken = Math.min(wanted, quantity, spot?.quantity ?? 0)
    if (spot === undefined || taken === 0 || fromPlaceId === null || fromStanding === null) continue
    spot.quantity -= taken
    wanted -= taken
    // What was decided meanwhile was decided without them; what holds the others holds them, too.
    const isHeld = holds.some((hold) => hold.quantity === null && holdReaches(hold, { containerId, sublot: toSublot }))
    const back = decidedAt < at ? { placeId: fromPlaceId, standing: fromStanding } : ({ placeId: bay.id, standing: 'onHold' } as const)
    const to = isHeld ? { ...back, standing: 'onHold' as const } : back
    movements.push({ containerId, quantity: taken, from: { placeId: toPlaceId, standing: 'notArrived', sublot: toSublot }, to })
  }
  return movements
}

/** Where what came in addition belongs: with the rest where that was received, on hold where something holds all of the lot. */
async function whereReceived(reader: Reader, lotId: string, containerId: string | null): Promise<MovementEnd> {
  const spot = { containerId, sublot: restOfLot }
  const isHeld = (await openHolds(reader, lotId, null)).some((hold) => hold.quantity === null && holdReaches(hold, spot))
  const arrivals = (await loadMovements(reader, lotId)).filter(({ fromPlaceId }) => fromPlaceId === null)
  const first = arrivals.find((movement) => movement.containerId === containerId) ?? arrivals[0]
  if (isHeld) return { placeId: first?.toStanding === 'onHold' ? first.toPlaceId : (await placeFor(reader, 'inspection')).id, standing: 'onHold' }
  return { placeId: first?.toStanding === 'released' ? first.toPlaceId : (await placeFor(reader, 'dock')).id, standing: 'released' }
}

/**
 * The movements that put a quantity right: pieces that never came are taken out where they lie, those that came in addition are booked in where
 * the lot was received.
 * @throws {ServerError} `movement_exceeds_balance`, `correction_too_late`, `place_missing`, `serials_missing`, `containers_do_not_add_up`.
 */
export async function movementsTo(reader: Reader, lot: LotRow, correction: Correction & { field: 'quantity' }): Promise<Movement[]> {
  const { lotId, containerId, quantity } = correction
  const { there, came, never } = await cameOf(reader, lotId, containerId)
  await requireTold(reader, lot, correction, there)
  if (quantity < came) {
    const reachable = there.filter(inReach)
    const less = came - quantity
    if (sumOf(reachable) < less)
      throw new ServerError('movement_exceeds_balance', `${less} never came, but only ${sumOf(reachable)} are on hold or released here.`, {
        received: less,
        available: sumOf(reachable),
        field: 'quantity',
      })
    return takeTo(reachable, less, ({ placeId }) => ({ placeId, standing: 'notArrived' }))
  }
  const back = await backTo(reader, lotId, containerId, never, quantity - came)
  const arriving = quantity - came - sumOf(back)
  if (arriving === 0) return back
  // What came in addition was not looked at with the rest: that is only right before anything was decided.
  if (await hasDecisions(reader, lotId))
    throw new ServerError('correction_too_late', 'This lot is decided on: more of it cannot have come with it.', { field: 'quantity' })
  return [...back, { containerId, quantity: arriving, from: null, to: await whereReceived(reader, lotId, containerId) }]
}
