import { setImmediate } from 'node:timers/promises'
import { textOf, type Cells, type Connection, type Value } from '../database/connection'
import { cellsDigest } from './rowDigest'

/**
 * Rows that a change wrote, as the chain keeps them: by table and key the digits of the row, 0 for one that was deleted. Rows of a
 * grouped table stand together by what they belong to: how many were added, and the digits of all of them.
 */
export type RowSeals = Record<string, Record<string, string | 0 | [number, string]>>

/** Not sealed: the chain itself, migrations, which it names, balances, which are proved by the movements, failed tries to sign in, and who was seen when. */
const exempt = new Set(['audit', 'migrations', 'balance', 'attempt', 'session_seen'])
/** Sealed since a later release than the rest: a plant whose chain names none of their rows is of an earlier one. */
const late = new Set(['request_key', 'counter'])
/** Their rows go by themselves after a while: one that is gone is no break. */
const runningOut = new Set(['request_key'])
/** Many small rows that are only ever added: sealed together, by this column (under its name of an earlier release, too). */
const groupedBy: Readonly<Record<string, readonly string[]>> = { reading: ['inspection_id', 'inspectionId'] }

export interface SealedTable {
  readonly name: string
  readonly keys: readonly string[]
  readonly groupedBy: string | null
  /** Whether the key is a number that the database does not compare with a text by itself. */
  readonly isNumbered: boolean
  /** Whether a plant of an earlier release has rows of it that no seal names. */
  readonly isLate: boolean
  /** Whether rows are taken out by themselves after a while, of which the chain is not told. */
  readonly runsOut: boolean
}

const columnsSql = {
  sqlite: `SELECT m.name AS "table", c.name AS "column", c.pk AS place, 0 AS numbered FROM main.sqlite_master m JOIN pragma_table_info(m.name) c
    WHERE m.type = 'table' AND m.name NOT LIKE 'sqlite_%' ORDER BY m.name, c.pk, c.cid`,
  postgres: `SELECT c.relname AS "table", a.attname AS "column", COALESCE(array_position(i.indkey::int[], a.attnum::int) + 1, 0) AS place, a.atttypid <> 'text'::regtype AS numbered
    FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped
    LEFT JOIN pg_index i ON i.indrelid = c.oid AND i.indisprimary
    WHERE c.relkind = 'r' AND c.relnamespace = current_schema()::regnamespace ORDER BY c.relname, place, a.attnum`,
}

/** Every table of the database whose rows the chain has to know; one without a key is none that a release made. */
export async function sealedTables(connection: Connection): Promise<SealedTable[]> {
  const columns = await connection.rows(columnsSql[connection.kind])
  const tables = new Map<string, { keys: string[]; columns: Set<string>; isNumbered: boolean }>()
  for (const { table, column, place, numbered } of columns) {
    const sealed = tables.get(String(table)) ?? { keys: [], columns: new Set<string>(), isNumbered: false }
    tables.set(String(table), sealed)
    if (Number(place) > 0) {
      sealed.keys.push(String(column))
      sealed.isNumbered = numbered === 1
    }
    sealed.columns.add(String(column))
  }
  return [...tables]
    .filter(([name, { keys }]) => !exempt.has(name) && keys.length > 0)
    .map(([name, { keys, columns: has, isNumbered }]) => ({
      name,
      keys,
      groupedBy: groupedBy[name]?.find((column) => has.has(column)) ?? null,
      isNumbered: isNumbered && keys.length === 1,
      isLate: late.has(name),
      runsOut: runningOut.has(name),
    }))
}

/** The key of a row as SQL; parts of a key of several columns are joined by a slash. */
export function keySql({ keys, isNumbered }: Pick<SealedTable, 'keys' | 'isNumbered'>, alias: string): string {
  const joined = keys.map((key) => `${alias}"${key}"`).join(` || '/' || `)
  return isNumbered ? `CAST(${joined} AS TEXT)` : joined
}

/**
 * Notes on this connection alone which rows are written. In SQLite no row of a sealed table is written with ON CONFLICT: the trigger would go by it.
 * What another program writes past the server is in no seal. In PostgreSQL the
 * triggers stand in the schema and write only where the connection has the table to write to.
 */
export async function watchRows(connection: Connection): Promise<void> {
  const text = textOf(connection)
  if (connection.kind === 'postgres') return connection.run(`CREATE TEMP TABLE touched (tbl ${text}, key ${text}, PRIMARY KEY (tbl, key))`)
  await connection.run('CREATE TEMP TABLE touched (tbl TEXT, rid INTEGER, key TEXT, PRIMARY KEY (tbl, key)) WITHOUT ROWID')
  for (const table of await sealedTables(connection)) {
    // Rows that are only added are found by how far they were sealed before.
    if (table.groupedBy !== null) continue
    const note = (row: 'NEW' | 'OLD') => `INSERT OR REPLACE INTO touched VALUES ('${table.name}', ${row}.rowid, ${keySql(table, `${row}.`)});`
    await connection.run(`
      CREATE TEMP TRIGGER "touch_${table.name}_insert" AFTER INSERT ON main."${table.name}" BEGIN ${note('NEW')} END;
      CREATE TEMP TRIGGER "touch_${table.name}_update" AFTER UPDATE ON main."${table.name}" BEGIN ${note('OLD')} ${note('NEW')} END;
      ${table.runsOut ? '' : `CREATE TEMP TRIGGER "touch_${table.name}_delete" AFTER DELETE ON main."${table.name}" BEGIN ${note('OLD')} END;`}`)
  }
}

/** Rows that are sealed before others have their turn: some ten milliseconds. */
const rowsATurn = 500

/** Seals what the open transaction wrote; null where it wrote nothing that is sealed. */
export class RowSealer {
  private tables: ReadonlyMap<string, SealedTable> | null = null
  /** How far the rows of grouped tables, which are only added to, were sealed. */
  private readonly sealedTo = new Map<string, Value>()

  constructor(private readonly connection: Connection) {}

  /** Leaves out what was written before: it did not come through a change. Once for a transaction, as its first step. */
  async begin(): Promise<void> {
    this.tables ??= new Map((await sealedTables(this.connection)).map((table) => [table.name, table]))
    await this.connection.rows('DELETE FROM touched')
    for (const { name, groupedBy: column } of this.tables.values()) if (column !== null) this.sealedTo.set(name, await this.lastOf(name))
  }

  private async lastOf(name: string): Promise<Value> {
    const { rows } = await this.connection.cells(`SELECT rowid FROM "${name}" ORDER BY rowid DESC LIMIT 1`)
    return rows[0]?.[0] ?? 0
  }

  async take(): Promise<RowSeals | null> {
    const { connection } = this
    const seals: RowSeals = {}
    for (const [name, last] of this.sealedTo) {
      const column = this.tables?.get(name)?.groupedBy ?? ''
      const { names, rows } = await connection.cells(`SELECT t.rowid AS rowid, t.* FROM "${name}" t WHERE t.rowid > ? ORDER BY t.rowid`, [last])
      if (rows.length === 0) continue
      seals[name] = groupSeals({ names, rows }, column)
      this.sealedTo.set(name, rows.at(-1)?.[0] ?? last)
    }
    for (let after: readonly Value[] = ['', '']; ; await setImmediate()) {
      const { rows: page } = await connection.cells(
        `SELECT tbl, key FROM touched WHERE (tbl, key) > (?, ?) ORDER BY tbl, key LIMIT ${rowsATurn}`,
        after,
      )
      for (let from = 0, to = 0; from < page.length; from = to) {
        const name = String(page[from]?.[0])
        while (to < page.length && page[to]?.[0] === name) to++
        Object.assign(
          (seals[name] ??= {}),
          await this.sealTouched(
            name,
            page.slice(from, to).map(([, key]) => String(key)),
          ),
        )
      }
      if (page.length < rowsATurn) {
        if (page.length > 0 || after[0] !== '') await connection.rows('DELETE FROM touched')
        return Object.keys(seals).length === 0 ? null : seals
      }
      after = page.at(-1) ?? after
    }
  }

  /** Seals of rows of a table that were written. @param keys theirs, in order */
  private async sealTouched(name: string, keys: readonly string[]): Promise<RowSeals[string]> {
    const table = this.tables?.get(name) as SealedTable
    // A file gives the number of a row that is gone to the next one: the row is found by it, and known by its key.
    const byKey = `${keySql(table, 't.')} = x.key`
    const isSame = this.connection.kind === 'sqlite' ? `t.rowid = x.rid AND ${byKey}` : byKey
    const { names, rows } = await this.connection.cells(
      `SELECT x.key AS "key ", t.* FROM touched x JOIN "${name}" t ON ${isSame} WHERE x.tbl = '${name}' AND x.key >= ? AND x.key <= ?`,
      [keys[0] ?? '', keys.at(-1) ?? ''],
    )
    const digests = new Map<string, string>()
    for (const row of rows) digests.set(String(row[0]), cellsDigest(names, [row]))
    return Object.fromEntries(keys.map((key) => [key, digests.get(key) ?? 0]))
  }
}

/** Rows together by what they belong to, in the order in which they were added. */
export function groupSeals({ names, rows }: Cells, column: string): Record<string, [number, string]> {
  const at = names.indexOf(column)
  const groups = new Map<Value, (readonly Value[])[]>()
  for (const row of rows) {
    const key = row[at] as Value
    const group = groups.get(key)
    if (group) group.push(row)
    else groups.set(key, [row])
  }
  return Object.fromEntries([...groups].map(([key, group]) => [String(key), [group.length, cellsDigest(names, group)] as [number, string]]))
}
