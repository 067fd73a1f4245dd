import type Sqlite from 'better-sqlite3'
import { rowDigest, type RawRow } from './rowDigest'
import type { RawDatabase } from './rawDatabase'

/**
 * Rows that a change wrote, as the chain keeps them: by table and key the digits of the row, 0 for one that was deleted. Rows of a
 * grouped table stand together by what they belong to: how many were added, and the digits of all of them.
 */
export type RowSeals = Record<string, Record<string, string | 0 | [number, string]>>

/** Not sealed: the chain itself, what runs out by itself, running numbers, and balances, which are proved by the movements. */
const exempt = new Set(['audit', 'request_key', 'counter', 'migrations', 'balance'])
/** Many small rows that are only ever added: sealed together, by this column. */
const groupedBy: Readonly<Record<string, string>> = { reading: 'inspectionId' }

export interface SealedTable {
  readonly name: string
  readonly keys: readonly string[]
  readonly groupedBy: string | null
}

/** Every table of the database whose rows the chain has to know. */
export function sealedTables(raw: RawDatabase): SealedTable[] {
  const names = raw
    .prepare("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name")
    .pluck()
    .all() as string[]
  return names
    .filter((name) => !exempt.has(name))
    .map((name) => ({
      name,
      keys: (raw.prepare(`SELECT name FROM pragma_table_info(?) WHERE pk > 0 ORDER BY pk`).pluck().all(name) as string[]) ?? [],
      groupedBy: groupedBy[name] ?? null,
    }))
}

/** The key of a row as SQL; parts of a key of several columns are joined by a slash. */
export function keySql({ keys }: SealedTable, of: string): string {
  return keys.map((key) => `${of}"${key}"`).join(` || '/' || `)
}

/** Notes on this connection alone which rows are written: what another program writes past the server is in no seal. */
export function watchRows(raw: RawDatabase): void {
  raw.exec('CREATE TEMP TABLE touched (tbl TEXT, rid INTEGER, key TEXT, PRIMARY KEY (tbl, key)) WITHOUT ROWID')
  for (const table of sealedTables(raw)) {
    const note = (row: 'NEW' | 'OLD') => `INSERT OR REPLACE INTO touched VALUES ('${table.name}', ${row}.rowid, ${keySql(table, `${row}.`)});`
    raw.exec(`
      CREATE TEMP TRIGGER "touch_${table.name}_insert" AFTER INSERT ON main."${table.name}" BEGIN ${note('NEW')} END;
      CREATE TEMP TRIGGER "touch_${table.name}_update" AFTER UPDATE ON main."${table.name}" BEGIN ${note('OLD')} ${note('NEW')} END;
      CREATE TEMP TRIGGER "touch_${table.name}_delete" AFTER DELETE ON main."${table.name}" BEGIN ${note('OLD')} END;`)
  }
}

/** Seals what the open transaction wrote; null where it wrote nothing that is sealed. */
export class RowSealer {
  private readonly tables: ReadonlyMap<string, SealedTable>

  constructor(private readonly raw: RawDatabase) {
    this.tables = new Map(sealedTables(raw).map((table) => [table.name, table]))
  }

  private readonly statements = new Map<string, Sqlite.Statement<unknown[]>>()
  private prepared(sql: string): Sqlite.Statement<unknown[]> {
    const known = this.statements.get(sql)
    if (known) return known
    const made = this.raw.prepare<unknown[]>(sql)
    this.statements.set(sql, made)
    return made
  }

  /** Leaves out what was written before the transaction: it did not come through it. */
  forget(): void {
    this.prepared('DELETE FROM temp.touched').run()
  }

  take(): RowSeals | null {
    const touched = this.prepared('SELECT tbl, rid, key FROM temp.touched').all() as { tbl: string; rid: number; key: string }[]
    if (touched.length === 0) return null
    const seals: RowSeals = {}
    for (const name of new Set(touched.map(({ tbl }) => tbl))) {
      const table = this.tables.get(name) as SealedTable
      const rows = this.prepared(
        `SELECT rowid AS "rowid ", * FROM "${name}" WHERE rowid IN (SELECT rid FROM temp.touched WHERE tbl = '${name}') ORDER BY rowid`,
      ).all() as RawRow[]
      if (table.groupedBy !== null) seals[name] = groupSeals(rows.map(plain), table.groupedBy)
      else {
        const byRow = new Map(rows.map((row) => [row['rowid '], rowDigest([plain(row)])]))
        seals[name] = Object.fromEntries(touched.filter(({ tbl }) => tbl === name).map(({ rid, key }) => [key, byRow.get(rid) ?? (0 as const)]))
      }
    }
    this.forget()
    return seals
  }
}

function plain({ 'rowid ': _, ...row }: RawRow): RawRow {
  return row
}

/** Rows together by what they belong to, in the order in which they were added. */
export function groupSeals(rows: readonly RawRow[], column: string): Record<string, [number, string]> {
  const groups = new Map<string, RawRow[]>()
  for (const row of rows) {
    const key = String(row[column])
    const group = groups.get(key)
    if (group) group.push(row)
    else groups.set(key, [row])
  }
  return Object.fromEntries([...groups].map(([key, group]) => [key, [group.length, rowDigest(group)] as [number, string]]))
}
