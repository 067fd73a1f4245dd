import type { Filter, ListSpec } from '../../kernel/http/lists'
import { heldSinceSql } from '../../stock/ledger/holdRepository'

const inStanding = (standing: string) => `SUM(CASE WHEN b.standing = '${standing}' THEN b.quantity ELSE 0 END)`

/** Held for so many days at least, and for fewer than so many. */
export function heldFilters({ fromDays, untilDays }: { fromDays?: number | undefined; untilDays?: number | undefined }, now: Date): Filter[] {
  const ago = (days: number) => new Date(now.getTime() - days * 86_400_000).toISOString()
  return [
    ...(fromDays === undefined || fromDays === 0 ? [] : [{ sql: `${heldSinceSql} <= ?`, values: [ago(fromDays)] }]),
    ...(untilDays === undefined ? [] : [{ sql: `${heldSinceSql} > ?`, values: [ago(untilDays)] }]),
  ]
}

export const heldList: ListSpec = {
  from: `(SELECT b.lot_id, ${inStanding('onHold')} AS on_hold, ${inStanding('quarantined')} AS quarantined
          FROM balance b WHERE b.standing IN ('onHold', 'quarantined') AND b.quantity > 0 GROUP BY b.lot_id) h
         JOIN lot l ON l.id = h.lot_id JOIN part t ON t.id = l.part_id LEFT JOIN partner s ON s.id = l.supplier_id
         LEFT JOIN inspection i ON i.id = (SELECT n.id FROM inspection n WHERE n.state <> 'cancelled' AND (n.lot_id = l.id OR (n.subject_id = l.origin_id
           AND n.subject_kind = 'load' AND NOT EXISTS (SELECT 1 FROM decision d WHERE d.inspection_id = n.id AND d.lot_id = l.id)))
           ORDER BY n.state = 'finished' DESC, n.state <> 'decided' DESC, n.code LIMIT 1)`,
  id: 'l.id',
  columns: {
    id: { sql: 'l.id' },
    lotId: { sql: 'l.id' },
    lotCode: { sql: 'l.code' },
    partCode: { sql: 't.code' },
    partName: { sql: 't.name' },
    supplierName: { sql: `COALESCE(s.name, '')` },
    unit: { sql: 't.unit', kind: 'unit' },
    onHold: { sql: 'h.on_hold', kind: 'quantity' },
    quarantined: { sql: 'h.quarantined', kind: 'quantity' },
    heldSince: { sql: heldSinceSql },
    inspectionId: { sql: 'i.id', isNullable: true },
    waitsFor: {
      sql: `CASE WHEN i.state = 'finished' AND i.verdict = 'notAcceptable' THEN 'decisionNotAcceptable' WHEN i.state = 'finished' THEN 'decisionAcceptable'
            WHEN i.state = 'started' THEN 'benchStarted' WHEN i.state = 'toDo' THEN 'bench' ELSE 'decisionAnew' END`,
    },
  },
  search: ['l.code', 't.code', 't.name', 's.name', 'l.supplier_lot'],
  sort: ['heldSince', 'asc'],
}
