import type { Filter, ListSpec } from '../../kernel/http/lists'
import type { SearchProvider } from '../../kernel/area'

/** Transfers by their number. */
export const transfersFound: SearchProvider = {
  kind: 'transfer',
  sql: `SELECT t.id, t.code AS title, l.code || ' to ' || p.name AS detail FROM transfer t JOIN occasion o ON o.id = t.id JOIN lot l ON l.id = t.lot_id
    JOIN place p ON p.id = o.place_id WHERE t.code LIKE ? ESCAPE '\\' OR l.code LIKE ? ESCAPE '\\' ORDER BY t.code DESC LIMIT 4`,
}

export const transferList: ListSpec = {
  from: `transfer x JOIN occasion o ON o.id = x.id JOIN lot l ON l.id = x.lot_id JOIN part t ON t.id = l.part_id JOIN place a ON a.id = o.from_place_id
    JOIN place b ON b.id = o.place_id JOIN person p ON p.id = o.person_id LEFT JOIN container c ON c.id = x.container_id LEFT JOIN put_away_rule r ON r.id = x.rule_id`,
  countFrom: 'transfer x',
  id: 'x.id',
  columns: {
    id: { sql: 'x.id' },
    code: { sql: 'x.code' },
    lotId: { sql: 'x.lot_id' },
    lotCode: { sql: 'l.code' },
    partCode: { sql: 't.code' },
    containerLabel: { sql: 'c.label', isNullable: true },
    quantity: { sql: 'x.quantity', kind: 'quantity' },
    unit: { sql: 't.unit', kind: 'unit' },
    standing: { sql: 'x.standing' },
    fromPlaceName: { sql: 'a.name' },
    toPlaceName: { sql: 'b.name' },
    ruleName: { sql: 'r.name', isNullable: true },
    byName: { sql: 'p.name' },
    at: { sql: 'o.at' },
    openChecks: {
      sql: `(SELECT COUNT(*) FROM inspection i WHERE i.occasion_id = x.id AND i.state IN ('toDo', 'started', 'finished'))`,
      kind: 'number',
    },
  },
  search: ['x.code', 'l.code', 't.code', 'a.name', 'b.name', 'c.label', 'p.name'],
  sort: ['code', 'desc'],
}

export const movementList: ListSpec = {
  from: `movement m JOIN lot l ON l.id = m.lot_id JOIN part t ON t.id = l.part_id JOIN place b ON b.id = m.to_place_id JOIN person p ON p.id = m.person_id
    LEFT JOIN place a ON a.id = m.from_place_id LEFT JOIN container c ON c.id = m.container_id`,
  countFrom: 'movement m',
  id: 'm.seq',
  columns: {
    id: { sql: 'CAST(m.seq AS TEXT)', sortSql: 'm.seq' },
    at: { sql: 'm.at' },
    kind: { sql: 'm.kind' },
    lotId: { sql: 'm.lot_id' },
    lotCode: { sql: 'l.code' },
    partCode: { sql: 't.code' },
    containerLabel: { sql: 'c.label', isNullable: true },
    quantity: { sql: 'm.quantity', kind: 'quantity' },
    unit: { sql: 't.unit', kind: 'unit' },
    fromPlaceName: { sql: 'a.name', isNullable: true },
    fromStanding: { sql: 'm.from_standing', isNullable: true },
    toPlaceName: { sql: 'b.name' },
    toStanding: { sql: 'm.to_standing' },
    byName: { sql: 'p.name' },
  },
  search: ['l.code', 'l.supplier_lot', 't.code', 'c.label', 'a.name', 'b.name', 'p.name'],
  sort: ['at', 'desc'],
}

export function movementFilters({ lotId, until }: { lotId?: string | undefined; until?: string | undefined }): Filter[] {
  return [
    ...(lotId === undefined ? [] : [{ sql: 'm.lot_id = ?', values: [lotId] }]),
    ...(until === undefined ? [] : [{ sql: 'm.at <= ?', values: [until] }]),
  ]
}
