import { column, key, maybe, statementsFor, type Table } from './tables'

/**
 * Columns that came with serial numbers, days of hold, usual containers, groups of suppliers and contracts: table, column, its type, and what stands in it at first
 * (null for nothing). The same in a file and on a server.
 */
const columns: readonly (readonly [table: string, column: string, type: 'text' | 'integer', start: string | null])[] = [
  ['container', 'serial', 'text', null],
  ['part', 'hold_days', 'integer', null],
  ['part', 'pack_quantity', 'integer', null],
  ['partner', 'supplier_group', 'text', `''`],
  ['control_point', 'supplier_group', 'text', null],
  ['control_point', 'contract', 'text', null],
]

/** Standings that a plant tells apart more finely, and which lots have them. */
export const finerTables: readonly Table[] = [
  {
    name: 'finer_standing',
    primary: 'PK_4ed3d71affffd45ecb5d154ee9d',
    columns: [
      column('id'),
      column('code'),
      column('name'),
      column('version', 'integer'),
      column('standing'),
      column('may_use', 'boolean'),
      column('may_pick', 'boolean'),
      column('may_ship', 'boolean'),
      column('counts_for_planning', 'boolean'),
      column('is_active', 'boolean'),
    ],
    uniques: { UQ_9b142c6f6e269d8d00aed39a9bb: ['code'] },
    indices: {},
  },
  {
    name: 'lot_standing',
    primary: 'PK_27e854f2966ce40e7ea5ac0040a',
    columns: [
      column('id'),
      key('lot_id', 'lot', '9f403febb1995a74ce92e12309b'),
      key('container_id', 'container', '28ef17f4bd52ec54fd0360d8f9b', true),
      key('finer_id', 'finer_standing', '95d2a911457098ec40d989c1059'),
      column('reason'),
      column('at'),
      key('person_id', 'person', '0ec25bfaa02009fe57fdca80dc1'),
      maybe('ended_at'),
      key('ended_by_id', 'person', '343a9507c4fa2e6dfe90b88cf36', true),
    ],
    uniques: {},
    indices: { lot_standing_lot: ['lot_id'] },
  },
]

/** The columns and tables; on a server a text is ordered by its code points, as in a file. */
export function scopeStatements(kind: 'sqlite' | 'postgres'): string[] {
  const typeOf = (type: 'text' | 'integer') => (type === 'text' && kind === 'postgres' ? 'text COLLATE "C"' : type)
  const added = columns.map(
    ([table, name, type, start]) =>
      `ALTER TABLE "${table}" ADD COLUMN "${name}" ${typeOf(type)}${start === null ? '' : ` NOT NULL DEFAULT ${kind === 'sqlite' ? `(${start})` : start}`}`,
  )
  return [...added, ...statementsFor(kind, finerTables)]
}
