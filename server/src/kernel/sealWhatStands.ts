import { ChainWriter } from './auditChain'
import { rowDigest, type RawRow } from './rowDigest'
import { groupSeals, keySql, sealedTables, type RowSeals, type SealedTable } from './rowSeals'
import type { RawDatabase } from './rawDatabase'

const rowsAtOnce = 500

/**
 * Says in the chain how every row stands after a migration: the first one with seals covers all that was written before, a later one
 * all that it rewrote. `why` names the last migration, so that the next start knows that it was said.
 */
export function sealWhatStands(raw: RawDatabase, why: string, at: string): void {
  const chain = new ChainWriter(raw)
  const say = (rows: RowSeals) => chain.append(at, null, [{ action: 'sealed', subject: 'plant', subjectId: '', why }], rows)
  raw.exec('BEGIN IMMEDIATE')
  try {
    for (const table of sealedTables(raw)) {
      if (table.groupedBy !== null) for (const rows of groupsOf(raw, table, table.groupedBy)) say({ [table.name]: { ...rows, '*': 0 } })
      else for (const rows of chunksOf(raw, table)) say({ [table.name]: rows })
    }
    raw.exec('COMMIT')
  } catch (error) {
    if (raw.inTransaction) raw.exec('ROLLBACK')
    throw error
  }
}

function* chunksOf(raw: RawDatabase, table: SealedTable): Generator<RowSeals[string]> {
  const page = raw.prepare(
    `SELECT rowid AS "rowid ", ${keySql(table, 't.')} AS "key ", t.* FROM "${table.name}" t WHERE rowid > ? ORDER BY rowid LIMIT ${rowsAtOnce}`,
  )
  for (let last = -Infinity; ;) {
    const rows = page.all(last === -Infinity ? -1 : last) as RawRow[]
    if (rows.length === 0) return
    yield Object.fromEntries(rows.map(({ 'rowid ': _, 'key ': key, ...row }) => [String(key), rowDigest([row])]))
    last = Number(rows.at(-1)?.['rowid '])
  }
}

/** All rows of a group stand in one seal, so that a group is never cut. */
function* groupsOf(raw: RawDatabase, table: SealedTable, column: string): Generator<RowSeals[string]> {
  const groups = raw.prepare(`SELECT DISTINCT "${column}" FROM "${table.name}" ORDER BY 1`).pluck().all() as string[]
  const rowsOf = raw.prepare(`SELECT * FROM "${table.name}" WHERE "${column}" = ? ORDER BY rowid`)
  for (let at = 0; at < groups.length; at += rowsAtOnce) {
    yield Object.assign(
      {},
      ...groups.slice(at, at + rowsAtOnce).map((group) => groupSeals(rowsOf.all(group) as RawRow[], column)),
    ) as RowSeals[string]
  }
}
