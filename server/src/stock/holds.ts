import { type HoldCause, endHolds, openHoldOf, openHolds, loadBalances } from './repository'
import { holdReaches, type Balance } from '@nemawashi/core'
import type { Work } from '../kernel/unitOfWork'
import { HoldEntity, type HoldRow } from './entities'
import { postMovement } from './ledger'

/** Which pieces of a lot are meant. */
export interface Within {
  /** The container or serial number; null for all of the lot. */
  readonly containerId?: string | null
  /** Where they lie; null for anywhere. */
  readonly placeId?: string | null
}

const isWithin =
  ({ containerId = null, placeId = null }: Within) =>
  (spot: Balance) =>
    (containerId === null || spot.containerId === containerId) && (placeId === null || spot.placeId === placeId)

/**
 * Notes that an inspection holds the lot, or a container of it; its pieces are, or will be, on hold. Gives the hold's id.
 * @param quantity how many pieces it holds; null for all of them
 */
export async function openHold(
  work: Work,
  lotId: string,
  cause: HoldCause,
  { containerId = null }: Within = {},
  quantity: number | null = null,
): Promise<string> {
  const hold: HoldRow = {
    id: work.newId(),
    lotId,
    containerId,
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

/** Puts every released piece of the lot on hold, wherever it stands, or those of a container or at a place. */
export async function holdLot(work: Work, lotId: string, cause: HoldCause, within: Within = {}): Promise<void> {
  const holdId = await openHold(work, lotId, cause, within)
  for (const { containerId, placeId, standing, quantity } of (await loadBalances(work.manager, lotId)).filter(isWithin(within))) {
    if (standing !== 'released') continue
    const to = { placeId, standing: 'onHold' } as const
    await postMovement(work, lotId, { containerId, quantity, from: { placeId, standing }, to }, 'held', { holdId })
  }
}

/** Holds so many pieces of the lot, or of a container of it, from those that are released; what is on hold already counts among them. */
export async function holdSample(
  work: Work,
  lotId: string,
  cause: HoldCause,
  { quantity, toPlaceId, containerId: only = null }: { quantity: number; toPlaceId: string; containerId?: string | null },
): Promise<void> {
  const holdId = await openHold(work, lotId, cause, { containerId: only }, quantity)
  const balances = (await loadBalances(work.manager, lotId)).filter(isWithin({ containerId: only }))
  let left = quantity - balances.filter(({ standing }) => standing === 'onHold').reduce((sum, spot) => sum + spot.quantity, 0)
  for (const { containerId, placeId, standing, quantity: there } of balances) {
    if (standing !== 'released' || left <= 0) continue
    const taken = Math.min(left, there)
    const to = { placeId: toPlaceId, standing: 'onHold' } as const
    await postMovement(work, lotId, { containerId, quantity: taken, from: { placeId, standing }, to }, 'held', { holdId })
    left -= taken
  }
}

/** Calls off what a cause holds; pieces that nothing else holds are free where they stand. */
export async function callOff(work: Work, lotId: string, causeId: string): Promise<void> {
  const hold = await openHoldOf(work.manager, lotId, causeId)
  if (hold === null) return
  await closeHolds(work, lotId, causeId, null)
  const others = await openHolds(work.manager, lotId, null)
  for (const spot of (await loadBalances(work.manager, lotId)).filter(isWithin(hold))) {
    const { containerId, placeId, standing, quantity } = spot
    if (standing !== 'onHold' || others.some((other) => holdReaches(other, spot))) continue
    const to = { placeId, standing: 'released' } as const
    await postMovement(work, lotId, { containerId, quantity, from: { placeId, standing }, to }, 'cancelled', { holdId: hold.id })
  }
}
