import { endHolds, holdsOf, openHolds, type HoldCause } from '../ledger/holdRepository'
import { loadBalances, unitKindsOf } from '../ledger/repository'
import { freeable, heldQuantity, holdReaches, takeFrom, wholeLot, type Balance, type PiecesMeant } from '@nemawashi/core'
import type { Reader } from '../../kernel/work/database'
import type { Work } from '../../kernel/work/unitOfWork'
import { HoldEntity, type HoldRow } from '../ledger/entities'
import { balancesNow, movePieces } from '../ledger/ledger'

/** Which pieces of a lot are meant; what is left out is not told apart. */
export type Within = Partial<PiecesMeant>

const reached = (within: Within, balances: readonly Balance[]) => balances.filter((spot) => holdReaches({ ...wholeLot, ...within }, spot))

/**
 * Notes that an inspection holds the lot, or these pieces of it; they are, or will be, on hold. Gives the hold's id.
 * @param quantity how many pieces it holds; null for all of them
 */
export async function openHold(
  work: Work,
  lotId: string,
  cause: HoldCause,
  { containerId = null, eventId = null }: Within = {},
  quantity: number | null = null,
): Promise<string> {
  const hold: HoldRow = {
    id: work.newId(),
    lotId,
    containerId,
    eventId,
    quantity,
    causeKind: 'inspection',
    causeId: cause.id,
    causeCode: cause.code,
    openedAt: work.now,
    closedAt: null,
    closedById: null,
    decisionId: null,
  }
  await work.manager.insert(HoldEntity, { ...hold })
  return hold.id
}

/** Ends what a cause holds of a lot; other holds on the same pieces stay. */
export async function closeHolds(work: Work, lotId: string, causeId: string, decisionId: string | null): Promise<void> {
  await endHolds(work.manager, lotId, causeId, { closedAt: work.now, closedById: work.personId, decisionId })
}

/** Puts every released piece that is meant on hold, wherever it stands. */
export async function holdLot(work: Work, lotId: string, cause: HoldCause, within: Within = {}): Promise<void> {
  const holdId = await openHold(work, lotId, cause, within)
  for (const spot of reached(within, await balancesNow(work, lotId))) {
    if (spot.standing !== 'released') continue
    await movePieces(work, lotId, { spot, quantity: spot.quantity, to: { placeId: spot.placeId, standing: 'onHold' } }, 'held', { holdId })
  }
}

/**
 * Holds so many of the pieces that are meant, from those that are released.
 * @param isShared whether what is on hold already counts among them: samples are taken from the same pieces, nonconforming ones are not
 */
export async function holdSample(
  work: Work,
  lotId: string,
  cause: HoldCause,
  { quantity, toPlaceId, isShared = true, ...within }: Within & { quantity: number; toPlaceId: string; isShared?: boolean },
): Promise<void> {
  const holdId = await openHold(work, lotId, cause, within, quantity)
  const spots = reached(within, await balancesNow(work, lotId))
  const onHold = spots.filter(({ standing }) => standing === 'onHold').reduce((sum, spot) => sum + spot.quantity, 0)
  const released = spots.filter(({ standing }) => standing === 'released')
  for (const { spot, quantity: taken } of takeFrom(released, isShared ? quantity - onHold : quantity))
    await movePieces(work, lotId, { spot, quantity: taken, to: { placeId: toPlaceId, standing: 'onHold' } }, 'held', { holdId })
}

/** What a cause holds of a lot: the spots of its pieces that are on hold, and how many of them it means. */
export async function findHeldBy(reader: Reader, lotId: string, causeId: string): Promise<{ spots: Balance[]; quantity: number }> {
  const holds = await holdsOf(reader, lotId, causeId)
  const balances = await loadBalances(reader, lotId)
  const spots = balances.filter((spot) => spot.standing === 'onHold' && holds.some((hold) => holdReaches(hold, spot)))
  return { spots, quantity: heldQuantity(holds, balances) }
}

/** What a cause holds, container by container, as people know it. */
export async function heldNamed(
  reader: Reader,
  lotId: string,
  causeId: string,
): Promise<{ containerId: string | null; containerLabel: string | null; quantity: number }[]> {
  const { spots, quantity } = await findHeldBy(reader, lotId, causeId)
  if (quantity === 0) return []
  const labels = new Map((await unitKindsOf(reader, lotId)).map(({ id, label }) => [id, label]))
  const sums = new Map<string | null, number>()
  for (const { spot, quantity: taken } of takeFrom(spots, quantity)) sums.set(spot.containerId, (sums.get(spot.containerId) ?? 0) + taken)
  return [...sums].map(([containerId, sum]) => ({ containerId, containerLabel: labels.get(containerId ?? '') ?? null, quantity: sum }))
}

/** Calls off what a cause holds; pieces that nothing else holds are free where they stand. */
export async function cancelHolds(work: Work, lotId: string, causeId: string): Promise<void> {
  const [hold] = await holdsOf(work.manager, lotId, causeId)
  if (hold === undefined) return
  const { spots, quantity } = await findHeldBy(work.manager, lotId, causeId)
  await closeHolds(work, lotId, causeId, null)
  const freed = freeable(spots, await balancesNow(work, lotId), await openHolds(work.manager, lotId, null), quantity)
  for (const { spot, quantity: taken } of freed)
    await movePieces(work, lotId, { spot, quantity: taken, to: { placeId: spot.placeId, standing: 'released' } }, 'cancelled', { holdId: hold.id })
}
