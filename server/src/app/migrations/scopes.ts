/**
 * What came with serial numbers, days of hold, groups of suppliers and contracts: table, column, its type, and what stands in it at first (null
 * for nothing). The same in a file and on a server.
 */
const columns: readonly (readonly [table: string, column: string, type: 'text' | 'integer', start: string | null])[] = [
  ['container', 'serial', 'text', null],
  ['part', 'hold_days', 'integer', null],
  ['partner', 'supplier_group', 'text', `''`],
  ['control_point', 'supplier_group', 'text', null],
  ['control_point', 'contract', 'text', null],
]

export const scopeStatements = columns.map(
  ([table, column, type, start]) => `ALTER TABLE "${table}" ADD COLUMN "${column}" ${type}${start === null ? '' : ` NOT NULL DEFAULT (${start})`}`,
)
