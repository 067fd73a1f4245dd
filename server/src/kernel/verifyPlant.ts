import { setImmediate as breathe } from 'node:timers/promises'
import { createHash } from 'node:crypto'
import Sqlite from 'better-sqlite3'
import { beginning, hashOf } from './auditChain'
import { isSealed, type Head, type SignedHead } from './chainHead'
import { expectedSchema, migrationsOf, schemaOf, type Schema } from './database'
import type { AuditRow } from './entities'
import type { RawDatabase } from './rawDatabase'
import { rowDigest, type RawRow } from './rowDigest'
import { keySql, sealedTables, type RowSeals, type SealedTable } from './rowSeals'

export interface Verification {
  readonly entries: number
  readonly head: Head
  readonly breaks: string[]
}

export interface Anchors {
  /** The key that heads are sealed with; without it seals are not checked. */
  readonly key?: Buffer
  /** Heads that were said outside the database: `where` says where. */
  readonly heads?: readonly { readonly where: string; readonly head: SignedHead | 'damaged' }[]
  /** Heads as they stand on paper: the number of an entry and the first digits of its hash. */
  readonly onPaper?: readonly { readonly seq: number; readonly hash: string }[]
  /** Further checks of what the rows mean. */
  readonly also?: readonly ((raw: RawDatabase) => string[])[]
}

const mostBreaks = 20
const entriesAtOnce = 500

/**
 * Reads a whole plant and names what does not fit: pages of the file, guards, the chain, every sealed row against the chain, documents
 * against their digits, the head against what was said of it outside. Nothing is written and nothing brought up to date. It lets other
 * work go on in between, and sees the database as of its beginning. At most 20 breaks are named.
 */
export async function verifyPlant(file: string, schema: Schema, anchors: Anchors = {}): Promise<Verification> {
  const raw = new Sqlite(file, { readonly: true, fileMustExist: true })
  try {
    raw.pragma('temp_store = FILE')
    raw.exec('BEGIN')
    return await new Verifier(raw, schema, anchors).run()
  } catch (error) {
    return { entries: 0, head: beginning, breaks: [`the database cannot be read: ${error instanceof Error ? error.message : String(error)}`] }
  } finally {
    raw.close()
  }
}

class Verifier {
  private readonly breaks: string[] = []
  private readonly hashes = new Map<number, string>()
  private readonly wanted: ReadonlySet<number>

  constructor(
    private readonly raw: RawDatabase,
    private readonly schema: Schema,
    private readonly anchors: Anchors,
  ) {
    const said = (anchors.heads ?? []).flatMap(({ head }) => (head === 'damaged' ? [] : [head.seq]))
    this.wanted = new Set([...said, ...(anchors.onPaper ?? []).map(({ seq }) => seq)])
  }

  async run(): Promise<Verification> {
    this.checkFile()
    await this.checkSchema()
    const { entries, head } = await this.checkChain()
    this.checkHeads(head)
    if (this.isGoingOn()) this.checkDocuments()
    for (const also of this.anchors.also ?? []) if (this.isGoingOn()) this.breaks.push(...also(this.raw))
    return { entries, head, breaks: this.breaks.slice(0, mostBreaks) }
  }

  private isGoingOn(): boolean {
    return this.breaks.length < mostBreaks
  }

  private checkFile(): void {
    const words = this.raw.pragma('integrity_check(5)', { simple: false }) as { integrity_check: string }[]
    for (const { integrity_check: said } of words) if (said !== 'ok') this.breaks.push(`the file is damaged: ${said}`)
    const lost = this.raw.pragma('foreign_key_check') as { table: string; parent: string }[]
    if (lost.length > 0) this.breaks.push(`${lost.length} rows of ${lost[0]?.table} point at ${lost[0]?.parent} that are not there`)
  }

  private async checkSchema(): Promise<void> {
    const expected = await expectedSchema(this.schema, migrationsOf(this.raw))
    const found = schemaOf(this.raw)
    for (const [name, sql] of expected) {
      if (!found.has(name)) this.breaks.push(`the ${name} is missing`)
      else if (found.get(name) !== sql) this.breaks.push(`the ${name} is not as it was made`)
    }
    for (const name of found.keys()) if (!expected.has(name)) this.breaks.push(`the ${name} was added`)
  }

  /** Walks the chain once and holds every sealed row against it. */
  private async checkChain(): Promise<{ entries: number; head: Head }> {
    const hasSeals = this.raw.prepare(`SELECT 1 FROM pragma_table_info('audit') WHERE name = 'rows'`).get() !== undefined
    const rows = hasSeals ? new SealedRows(this.raw, this.breaks) : null
    const page = this.raw.prepare(`SELECT * FROM audit WHERE seq > ? ORDER BY seq LIMIT ${entriesAtOnce}`)
    let head: Head = beginning
    let entries = 0
    for (;;) {
      const found = page.all(head.seq) as AuditRow[]
      if (found.length === 0) break
      for (const entry of found) {
        const row = { ...entry, rows: entry.rows ?? null }
        const who = `entry ${row.seq} (${row.action}, ${row.at})`
        if (row.seq !== head.seq + 1)
          this.breaks.push(row.seq === head.seq + 2 ? `entry ${row.seq - 1} is missing` : `entries ${head.seq + 1} to ${row.seq - 1} are missing`)
        if (row.previousHash !== head.hash) this.breaks.push(`${who} does not follow the entry before it`)
        if (hashOf(row) !== row.hash) this.breaks.push(`${who} was changed after it was written`)
        else if (row.rows !== null) rows?.take(JSON.parse(row.rows) as RowSeals, who, row.seq)
        if (this.wanted.has(row.seq)) this.hashes.set(row.seq, row.hash)
        head = { seq: row.seq, hash: row.hash }
        entries += 1
      }
      if (!this.isGoingOn()) return { entries, head }
      await breathe()
    }
    const written = this.raw.prepare(`SELECT seq FROM sqlite_sequence WHERE name = 'audit'`).pluck().get() as number | undefined
    if ((written ?? 0) !== head.seq) this.breaks.push(`the chain ends at entry ${head.seq}, ${written ?? 0} were written`)
    await rows?.compare()
    return { entries, head }
  }

  private checkHeads(head: Head): void {
    const { key, heads = [], onPaper = [] } = this.anchors
    for (const { where, head: said } of heads) {
      if (said === 'damaged') this.breaks.push(`${where} cannot be read`)
      else if (key && !isSealed(key, said)) this.breaks.push(`${where} does not carry the seal of this plant's key`)
      else this.compareHead(where, said, head)
    }
    for (const said of onPaper) this.compareHead(`the report with entry ${said.seq}`, said, head)
  }

  private compareHead(where: string, said: Head, head: Head): void {
    const hash = said.seq === 0 ? beginning.hash : this.hashes.get(said.seq)
    if (said.seq > head.seq)
      this.breaks.push(`${where} says entry ${said.seq}, the chain ends at entry ${head.seq}: what was acknowledged since is gone`)
    else if (hash === undefined || !hash.startsWith(said.hash))
      this.breaks.push(`${where} says other digits for entry ${said.seq}: the chain was written anew`)
  }

  private checkDocuments(): void {
    const has = this.raw.prepare(`SELECT 1 FROM sqlite_master WHERE name = 'document'`).get()
    if (!has) return
    for (const row of this.raw.prepare('SELECT name, hash, content FROM document').iterate() as IterableIterator<{
      name: string
      hash: string
      content: Buffer
    }>) {
      if (createHash('sha256').update(row.content).digest('hex') !== row.hash) this.breaks.push(`the document ${row.name} is not what was kept`)
    }
  }
}

/** What the chain says of the rows, held against what they are. */
class SealedRows {
  private readonly tables: ReadonlyMap<string, SealedTable>
  private readonly groups = new Map<string, { rows: RawRow[]; at: number }>()
  private readonly put
  private isBegun = false
  /** The first entry of the last time that all rows were sealed anew. */
  private readonly resealedAt: number

  constructor(
    private readonly raw: RawDatabase,
    private readonly breaks: string[],
  ) {
    this.tables = new Map(sealedTables(raw).map((table) => [table.name, table]))
    raw.exec('CREATE TEMP TABLE seal (tbl TEXT, key TEXT, digest TEXT, PRIMARY KEY (tbl, key)) WITHOUT ROWID')
    this.resealedAt = raw
      .prepare(
        `SELECT COALESCE(MIN(a.seq), 0) FROM audit a JOIN (SELECT at, why FROM audit WHERE action = 'sealed' AND subjectId = '' ORDER BY seq DESC LIMIT 1) last
         ON a.at = last.at AND a.why = last.why WHERE a.action = 'sealed'`,
      )
      .pluck()
      .get() as number
    this.put = raw.prepare('INSERT INTO temp.seal VALUES (?, ?, ?) ON CONFLICT DO UPDATE SET digest = excluded.digest')
  }

  take(seals: RowSeals, who: string, seq: number): void {
    this.isBegun = true
    for (const [name, rows] of Object.entries(seals)) {
      const table = this.tables.get(name)
      if (table?.groupedBy) {
        // A star: the groups stand here as a whole, whatever was said of them before.
        const isWhole = '*' in rows
        // Before the last migration the rows were other ones: what it said of them as a whole stands in the place of all that.
        if (seq < this.resealedAt) continue
        for (const [key, seal] of Object.entries(rows)) if (seal !== 0 && typeof seal !== 'string') this.takeGroup(table, key, seal, isWhole, who)
      } else for (const [key, digest] of Object.entries(rows)) this.put.run(name, key, digest === 0 ? null : String(digest))
    }
  }

  private takeGroup(table: SealedTable, key: string, [count, digest]: [number, string], isWhole: boolean, who: string): void {
    const id = `${table.name} ${key}`
    let group = this.groups.get(id)
    if (!group) {
      group = { rows: this.rowsOf(table, key), at: 0 }
      this.groups.set(id, group)
      this.put.run(table.name, key, 'seen')
    }
    if (isWhole) {
      group.at = 0
      group.rows = this.rowsOf(table, key)
    }
    const rows = group.rows.slice(group.at, group.at + count)
    group.at += count
    if (rows.length < count)
      this.breaks.push(`${count - rows.length} rows of ${table.name} that ${who} wrote for ${this.nameOf(table, key)} are gone`)
    else if (rowDigest(rows) !== digest) this.breaks.push(`rows of ${table.name} that ${who} wrote for ${this.nameOf(table, key)} were changed`)
    // What is left is asked for at the end; the rows themselves are not needed any more.
    if (group.at >= group.rows.length) group.rows.length = 0
  }

  private rowsOf(table: SealedTable, key: string): RawRow[] {
    return this.raw.prepare(`SELECT * FROM "${table.name}" WHERE "${table.groupedBy}" = ? ORDER BY rowid`).all(key) as RawRow[]
  }

  async compare(): Promise<void> {
    if (!this.isBegun) return
    for (const [id, { rows, at }] of this.groups) {
      const [name = '', key = ''] = id.split(' ')
      const table = this.tables.get(name) as SealedTable
      if (rows.length > at) this.breaks.push(`${rows.length - at} rows of ${name} for ${this.nameOf(table, key)} are not in the chain`)
    }
    for (const table of this.tables.values()) {
      if (table.groupedBy) this.compareGrouped(table, table.groupedBy)
      else await this.compareTable(table)
      if (this.breaks.length >= mostBreaks) return
    }
  }

  private compareGrouped(table: SealedTable, column: string): void {
    const unseen = this.raw
      .prepare(
        `SELECT DISTINCT t."${column}" FROM "${table.name}" t WHERE NOT EXISTS (SELECT 1 FROM temp.seal s WHERE s.tbl = '${table.name}' AND s.key = t."${column}") LIMIT 5`,
      )
      .pluck()
      .all() as string[]
    for (const key of unseen) this.breaks.push(`the rows of ${table.name} for ${this.nameOf(table, key)} are not in the chain`)
  }

  private async compareTable(table: SealedTable): Promise<void> {
    const { name } = table
    const rows = this.raw
      .prepare(
        `SELECT ${keySql(table, 't.')} AS "key ", s.digest AS "digest ", t.* FROM "${name}" t LEFT JOIN temp.seal s ON s.tbl = '${name}' AND s.key = ${keySql(table, 't.')}`,
      )
      .iterate() as IterableIterator<RawRow>
    for (const { 'key ': key, 'digest ': digest, ...row } of rows) {
      if (digest === null) this.breaks.push(`${wordsOf(name, row, String(key))} was put in past the chain`)
      else if (rowDigest([row]) !== digest) this.breaks.push(`${wordsOf(name, row, String(key))} was changed past the chain`)
      if (this.breaks.length >= mostBreaks) return
    }
    await breathe()
    const gone = this.raw
      .prepare(
        `SELECT s.key FROM temp.seal s WHERE s.tbl = '${name}' AND s.digest IS NOT NULL AND NOT EXISTS (SELECT 1 FROM "${name}" t WHERE ${keySql(table, 't.')} = s.key) LIMIT 5`,
      )
      .pluck()
      .all() as string[]
    for (const key of gone) this.breaks.push(`${name} ${key} was taken out past the chain`)
  }

  private nameOf(table: SealedTable, key: string): string {
    const parent = table.groupedBy?.replace(/Id$/, '') ?? ''
    const row = this.tables.has(parent) ? (this.raw.prepare(`SELECT * FROM "${parent}" WHERE id = ?`).get(key) as RawRow | undefined) : undefined
    return row ? wordsOf(parent, row, key) : `${parent} ${key}`
  }
}

function wordsOf(table: string, row: RawRow, key: string): string {
  return `${table} ${String(row['code'] ?? row['name'] ?? key)}`
}
