import type { Reader } from '../kernel/database'
import type { Work } from '../kernel/unitOfWork'
import { loadBalances, postMovement } from './ledger'

/** Inspections that hold pieces of the lot and are not settled; one can be left out. */
export async function openHolds(reader: Reader, lotId: string, exceptId: string | null): Promise<{ id: string; code: string }[]> {
  return (await reader.query(
    `SELECT id, code FROM inspection WHERE lotId = ? AND id IS NOT ? AND holds = 1 AND state NOT IN ('decided', 'cancelled') ORDER BY code`,
    [lotId, exceptId],
  )) as { id: string; code: string }[]
}

/** Puts every released piece of the lot on hold, wherever it stands. Gives how many. */
export async function holdLot(work: Work, lotId: string, causeId: string): Promise<number> {
  let held = 0
  for (const { containerId, placeId, standing, quantity } of await loadBalances(work.manager, lotId)) {
    if (standing !== 'released') continue
    await postMovement(work, lotId, { containerId, quantity, from: { placeId, standing }, to: { placeId, standing: 'onHold' } }, 'held', causeId)
    held += quantity
  }
  return held
}

/** Frees every piece of the lot that is on hold, where it stands. Gives how many. */
export async function freeLot(work: Work, lotId: string, causeId: string): Promise<number> {
  let freed = 0
  for (const { containerId, placeId, standing, quantity } of await loadBalances(work.manager, lotId)) {
    if (standing !== 'onHold') continue
    await postMovement(
      work,
      lotId,
      { containerId, quantity, from: { placeId, standing }, to: { placeId, standing: 'released' } },
      'cancelled',
      causeId,
    )
    freed += quantity
  }
  return freed
}
