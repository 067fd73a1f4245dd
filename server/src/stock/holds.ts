import type { Reader } from '../kernel/database'
import type { Work } from '../kernel/unitOfWork'
import { HoldEntity, type HoldRow } from './entities'
import { loadBalances, postMovement } from './ledger'

/** What holds pieces, as people know it. */
export interface HoldCause {
  readonly id: string
  readonly code: string
}

/** What holds pieces of the lot now; one cause can be left out. */
export async function openHolds(reader: Reader, lotId: string, exceptId: string | null): Promise<HoldCause[]> {
  return (await reader.query(
    `SELECT DISTINCT cause_id AS id, cause_code AS code FROM hold WHERE lot_id = ? AND cause_id <> ? AND closed_at IS NULL ORDER BY cause_code`,
    [lotId, exceptId ?? ''],
  )) as HoldCause[]
}

/** Whether something holds, or held, pieces for this cause. */
export async function hasHeld(reader: Reader, causeId: string): Promise<boolean> {
  return ((await reader.query('SELECT 1 FROM hold WHERE cause_id = ? LIMIT 1', [causeId])) as unknown[]).length > 0
}

/** Notes that an inspection holds the lot; its pieces are, or will be, on hold. Gives the hold's id. */
export async function openHold(work: Work, lotId: string, cause: HoldCause): Promise<string> {
  const hold: HoldRow = {
    id: work.newId(),
    lotId,
    containerId: null,
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

/** Ends what a cause holds; other holds on the same pieces stay. */
export async function closeHolds(work: Work, causeId: string, decisionId: string | null): Promise<void> {
  await work.manager.query('UPDATE hold SET closed_at = ?, closed_by_id = ?, decision_id = ? WHERE cause_id = ? AND closed_at IS NULL', [
    work.now,
    work.personId,
    decisionId,
    causeId,
  ])
}

/** Puts every released piece of the lot on hold, wherever it stands. */
export async function holdLot(work: Work, lotId: string, cause: HoldCause): Promise<void> {
  const holdId = await openHold(work, lotId, cause)
  for (const { containerId, placeId, standing, quantity } of await loadBalances(work.manager, lotId)) {
    if (standing !== 'released') continue
    const to = { placeId, standing: 'onHold' } as const
    await postMovement(work, lotId, { containerId, quantity, from: { placeId, standing }, to }, 'held', { holdId })
  }
}

/** Calls off what a cause holds; pieces that nothing else holds are free where they stand. */
export async function callOff(work: Work, lotId: string, causeId: string): Promise<void> {
  const [hold] = (await work.manager.query('SELECT id FROM hold WHERE cause_id = ? AND closed_at IS NULL LIMIT 1', [causeId])) as { id: string }[]
  if (!hold) return
  await closeHolds(work, causeId, null)
  if ((await openHolds(work.manager, lotId, null)).length > 0) return
  for (const { containerId, placeId, standing, quantity } of await loadBalances(work.manager, lotId)) {
    if (standing !== 'onHold') continue
    const to = { placeId, standing: 'released' } as const
    await postMovement(work, lotId, { containerId, quantity, from: { placeId, standing }, to }, 'cancelled', { holdId: hold.id })
  }
}
