import { ChainWriter } from '../audit/auditChain'
import type { Connection, Value } from '../database/connection'
import { emptyServer } from '../database/postgres/postgresDatabase'
import { PostgresConnection, shownAddress } from '../database/postgres/postgres'
import { openSqlite } from '../database/sqlite/sqliteDatabase'
import { isServer, type Schema } from '../work/database'
import { verifyPlant, type Anchors } from './verifyPlant'

const maxValues = 20_000
const maxRows = 500

/** Tables on the server, each after those that its rows point at. */
async function tablesInOrder(connection: PostgresConnection): Promise<string[]> {
  const names = (
    await connection.rows(`SELECT relname AS name FROM pg_class WHERE relkind = 'r' AND relnamespace = current_schema()::regnamespace ORDER BY 1`)
  ).map(({ name }) => String(name))
  const links = await connection.rows(`SELECT f.relname AS child, t.relname AS parent FROM pg_constraint c JOIN pg_class f ON f.oid = c.conrelid
    JOIN pg_class t ON t.oid = c.confrelid WHERE c.contype = 'f' AND c.connamespace = current_schema()::regnamespace AND c.conrelid <> c.confrelid`)
  const parents = new Map(names.map((name) => [name, links.filter(({ child }) => child === name).map(({ parent }) => String(parent))]))
  const ordered: string[] = []
  const place = (name: string, above: readonly string[]): void => {
    if (ordered.includes(name) || above.includes(name)) return
    for (const parent of parents.get(name) ?? []) place(parent, [...above, name])
    ordered.push(name)
  }
  for (const name of names) place(name, [])
  return ordered.filter((name) => name !== 'migrations')
}

/** Copies the rows of a table in the order in which they were written. Gives how many. */
async function copyTable(from: Connection, to: PostgresConnection, table: string): Promise<number> {
  const columns = (await from.rows(`SELECT name FROM pragma_table_info(?) ORDER BY cid`, [table])).map(({ name }) => String(name))
  if (columns.length === 0) return 0
  const into = `INSERT INTO "${table}" (${columns.map((column) => `"${column}"`).join(', ')}) VALUES `
  const one = `(${columns.map(() => '?').join(', ')})`
  const atOnce = Math.min(maxRows, Math.floor(maxValues / columns.length))
  let waiting: Value[] = []
  let count = 0
  const write = async () => {
    if (waiting.length > 0) await to.rows(into + Array.from({ length: waiting.length / columns.length }, () => one).join(', '), waiting)
    waiting = []
  }
  for await (const row of from.each(`SELECT * FROM "${table}" ORDER BY rowid`)) {
    waiting.push(...columns.map((column) => row[column] ?? null))
    count += 1
    if (waiting.length >= atOnce * columns.length) await write()
  }
  await write()
  return count
}

/**
 * Carries a plant from the file of a data folder to an empty database on a server: every row, in one transaction, and the chain with it.
 * It is proved before on this side and afterwards on the other one; the file stays as it is.
 * @throws {Error} in words for people: when either side is not whole, or something is there already.
 */
export async function movePlant(folder: string, address: string, schema: Schema, anchors: Anchors, tell: (words: string) => void): Promise<void> {
  if (!isServer(address)) throw new Error(`Received "${address}". Name the server: npm run move -- --to postgres://name@host/plant`)
  // Brings the file up to date, so that both sides have the same tables.
  const source = await openSqlite(folder, schema)
  const from = source.writer.connection
  const client = await emptyServer(address, schema)
  const to = new PostgresConnection(client)
  try {
    const before = await verifyPlant(source.address, schema, anchors)
    if (before.breaks.length > 0) throw new Error(`The plant in ${folder} is not whole; nothing was moved:\n  ${before.breaks.join('\n  ')}`)
    await to.begin()
    const tables = await tablesInOrder(to)
    // What the guards keep and refuse is in the rows already; they are on again before the transaction ends.
    for (const table of tables) await to.run(`ALTER TABLE "${table}" DISABLE TRIGGER USER`)
    for (const table of [...tables].reverse()) await to.run(`DELETE FROM "${table}"`)
    for (const table of tables) {
      const count = await copyTable(from, to, table)
      if (count > 0) tell(`${table}: ${count}`)
    }
    for (const table of tables) await to.run(`ALTER TABLE "${table}" ENABLE TRIGGER USER`)
    for (const table of ['audit', 'movement'])
      await to.run(`SELECT setval(pg_get_serial_sequence('${table}', 'seq'), GREATEST((SELECT MAX(seq) FROM "${table}"), 1))`)
    await new ChainWriter(to).append(
      new Date().toISOString(),
      null,
      [{ action: 'moved', subject: 'plant', subjectId: '', after: { to: shownAddress(address) } }],
      null,
    )
    await to.commit()
  } catch (error) {
    if (to.isOpen()) await to.run('ROLLBACK')
    throw error
  } finally {
    await client.end()
    await source.close()
  }
  const after = await verifyPlant(address, schema, anchors)
  if (after.breaks.length > 0)
    throw new Error(`What arrived at ${shownAddress(address)} is not whole; go on with the file:\n  ${after.breaks.join('\n  ')}`)
  tell(`${after.entries} entries of the audit chain fit on the other side, and every row with them.`)
}
