import type { PiecesMeant, SubjectKind } from '@nemawashi/core'
import { alike, type ListSpec } from '../kernel/http/lists'
import type { SearchProvider } from '../kernel/area'
import type { Reader } from '../kernel/work/database'
import { eventKinds } from '../stock/ledger/repository'
import { holderSql, looksAtLot } from './queueRepository'
import { rowsOf, type Columns } from '../kernel/database/rowsOf'
import { loadCode, lookedAtCode } from './headRepository'

const piecesMeantColumns: Columns<PiecesMeant> = { containerId: 'text?', eventId: 'text?' }

/** Which pieces of a lot an inspection did not find acceptable. */
export async function failuresOn(reader: Reader, lotId: string): Promise<PiecesMeant[]> {
  return rowsOf<PiecesMeant>(
    reader,
    piecesMeantColumns,
    `SELECT DISTINCT u.id AS container_id, v.id AS event_id FROM inspection i LEFT JOIN container u ON u.id = i.subject_id
       LEFT JOIN occasion v ON v.id = i.occasion_id AND v.kind IN ${eventKinds}
     WHERE ${looksAtLot} AND i.verdict = 'notAcceptable' AND i.state <> 'cancelled' ORDER BY u.id, v.id`,
    [lotId, lotId],
  )
}

/** Lots that an inspection looks at: its own, or those of its load, or the one of them that is named. */
export async function lotsLookedAt(
  reader: Reader,
  { subjectKind, subjectId, lotId }: { subjectKind: SubjectKind; subjectId: string; lotId: string | null },
  only: string | null = null,
): Promise<string[]> {
  if (subjectKind !== 'load') return lotId === null || (only !== null && only !== lotId) ? [] : [lotId]
  const rows = await rowsOf(reader, { id: 'text' }, 'SELECT id FROM lot WHERE origin_id = ? ORDER BY code', [subjectId])
  return rows.map(({ id }) => id).filter((id) => only === null || id === only)
}

/** Lots of a load that nobody has decided on for its inspection. */
export async function lotsToDecide(reader: Reader, inspectionId: string): Promise<{ id: string; code: string }[]> {
  return rowsOf(
    reader,
    { id: 'text', code: 'text' },
    `SELECT l.id, l.code FROM inspection i JOIN lot l ON l.origin_id = i.subject_id WHERE i.id = ? AND i.subject_kind = 'load'
       AND NOT EXISTS (SELECT 1 FROM decision d WHERE d.inspection_id = i.id AND d.lot_id = l.id) ORDER BY l.code`,
    [inspectionId],
  )
}

/** Inspections by their number, or the name of their plan. */
export const inspectionsFound: SearchProvider = {
  kind: 'inspection',
  sql: `SELECT i.id, i.code AS title, pl.name || COALESCE(' · lot ' || l.code, ' · load ' || ${loadCode}, '') AS detail FROM inspection i LEFT JOIN lot l ON l.id = i.lot_id LEFT JOIN delivery d ON d.id = i.subject_id
    LEFT JOIN expected_delivery e ON e.id = i.subject_id LEFT JOIN dispatch g ON g.id = i.subject_id
    JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan pl ON pl.id = r.plan_id
    WHERE i.code LIKE ? ESCAPE '\\' OR pl.name LIKE ? ESCAPE '\\' ORDER BY i.opened_at DESC LIMIT 6`,
}

/** What is written on the container or piece that an inspection looks at; looked up for the rows of a page only. */
export const unitLabel = '(SELECT u.label FROM container u WHERE u.id = i.subject_id)'

/**
 * What a word may be of: the number, the responsible, the plan, the operation, the lot, its part and supplier, the unit, the load and whose it is,
 * whoever has the task. A word has no space, so what stands side by side is looked through as one.
 */
const findIds: readonly string[] = [
  `SELECT x.id FROM inspection x WHERE x.code IN (SELECT y.code FROM inspection y WHERE ${alike('y.code')})`,
  `SELECT x.id FROM inspection x WHERE x.responsible <> '' AND x.responsible IN (SELECT y.responsible FROM inspection y WHERE y.responsible <> '' AND ${alike('y.responsible')})`,
  `SELECT x.id FROM plan p JOIN plan_revision r ON r.plan_id = p.id JOIN inspection x ON x.plan_revision_id = r.id WHERE ${alike('p.name')}`,
  `SELECT x.id FROM operation o JOIN inspection x ON x.operation_id = o.id WHERE ${alike('o.name')}`,
  `SELECT x.id FROM lot l JOIN inspection x ON x.lot_id = l.id WHERE ${alike(`(l.code || ' ' || l.supplier_lot)`)}`,
  `SELECT x.id FROM part t JOIN lot l ON l.part_id = t.id JOIN inspection x ON x.lot_id = l.id WHERE ${alike(`(t.code || ' ' || t.name)`)}`,
  `SELECT x.id FROM partner s JOIN lot l ON l.supplier_id = s.id JOIN inspection x ON x.lot_id = l.id WHERE ${alike('s.name')}`,
  `SELECT x.id FROM inspection x WHERE x.subject_id IN (SELECT u.id FROM container u WHERE ${alike('u.label')})`,
  ...['delivery', 'dispatch'].map(
    (
      load,
    ) => `SELECT x.id FROM ${load} d JOIN occasion v ON v.id = d.id LEFT JOIN partner s ON s.id = v.partner_id JOIN inspection x ON x.subject_id = d.id
      WHERE ${alike(`(d.code || ' ' || COALESCE(s.name, ''))`)}`,
  ),
  `SELECT x.id FROM expected_delivery e JOIN partner s ON s.id = e.supplier_id JOIN inspection x ON x.subject_id = e.id WHERE ${alike(`(e.code || ' ' || s.name)`)}`,
  `SELECT a.id FROM person n JOIN assignment a ON a.person_id = n.id WHERE ${alike('n.name')}`,
  `SELECT a.id FROM person n JOIN assignment a ON a.holder_id = n.id WHERE a.held_at IS NOT NULL AND ${alike('n.name')}`,
  `SELECT x.id FROM person n JOIN inspection x ON x.started_by_id = n.id WHERE x.id NOT IN (SELECT a.id FROM assignment a WHERE a.held_at IS NOT NULL) AND ${alike('n.name')}`,
]

export const inspectionList: ListSpec = {
  from: `inspection i LEFT JOIN lot l ON l.id = i.lot_id LEFT JOIN part t ON t.id = l.part_id LEFT JOIN delivery d ON d.id = i.subject_id
         LEFT JOIN expected_delivery e ON e.id = i.subject_id LEFT JOIN dispatch g ON g.id = i.subject_id LEFT JOIN occasion v ON v.id = COALESCE(d.id, g.id) LEFT JOIN partner s ON s.id = COALESCE(l.supplier_id, v.partner_id, e.supplier_id) JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id JOIN operation o ON o.id = i.operation_id
         LEFT JOIN assignment a ON a.id = i.id LEFT JOIN person ap ON ap.id = a.person_id LEFT JOIN person hp ON hp.id = ${holderSql}`,
  countFrom: 'inspection i',
  id: 'i.id',
  columns: {
    id: { sql: 'i.id' },
    code: { sql: 'i.code' },
    state: { sql: 'i.state' },
    planName: { sql: 'p.name' },
    partCode: { sql: `COALESCE(t.code, '')` },
    partName: { sql: `COALESCE(t.name, '')` },
    lotCode: { sql: lookedAtCode },
    unitLabel: { sql: unitLabel, isNullable: true },
    supplierName: { sql: `COALESCE(s.name, '')` },
    lotSize: { sql: 'i.lot_size', kind: 'number' },
    isGate: { sql: 'i.is_gate', kind: 'flag' },
    holds: { sql: 'EXISTS (SELECT 1 FROM hold h WHERE h.cause_id = i.id)', kind: 'flag' },
    openedAt: { sql: 'i.opened_at' },
    dueAt: { sql: 'i.due_at', isNullable: true, isMissingLast: true },
    responsible: { sql: 'i.responsible' },
    operationName: { sql: 'o.name' },
    finishedAt: { sql: 'i.finished_at', isNullable: true },
    verdict: { sql: 'i.verdict', isNullable: true },
    answered: { sql: 'i.answered', kind: 'number' },
    asked: { sql: 'i.asked', kind: 'number' },
    sampleMost: { sql: 'i.sample_most', kind: 'number', isNullable: true },
    lineCount: { sql: 'i.line_count', kind: 'number', isNullable: true },
    minutes: { sql: 'i.minutes', kind: 'number', isNullable: true },
    assignedName: { sql: 'ap.name', isNullable: true },
    day: { sql: 'a.day', isNullable: true },
    holderName: { sql: `CASE WHEN i.state IN ('toDo', 'started') THEN hp.name END`, isNullable: true },
    number: { sql: '(SELECT COUNT(*) FROM inspection x WHERE x.subject_id = i.subject_id AND x.code <= i.code)', kind: 'number' },
    ofLot: { sql: '(SELECT COUNT(*) FROM inspection x WHERE x.subject_id = i.subject_id)', kind: 'number' },
  },
  search: [],
  findIds,
  sort: ['openedAt', 'desc'],
}
