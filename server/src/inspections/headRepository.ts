import type { Inspection } from '@nemawashi/contract'
import type { Reader } from '../kernel/work/database'
import { rowsOf, type Columns } from '../kernel/database/rowsOf'

/** The number of a load: of a delivery, of one that is expected, or of a dispatch. */
export const loadCode = 'COALESCE(d.code, e.code, g.code)'

/** The number of what an inspection looks at: of its lot, or of the load. */
export const lookedAtCode = `COALESCE(l.code, 'load ' || ${loadCode})`

type Head = Omit<
  Inspection,
  | 'isGate'
  | 'whenConforming'
  | 'keepsFrom'
  | 'setAside'
  | 'advice'
  | 'answeredAt'
  | 'spotAnswerer'
  | 'holds'
  | 'lines'
  | 'gauges'
  | 'wantsGauge'
  | 'evidence'
  | 'readings'
  | 'finding'
  | 'held'
  | 'balances'
  | 'otherOpenInspections'
  | 'decisions'
  | 'decision'
  | 'skips'
  | 'follows'
  | 'followUps'
  | 'toDecide'
  | 'assignment'
  | 'leftOut'
  | 'dropped'
  | 'sorted'
> & {
  consequence: string | null
  subjectId: string
  isGate: number
  holds: number
  followsId: string | null
  leftOut: string | null
  occasionId: string | null
}

const headColumns: Columns<Head> = {
  partId: 'text?',
  code: 'text',
  unit: 'text',
  partCode: 'text',
  id: 'text',
  state: 'text',
  version: 'number',
  operationName: 'text',
  planCode: 'text',
  planName: 'text',
  supplierName: 'text',
  onFailure: 'text',
  need: 'text',
  planRevision: 'number',
  subjectKind: 'text',
  partName: 'text',
  partRevision: 'text',
  lotId: 'text?',
  lotCode: 'text',
  unitLabel: 'text?',
  supplierLot: 'text',
  originKind: 'text',
  originId: 'text',
  originCode: 'text',
  orderNumber: 'text',
  operationKind: 'text',
  lotSize: 'number',
  openedAt: 'text',
  dueAt: 'text?',
  openedByName: 'text?',
  openReason: 'text?',
  startedAt: 'text?',
  startedByName: 'text?',
  finishedAt: 'text?',
  finishedByName: 'text?',
  cancelledAt: 'text?',
  cancelledByName: 'text?',
  cancelReason: 'text?',
  consequence: 'text?',
  subjectId: 'text',
  isGate: 'number',
  holds: 'number',
  followsId: 'text?',
  leftOut: 'text?',
  occasionId: 'text?',
}

/** An inspection with the names of everything around it. */
export async function inspectionHead(reader: Reader, id: string, ofLot: string | null): Promise<Head | null> {
  const [head] = await rowsOf<Head>(
    reader,
    headColumns,
    `SELECT i.id, i.code, i.state, i.version, i.subject_kind, i.subject_id, i.occasion_id, t.id AS part_id, COALESCE(t.code, '') AS part_code, COALESCE(t.name, '') AS part_name,
            COALESCE(t.revision, '') AS part_revision, COALESCE(t.unit, 'piece') AS unit,
            l.id AS lot_id, ${lookedAtCode} AS lot_code, u.label AS unit_label, COALESCE(l.supplier_lot, '') AS supplier_lot, COALESCE(s.name, '') AS supplier_name, v.kind AS origin_kind, COALESCE(d.id, w.id, e.id, g.id) AS origin_id, COALESCE(w.code, ${loadCode}) AS origin_code, v.order_number,
            p.code AS plan_code, p.name AS plan_name, r.revision AS plan_revision, o.name AS operation_name, o.kind AS operation_kind, i.lot_size, i.is_gate, EXISTS (SELECT 1 FROM hold h WHERE h.cause_id = i.id) AS holds, i.on_failure, i.cancelled_at, x.name AS cancelled_by_name, i.cancel_reason,
            i.opened_at, i.due_at, h.name AS opened_by_name, i.open_reason, i.started_at, a.name AS started_by_name, i.finished_at, b.name AS finished_by_name, i.follows_id, i.left_out, i.consequence, cp.need
     FROM inspection i LEFT JOIN lot l ON l.id = COALESCE(i.lot_id, ?) LEFT JOIN part t ON t.id = l.part_id LEFT JOIN expected_delivery e ON e.id = i.subject_id LEFT JOIN container u ON u.id = i.subject_id
     JOIN occasion v ON v.id = COALESCE(l.origin_id, CASE WHEN e.state = 'received' OR e.id IS NULL THEN i.subject_id ELSE i.occasion_id END)
     LEFT JOIN partner s ON s.id = COALESCE(l.supplier_id, v.partner_id) LEFT JOIN delivery d ON d.id = v.id LEFT JOIN production_order w ON w.lot_id = l.id LEFT JOIN dispatch g ON g.id = i.subject_id
     JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id JOIN operation o ON o.id = i.operation_id JOIN control_point cp ON cp.id = i.control_point_id
     LEFT JOIN person a ON a.id = i.started_by_id LEFT JOIN person b ON b.id = i.finished_by_id LEFT JOIN person x ON x.id = i.cancelled_by_id LEFT JOIN person h ON h.id = i.opened_by_id WHERE i.id = ?`,
    [ofLot, id],
  )
  return head ?? null
}

/** Other inspections as they are named beside one. */
export async function namedInspections(reader: Reader, condition: string, id: string): Promise<Inspection['followUps']> {
  return rowsOf<Inspection['followUps'][number]>(
    reader,
    { id: 'text', code: 'text', planName: 'text', state: 'text' },
    `SELECT i.id, i.code, p.name AS plan_name, i.state FROM inspection i JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id
     WHERE ${condition} ORDER BY i.code`,
    [id],
  )
}

/** Plans whose inspections were opened because of this one. */
export async function plansFollowing(reader: Reader, inspectionId: string): Promise<string[]> {
  const rows = await rowsOf(
    reader,
    { planId: 'text' },
    'SELECT r.plan_id FROM inspection i JOIN plan_revision r ON r.id = i.plan_revision_id WHERE i.follows_id = ?',
    [inspectionId],
  )
  return rows.map(({ planId }) => planId)
}

/** Inspections that an occasion opened. */
export async function openedAt(reader: Reader, occasionId: string): Promise<{ id: string; code: string; planName: string }[]> {
  return rowsOf(
    reader,
    { id: 'text', code: 'text', planName: 'text' },
    `SELECT i.id, i.code, p.name AS plan_name FROM inspection i JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id
     WHERE i.occasion_id = ? ORDER BY i.code`,
    [occasionId],
  )
}
