import type { Moment, UnitKind } from '@nemawashi/core'
import type { Reader } from '../../kernel/work/database'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

export interface PastEventRow {
  occasionId: string
  lotId: string
  at: string
  operationId: string
  moment: Moment
  partId: string
  familyId: string | null
  supplierId: string | null
  customerId: string | null
  supplierGroup: string | null
  contract: string | null
  /** In whole steps of the unit, as what was counted of pieces. */
  quantity: number
  unit: string
  /** The order that it belongs to; empty where there is none. */
  order: string
  countedBefore: number | null
  countedAfter: number | null
}

/** Where the way of a part passes operations of a kind. */
const passing = (part: string, kind: string) =>
  `JOIN routing_step r ON r.part_id = ${part} JOIN operation op ON op.id = r.operation_id AND op.kind = '${kind}'`

/** A count that is not there, as the number that it would be. */
const none = 'CAST(NULL AS integer)'
const ofStep = 'JOIN production_order w ON w.id = s.order_id'
const made = 's.good + s.scrapped + s.set_aside'
/** Pieces of a step that were told of before an instant. */
const toldBefore = `COALESCE((SELECT MAX(k.done) FROM step_report k JOIN occasion ko ON ko.id = k.id WHERE k.step_id = s.id AND k.kind = 'pieces'
  AND k.good + k.scrapped + k.set_aside > 0 AND ko.at <= o.at), 0)`

/**
 * One select for each kind of happening: the pieces that it was about, at each operation that it passes; of a step that runs, what was
 * counted before and after. What came up only with a confirmation belongs to the confirmation.
 */
const happenings = [
  `SELECT o.id AS occasion_id, l.id AS lot_id, o.at AS at, op.id AS operation_id, 'arrival' AS moment, l.part_id AS part_id,
     l.supplier_id AS supplier_id, NULL AS customer_id, l.quantity AS quantity, ${none} AS counted_before, ${none} AS counted_after
   FROM occasion o JOIN lot l ON l.origin_id = o.id ${passing('l.part_id', 'receiving')} WHERE o.kind = 'delivery'`,
  ...(['announced', 'registered'] as const).map(
    (moment) => `SELECT o.id, '', o.at, op.id, '${moment}', n.part_id, e.supplier_id, NULL, n.quantity, ${none}, ${none}
   FROM expected_delivery e JOIN occasion o ON o.id = e.${moment}_id JOIN expected_line n ON n.delivery_id = e.id ${passing('n.part_id', 'receiving')}`,
  ),
  `SELECT o.id, w.lot_id, o.at, s.operation_id, 'start', w.part_id, NULL, w.customer_id,
     COALESCE((SELECT b.good FROM order_step b WHERE b.order_id = s.order_id AND b.position = s.position - 1), w.quantity), ${none}, ${none}
   FROM order_step s JOIN occasion o ON o.id = s.start_id ${ofStep}`,
  `SELECT o.id, w.lot_id, o.at, s.operation_id, 'everyPieces', w.part_id, NULL, w.customer_id, r.good + r.scrapped + r.set_aside,
     r.done - r.good - r.scrapped - r.set_aside, r.done
   FROM step_report r JOIN occasion o ON o.id = r.id JOIN order_step s ON s.id = r.step_id ${ofStep}
   WHERE r.kind = 'pieces' AND r.good + r.scrapped + r.set_aside > 0`,
  `SELECT o.id, w.lot_id, o.at, s.operation_id, 'everyMinutes', w.part_id, NULL, w.customer_id, w.quantity,
     COALESCE((SELECT MAX(k.minutes) FROM step_report k WHERE k.step_id = r.step_id AND k.kind = 'timed' AND k.minutes < r.minutes), 0), r.minutes
   FROM step_report r JOIN occasion o ON o.id = r.id JOIN order_step s ON s.id = r.step_id ${ofStep} WHERE r.kind = 'timed'`,
  `SELECT o.id, w.lot_id, o.at, s.operation_id, 'setUp', w.part_id, NULL, w.customer_id, w.quantity, ${none}, ${none}
   FROM step_report r JOIN occasion o ON o.id = r.id JOIN order_step s ON s.id = r.step_id ${ofStep} WHERE r.kind = 'setUp'`,
  `SELECT o.id, w.lot_id, o.at, s.operation_id, 'end', w.part_id, NULL, w.customer_id, s.good, ${toldBefore}, ${made}
   FROM order_step s JOIN occasion o ON o.id = s.end_id ${ofStep} WHERE s.good > 0`,
  `SELECT o.id, l.id, o.at, op.id, 'arrival', l.part_id, NULL, NULL, t.quantity, ${none}, ${none}
   FROM transfer t JOIN occasion o ON o.id = t.id JOIN lot l ON l.id = t.lot_id ${passing('l.part_id', 'transfer')} WHERE t.standing = 'released'`,
  // What was picked at once was asked then what is asked before picking, too.
  `SELECT o.id, '', o.at, op.id, 'beforePicking', n.part_id, NULL, o.partner_id, n.quantity, ${none}, ${none}
   FROM dispatch_line n JOIN occasion o ON o.id = n.dispatch_id ${passing('n.part_id', 'shipping')}`,
  `SELECT o.id, '', o.at, op.id, 'beforePicking', l.part_id, NULL, o.partner_id, SUM(k.quantity), ${none}, ${none}
   FROM dispatch_pick k JOIN occasion o ON o.id = k.dispatch_id AND o.moment = 'beforeDispatch' JOIN lot l ON l.id = k.lot_id ${passing('l.part_id', 'shipping')}
   GROUP BY o.id, o.at, op.id, l.part_id, o.partner_id`,
  `SELECT o.id, l.id, d.picked_at, op.id, 'beforeDispatch', l.part_id, NULL, o.partner_id, SUM(k.quantity), ${none}, ${none}
   FROM dispatch_pick k JOIN dispatch d ON d.id = k.dispatch_id JOIN occasion o ON o.id = d.id JOIN lot l ON l.id = k.lot_id ${passing('l.part_id', 'shipping')}
   GROUP BY o.id, l.id, d.picked_at, op.id, l.part_id, o.partner_id`,
  `SELECT o.id, l.id, o.at, op.id, 'arrival', l.part_id, NULL, o.partner_id, b.quantity, ${none}, ${none}
   FROM customer_return b JOIN occasion o ON o.id = b.id JOIN lot l ON l.id = b.lot_id ${passing('l.part_id', 'return')}`,
]

const pastEventColumns: Columns<PastEventRow> = {
  occasionId: 'text',
  lotId: 'text',
  at: 'text',
  operationId: 'text',
  moment: 'text',
  partId: 'text',
  familyId: 'text?',
  supplierId: 'text?',
  customerId: 'text?',
  supplierGroup: 'text?',
  contract: 'text?',
  quantity: 'number',
  unit: 'text',
  order: 'text',
  countedBefore: 'number?',
  countedAfter: 'number?',
}

/** What happened to pieces of a part, a family or every part (both null), newest first, `most` of it. */
export async function loadPastEvents(
  reader: Reader,
  { partId, familyId }: { partId: string | null; familyId: string | null },
  most: number,
): Promise<PastEventRow[]> {
  const [condition, value] = partId !== null ? ['h.part_id = ?', partId] : ['t.family_id = ?', familyId]
  const isAll = value === null
  return rowsOf<PastEventRow>(
    reader,
    pastEventColumns,
    `SELECT h.*, t.family_id, t.unit, x.order_number AS "order", NULLIF(v.supplier_group, '') AS supplier_group, NULLIF(b.contract, '') AS contract FROM (${happenings.join(' UNION ALL ')}) h JOIN part t ON t.id = h.part_id JOIN occasion x ON x.id = h.occasion_id LEFT JOIN partner v ON v.id = h.supplier_id
       LEFT JOIN purchase_order b ON b.supplier_id = h.supplier_id AND b.order_number = x.order_number ${isAll ? '' : `WHERE ${condition}`}
     ORDER BY h.at DESC, h.occasion_id DESC, h.lot_id DESC, h.operation_id LIMIT ?`,
    [...(isAll ? [] : [value]), most],
  )
}

/** What a plan had looked at: the inspection that asked for it, which several may share, and what became of it. */
export interface OpenedRow {
  occasionId: string
  /** Empty for a load. */
  lotId: string
  operationId: string
  planId: string
  inspectionId: string
  /** Null while nobody has finished it, and where it was called off. */
  verdict: string | null
}

const openedRowColumns: Columns<OpenedRow> = {
  occasionId: 'text',
  lotId: 'text',
  operationId: 'text',
  planId: 'text',
  inspectionId: 'text',
  verdict: 'text?',
}

/** What was opened since an instant. */
export async function openedSince(reader: Reader, at: string): Promise<OpenedRow[]> {
  return rowsOf<OpenedRow>(
    reader,
    openedRowColumns,
    `SELECT COALESCE(CASE WHEN r.kind = 'lastPiece' OR (r.kind = 'pieces' AND r.good + r.scrapped + r.set_aside = 0) THEN s.end_id END, c.occasion_id) AS occasion_id,
       COALESCE(c.lot_id, '') AS lot_id, c.operation_id, c.plan_id, i.id AS inspection_id,
       CASE WHEN i.state = 'cancelled' THEN NULL ELSE i.verdict END AS verdict
     FROM consideration c JOIN inspection i ON i.id = c.inspection_id LEFT JOIN step_report r ON r.id = c.occasion_id LEFT JOIN order_step s ON s.id = r.step_id
     WHERE c.at >= ? AND c.occasion_id IS NOT NULL`,
    [at],
  )
}

/** What the pieces of lots are told apart by, lot by lot. */
export async function loadTrackedUnits(reader: Reader, lotIds: readonly string[]): Promise<Map<string, { kind: UnitKind; quantity: number }[]>> {
  const rows = await rowsOf<{ lotId: string; kind: UnitKind; quantity: number }>(
    reader,
    { lotId: 'text', kind: 'text', quantity: 'number' },
    `SELECT c.lot_id, CASE WHEN c.serial IS NULL THEN 'container' ELSE 'serial' END AS kind, c.quantity FROM container c
     WHERE c.lot_id IN (SELECT value FROM json_each(?)) ORDER BY c.lot_id, c.label`,
    [JSON.stringify(lotIds)],
  )
  const byLot = new Map<string, { kind: UnitKind; quantity: number }[]>()
  for (const { lotId, ...unit } of rows) {
    const known = byLot.get(lotId)
    if (known) known.push(unit)
    else byLot.set(lotId, [unit])
  }
  return byLot
}
