import { type OpenHoldOn } from '@nemawashi/core'
import type { HoldRow } from './entities'
import type { Reader, Store } from '../../kernel/work/database'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

/** What holds pieces, as people know it. */
export interface HoldCause {
  readonly id: string
  readonly code: string
}

/** What holds pieces of a lot, and which. */
export interface OpenHold extends HoldCause, OpenHoldOn {}

const openHoldColumns: Columns<OpenHold> = { id: 'text', code: 'text', quantity: 'number?', containerId: 'text?', eventId: 'text?' }

/** What holds pieces of the lot now; one cause can be left out. */
export async function openHolds(reader: Reader, lotId: string, exceptId: string | null): Promise<OpenHold[]> {
  return rowsOf<OpenHold>(
    reader,
    openHoldColumns,
    `SELECT cause_id AS id, cause_code AS code, container_id, event_id, quantity FROM hold WHERE lot_id = ? AND cause_id <> ? AND closed_at IS NULL ORDER BY cause_code`,
    [lotId, exceptId ?? ''],
  )
}

/** Whether something holds, or held, pieces for this cause. */
export async function hasHeld(reader: Reader, causeId: string): Promise<boolean> {
  return (await reader.query('SELECT 1 FROM hold WHERE cause_id = ? LIMIT 1', [causeId])).length > 0
}

/** Whether all pieces of some lot are, or were, held for this cause: more than a sample of them. */
export async function hasHeldAll(reader: Reader, causeId: string): Promise<boolean> {
  return (await reader.query('SELECT 1 FROM hold WHERE cause_id = ? AND quantity IS NULL LIMIT 1', [causeId])).length > 0
}

/** Ends the open holds of a cause on a lot. */
export async function endHolds(
  store: Store,
  lotId: string,
  causeId: string,
  { closedAt, closedById, decisionId }: Pick<HoldRow, 'closedAt' | 'closedById' | 'decisionId'>,
): Promise<void> {
  await store.query('UPDATE hold SET closed_at = ?, closed_by_id = ?, decision_id = ? WHERE lot_id = ? AND cause_id = ? AND closed_at IS NULL', [
    closedAt,
    closedById,
    decisionId,
    lotId,
    causeId,
  ])
}

/** The holds that this cause has open on a lot, and which pieces each means. */
export async function holdsOf(reader: Reader, lotId: string, causeId: string): Promise<(OpenHoldOn & { readonly id: string })[]> {
  return rowsOf<OpenHoldOn & { readonly id: string }>(
    reader,
    { quantity: 'number?', containerId: 'text?', eventId: 'text?', id: 'text' },
    'SELECT id, container_id, event_id, quantity FROM hold WHERE lot_id = ? AND cause_id = ? AND closed_at IS NULL ORDER BY opened_at, id',
    [lotId, causeId],
  )
}

/**
 * Since when pieces of a lot `l` wait: since the earliest hold on it that is open, or since pieces of it were quarantined. Where they are moved
 * to meanwhile, and when the lot came, makes no difference.
 */
export const heldSinceSql = `COALESCE((SELECT MIN(x.opened_at) FROM hold x WHERE x.lot_id = l.id AND x.closed_at IS NULL),
  (SELECT MIN(q.at) FROM movement q WHERE q.lot_id = l.id AND q.to_standing = 'quarantined'), l.created_at)`
