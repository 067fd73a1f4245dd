import { ChainWriter } from './auditChain'
import type { Value, WritingConnection } from '../database/connection'
import { falselySealed } from './mendSeals'
import { rowDigest } from './rowDigest'
import { groupSeals, keySql, sealedTables, type RowSeals, type SealedTable } from './rowSeals'

const rowsAtOnce = 500
const mendedWords = 'an earlier release sealed rows that it had taken out; they are said to be gone now'

/**
 * Says in the chain how every row stands after a migration: the first one with seals covers all that was written before, a later one
 * all that it rewrote. `why` names the last migration, so that the next start knows that it was said.
 */
export async function sealWhatStands(connection: WritingConnection, why: string, at: string): Promise<void> {
  const chain = new ChainWriter(connection)
  const say = (rows: RowSeals) => chain.append(at, null, [{ action: 'sealed', subject: 'plant', subjectId: '', why }], rows)
  await connection.begin()
  try {
    const mended = await falselySealed(connection)
    if (mended !== null) await chain.append(at, null, [{ action: 'seals mended', subject: 'plant', subjectId: '', why: mendedWords }], mended)
    for (const table of await sealedTables(connection)) {
      const { name, groupedBy } = table
      if (groupedBy !== null) for await (const rows of groupsOf(connection, table, groupedBy)) await say({ [name]: { ...rows, '*': 0 } })
      else for await (const rows of chunksOf(connection, table)) await say({ [name]: rows })
    }
    await connection.commit()
  } catch (error) {
    if (connection.isOpen()) await connection.run('ROLLBACK')
    throw error
  }
}

async function* chunksOf(connection: WritingConnection, table: SealedTable): AsyncGenerator<RowSeals[string]> {
  const { name, keys } = table
  const inOrder = keys.map((key) => `t."${key}"`).join(', ')
  let last: Value[] | null = null
  for (;;) {
    const after: string = last === null ? '' : `WHERE (${inOrder}) > (${keys.map(() => '?').join(', ')})`
    const sql = `SELECT ${keySql(table, 't.')} AS "key ", t.* FROM "${name}" t ${after} ORDER BY ${inOrder} LIMIT ${rowsAtOnce}`
    const rows = await connection.rows(sql, last ?? [])
    const end = rows.at(-1)
    if (!end) return
    yield Object.fromEntries(rows.map((row) => [String(row['key ']), rowDigest([row])]))
    last = keys.map((key) => end[key] as Value)
  }
}

/** All rows of a group stand in one seal, so that a group is never cut. */
async function* groupsOf(connection: WritingConnection, { name }: SealedTable, column: string): AsyncGenerator<RowSeals[string]> {
  const groups = await connection.rows(`SELECT DISTINCT "${column}" AS "group" FROM "${name}" ORDER BY 1`)
  for (let at = 0; at < groups.length; at += rowsAtOnce) {
    const some: RowSeals[string] = {}
    for (const { group } of groups.slice(at, at + rowsAtOnce)) {
      const cells = await connection.cells(`SELECT * FROM "${name}" WHERE "${column}" = ? ORDER BY rowid`, [group])
      Object.assign(some, groupSeals(cells, column))
    }
    yield some
  }
}
