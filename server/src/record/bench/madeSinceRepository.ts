import type { RunCheck } from '@nemawashi/core'
import { rowsOf } from '../../kernel/database/rowsOf'
import type { Reader } from '../../kernel/work/database'

/** The check of a running step: of which step, and how far that was. */
export async function runOf(reader: Reader, inspectionId: string) {
  const [row] = await rowsOf(
    reader,
    {
      stepId: 'text',
      controlPointId: 'text?',
      lotId: 'text',
      orderId: 'text',
      orderCode: 'text',
      operationName: 'text',
      position: 'number',
      checkedAt: 'number',
      done: 'number',
      tracking: 'text',
    },
    `SELECT r.step_id, i.control_point_id, i.lot_id, o.id AS order_id, o.code AS order_code, p.name AS operation_name, s.position,
       r.done AS checked_at, s.good + s.scrapped + s.set_aside AS done, t.tracking
     FROM inspection i JOIN step_report r ON r.id = i.occasion_id JOIN order_step s ON s.id = r.step_id
     JOIN production_order o ON o.id = s.order_id JOIN operation p ON p.id = s.operation_id JOIN part t ON t.id = o.part_id
     WHERE i.id = ? AND i.lot_id IS NOT NULL`,
    [inspectionId],
  )
  return row ?? null
}

export interface EarlierCheck extends RunCheck {
  readonly id: string
  readonly finishedAt: string
}

/** Finished checks of the same control point at the step that came up at or before a count, with what each held of the lot: its pieces have a decision of their own. */
export async function checksBefore(
  reader: Reader,
  { stepId, controlPointId, lotId, checkedAt }: { stepId: string; controlPointId: string | null; lotId: string; checkedAt: number },
  exceptId: string,
): Promise<EarlierCheck[]> {
  const rows = await rowsOf(
    reader,
    { id: 'text', code: 'text', verdict: 'text', done: 'number', finishedAt: 'text', held: 'number' },
    `SELECT i.id, i.code, i.verdict, r.done, i.finished_at,
       COALESCE((SELECT SUM(CASE WHEN h.container_id IS NULL THEN COALESCE(h.quantity, 0) ELSE 1 END) FROM hold h WHERE h.cause_id = i.id AND h.lot_id = ?), 0) AS held
     FROM inspection i JOIN step_report r ON r.id = i.occasion_id
     WHERE r.step_id = ? AND i.control_point_id = ? AND i.id <> ? AND r.done <= ? AND i.verdict IS NOT NULL AND i.finished_at IS NOT NULL
       AND i.state IN ('finished', 'decided')
     ORDER BY r.done, i.finished_at`,
    [lotId, stepId, controlPointId ?? '', exceptId, checkedAt],
  )
  return rows.map(({ verdict, ...row }) => ({ ...row, isAcceptable: verdict === 'acceptable' }))
}

/** What reports of a step told of pieces that went on, with how many it had made by then. */
export async function goodReports(reader: Reader, stepId: string): Promise<{ done: number; good: number }[]> {
  return rowsOf(reader, { done: 'number', good: 'number' }, 'SELECT done, good FROM step_report WHERE step_id = ? AND good > 0', [stepId])
}

/** Pieces with a serial number that the step made after a count. */
export async function serialsMadeAfter(reader: Reader, { stepId, lotId }: { stepId: string; lotId: string }, done: number) {
  return rowsOf(
    reader,
    { containerId: 'text', serial: 'text' },
    `SELECT c.id AS container_id, COALESCE(c.serial, c.label) AS serial FROM movement m JOIN step_report r ON r.id = m.occasion_id JOIN container c ON c.id = m.container_id
     WHERE m.lot_id = ? AND m.kind = 'made' AND r.step_id = ? AND r.done > ? ORDER BY c.label`,
    [lotId, stepId, done],
  )
}

/** What a check holds of a lot by number. */
export async function heldByNumber(reader: Reader, lotId: string, causeId: string): Promise<number> {
  const [row] = await rowsOf(
    reader,
    { held: 'number' },
    'SELECT COALESCE(SUM(CASE WHEN container_id IS NULL THEN COALESCE(quantity, 0) ELSE 1 END), 0) AS held FROM hold WHERE lot_id = ? AND cause_id = ? AND closed_at IS NULL',
    [lotId, causeId],
  )
  return row?.held ?? 0
}
