import { type HoldCause, endHolds, openHoldOf, openHolds, loadBalances } from './repository'
import type { Work } from '../kernel/unitOfWork'
import { HoldEntity, type HoldRow } from './entities'
import { postMovement } from './ledger'

/**
 * Notes that an inspection holds the lot; its pieces are, or will be, on hold. Gives the hold's id.
 * @param quantity how many pieces it holds; null for all of them
 */
export async function openHold(work: Work, lotId: string, cause: HoldCause, quantity: number | null = null): Promise<string> {
  const hold: HoldRow = {
    id: work.newId(),
    lotId,
    containerId: null,
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

/** Puts every released piece of the lot on hold, wherever it stands, or those at one place. */
export async function holdLot(work: Work, lotId: string, cause: HoldCause, onlyAt: string | null = null): Promise<void> {
  const holdId = await openHold(work, lotId, cause)
  for (const { containerId, placeId, standing, quantity } of await loadBalances(work.manager, lotId)) {
    if (standing !== 'released' || (onlyAt !== null && placeId !== onlyAt)) continue
    const to = { placeId, standing: 'onHold' } as const
    await postMovement(work, lotId, { containerId, quantity, from: { placeId, standing }, to }, 'held', { holdId })
  }
}

/** Holds so many pieces of the lot, from those that are released; what is on hold already counts among them. */
export async function holdSample(work: Work, lotId: string, cause: HoldCause, quantity: number, toPlaceId: string): Promise<void> {
  const holdId = await openHold(work, lotId, cause, quantity)
  const balances = await loadBalances(work.manager, lotId)
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
  if ((await openHolds(work.manager, lotId, null)).length > 0) return
  for (const { containerId, placeId, standing, quantity } of await loadBalances(work.manager, lotId)) {
    if (standing !== 'onHold') continue
    const to = { placeId, standing: 'released' } as const
    await postMovement(work, lotId, { containerId, quantity, from: { placeId, standing }, to }, 'cancelled', { holdId: hold })
  }
}
