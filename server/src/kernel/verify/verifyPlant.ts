import { setImmediate as breathe } from 'node:timers/promises'
import { createHash } from 'node:crypto'
import { beginning, hashOf } from '../audit/auditChain'
import { isSealed, type Head, type SignedHead } from '../audit/chainHead'
import { snapshotOf, type Schema, type Snapshot } from '../work/database'
import { camelName, textOf, type Connection, type RawRow } from '../database/connection'
import type { AuditRow } from '../database/entities'
import { migrationBreaks } from './migrationBreaks'
import { rowDigest } from '../audit/rowDigest'
import { keySql, sealedTables, type RowSeals, type SealedTable } from '../audit/rowSeals'
import { rowsOf, type Columns } from '../database/rowsOf'

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
  /** Told now and then how many entries of how many were read. */
  readonly tell?: (done: number, total: number) => void
  /** Further checks of what the rows mean. */
  readonly also?: readonly ((connection: Connection) => Promise<string[]>)[]
}

const maxBreaks = 20
const entriesAtOnce = 500
const rowsAtATurn = 1000

/**
 * Reads a whole plant and names what does not fit: pages of the file, guards, the chain, every sealed row against the chain, documents
 * against their digits, the head against what was said of it outside. Nothing is written and nothing brought up to date. It lets other
 * work go on in between, and sees the database as of its beginning. At most 20 breaks are named.
 * @param address the file of the database, or the address of its server
 */
export async function verifyPlant(address: string, schema: Schema, anchors: Anchors = {}): Promise<Verification> {
  let snapshot: Snapshot | null = null
  try {
    snapshot = await snapshotOf(address, schema)
    return await new Verifier(snapshot, anchors).run()
  } catch (error) {
    return { entries: 0, head: beginning, breaks: [`the database cannot be read: ${error instanceof Error ? error.message : String(error)}`] }
  } finally {
    await snapshot?.close()
  }
}

const auditRowColumns: Columns<AuditRow> = {
  seq: 'number',
  at: 'text',
  personId: 'text?',
  action: 'text',
  subject: 'text',
  subjectId: 'text',
  before: 'text?',
  after: 'text?',
  why: 'text?',
  previousHash: 'text',
  hash: 'text',
  rows: 'text?',
}

class Verifier {
  private readonly breaks: string[] = []
  private readonly hashes = new Map<number, string>()
  private readonly wanted: ReadonlySet<number>
  private readonly connection: Connection

  constructor(
    private readonly snapshot: Snapshot,
    private readonly anchors: Anchors,
  ) {
    this.connection = snapshot.connection
    const said = (anchors.heads ?? []).flatMap(({ head }) => (head === 'damaged' ? [] : [head.seq]))
    this.wanted = new Set([...said, ...(anchors.onPaper ?? []).map(({ seq }) => seq)])
  }

  async run(): Promise<Verification> {
    this.breaks.push(...(await this.snapshot.damage()))
    await this.checkSchema()
    const { entries, head } = await this.checkChain()
    this.checkHeads(head)
    if (this.isGoingOn()) await this.checkDocuments()
    for (const also of this.anchors.also ?? []) if (this.isGoingOn()) this.breaks.push(...(await also(this.connection)))
    return { entries, head, breaks: this.breaks.slice(0, maxBreaks) }
  }

  private isGoingOn(): boolean {
    return this.breaks.length < maxBreaks
  }

  private async checkSchema(): Promise<void> {
    this.breaks.push(...(await migrationBreaks(this.connection, this.snapshot)))
    const found = await this.snapshot.found()
    const expected = await this.snapshot.expected().catch((error: unknown) => {
      // With one of them taken out the rest may make nothing.
      this.breaks.push(`what its migrations make is not known: ${error instanceof Error ? error.message : String(error)}`)
      return found
    })
    for (const [name, sql] of expected) {
      if (!found.has(name)) this.breaks.push(`the ${name} is missing`)
      else if (found.get(name) !== sql) this.breaks.push(`the ${name} is not as it was made`)
    }
    for (const name of found.keys()) if (!expected.has(name)) this.breaks.push(`the ${name} was added`)
  }

  /** Walks the chain once and holds every sealed row against it. */
  private async checkChain(): Promise<{ entries: number; head: Head }> {
    const rows = await SealedRows.of(this.connection, this.breaks)
    const [count] = await this.connection.rows('SELECT COUNT(*) AS total FROM audit')
    const total = Number(count?.['total'] ?? 0)
    let head: Head = beginning
    let entries = 0
    for (;;) {
      // An earlier release named its columns otherwise: read under the names that the code has for them.
      const found = await rowsOf<AuditRow>(
        this.connection,
        auditRowColumns,
        `SELECT * FROM audit WHERE seq > ? ORDER BY seq LIMIT ${entriesAtOnce}`,
        [head.seq],
      )
      if (found.length === 0) break
      for (const entry of found) {
        const row = { ...entry, rows: entry.rows ?? null }
        const who = `entry ${row.seq} (${row.action}, ${row.at})`
        if (row.seq !== head.seq + 1)
          this.breaks.push(row.seq === head.seq + 2 ? `entry ${row.seq - 1} is missing` : `entries ${head.seq + 1} to ${row.seq - 1} are missing`)
        if (row.previousHash !== head.hash) this.breaks.push(`${who} does not follow the entry before it`)
        if (hashOf(row) !== row.hash) this.breaks.push(`${who} was changed after it was written`)
        else if (row.rows !== null) await rows.take(JSON.parse(row.rows) as RowSeals, who, row.seq)
        if (this.wanted.has(row.seq)) this.hashes.set(row.seq, row.hash)
        head = { seq: row.seq, hash: row.hash }
        entries += 1
      }
      this.anchors.tell?.(entries, total)
      if (!this.isGoingOn()) return { entries, head }
      await breathe()
    }
    const written = await this.snapshot.written()
    if (written !== null && written !== head.seq) this.breaks.push(`the chain ends at entry ${head.seq}, ${written} were written`)
    await rows.compare()
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

  private async checkDocuments(): Promise<void> {
    if (!(await sealedTables(this.connection)).some(({ name }) => name === 'document')) return
    for await (const { name, hash, content } of this.connection.each('SELECT name, hash, content FROM document')) {
      await breathe()
      if (
        createHash('sha256')
          .update(content as Buffer)
          .digest('hex') !== hash
      )
        this.breaks.push(`the document ${String(name)} is not what was kept`)
    }
  }
}

const resealedSql = `SELECT COALESCE(MIN(a.seq), 0) AS at FROM audit a JOIN (SELECT at, why FROM audit WHERE action = 'sealed' AND subject = 'plant' ORDER BY seq DESC LIMIT 1) l
  ON a.at = l.at AND a.why = l.why WHERE a.action = 'sealed'`

/** What the chain says of the rows, held against what they are. */
class SealedRows {
  private readonly groups = new Map<string, { rows: RawRow[]; at: number }>()
  private readonly said: [string, string, string | null][] = []
  private isBegun = false
  /** Tables that the chain says anything of. */
  private readonly named = new Set<string>()

  private constructor(
    private readonly connection: Connection,
    private readonly breaks: string[],
    private readonly tables: ReadonlyMap<string, SealedTable>,
    /** The first entry of the last time that all rows were sealed anew. */
    private readonly resealedAt: number,
  ) {}

  static async of(connection: Connection, breaks: string[]): Promise<SealedRows> {
    const text = textOf(connection)
    await connection.run(`CREATE TEMP TABLE seal (tbl ${text}, key ${text}, digest ${text}, PRIMARY KEY (tbl, key))`)
    const [resealed] = await connection.rows(resealedSql)
    const tables = new Map((await sealedTables(connection)).map((table) => [table.name, table]))
    return new SealedRows(connection, breaks, tables, Number(resealed?.['at'] ?? 0))
  }

  async take(seals: RowSeals, who: string, seq: number): Promise<void> {
    this.isBegun = true
    for (const [name, rows] of Object.entries(seals)) {
      this.named.add(name)
      const table = this.tables.get(name)
      if (table?.groupedBy) {
        // A star: the groups stand here as a whole, whatever was said of them before.
        const isWhole = '*' in rows
        // Before the last migration the rows were other ones: what it said of them as a whole stands in the place of all that.
        if (seq < this.resealedAt) continue
        for (const [key, seal] of Object.entries(rows))
          if (seal !== 0 && typeof seal !== 'string') await this.takeGroup(table, key, seal, isWhole, who)
      } else for (const [key, digest] of Object.entries(rows)) await this.put(name, key, digest === 0 ? null : String(digest))
    }
  }

  /** Noted, and written a few hundred at a time; the last word on a row counts. */
  private async put(name: string, key: string, digest: string | null): Promise<void> {
    this.said.push([name, key, digest])
    if (this.said.length >= 300) await this.write()
  }

  private async write(): Promise<void> {
    const last = new Map(this.said.splice(0).map((row) => [`${row[0]} ${row[1]}`, row]))
    if (last.size === 0) return
    await this.connection.rows(
      `INSERT INTO seal VALUES ${Array.from(last, () => '(?, ?, ?)').join(', ')} ON CONFLICT (tbl, key) DO UPDATE SET digest = excluded.digest`,
      [...last.values()].flat(),
    )
  }

  private async takeGroup(table: SealedTable, key: string, [count, digest]: [number, string], isWhole: boolean, who: string): Promise<void> {
    const id = `${table.name} ${key}`
    let group = this.groups.get(id)
    if (!group) {
      group = { rows: await this.rowsOf(table, key), at: 0 }
      this.groups.set(id, group)
      await this.put(table.name, key, 'seen')
    }
    if (isWhole) {
      group.at = 0
      group.rows = await this.rowsOf(table, key)
    }
    const rows = group.rows.slice(group.at, group.at + count)
    group.at += count
    if (rows.length < count)
      this.breaks.push(`${count - rows.length} rows of ${table.name} that ${who} wrote for ${await this.nameOf(table, key)} are gone`)
    else if (rowDigest(rows) !== digest) this.breaks.push(`rows of ${table.name} that ${who} wrote for ${await this.nameOf(table, key)} were changed`)
    // What is left is asked for at the end; the rows themselves are not needed any more.
    if (group.at >= group.rows.length) group.rows.length = 0
  }

  private async rowsOf(table: SealedTable, key: string): Promise<RawRow[]> {
    return this.connection.rows(`SELECT * FROM "${table.name}" WHERE "${table.groupedBy}" = ? ORDER BY rowid`, [key])
  }

  async compare(): Promise<void> {
    if (!this.isBegun) return
    await this.write()
    for (const [id, { rows, at }] of this.groups) {
      const [name = '', key = ''] = id.split(' ')
      const table = this.tables.get(name) as SealedTable
      if (rows.length > at) this.breaks.push(`${rows.length - at} rows of ${name} for ${await this.nameOf(table, key)} are not in the chain`)
    }
    for (const table of this.tables.values()) {
      if (table.isLate && !this.named.has(table.name)) continue
      if (table.groupedBy) await this.compareGrouped(table, table.groupedBy)
      else await this.compareTable(table)
      if (this.breaks.length >= maxBreaks) return
      await breathe()
    }
  }

  private async compareGrouped({ name, ...table }: SealedTable, column: string): Promise<void> {
    const unseen = await this.connection.rows(
      `SELECT DISTINCT t."${column}" AS key FROM "${name}" t WHERE NOT EXISTS (SELECT 1 FROM seal s WHERE s.tbl = '${name}' AND s.key = t."${column}") LIMIT 5`,
    )
    for (const { key } of unseen)
      this.breaks.push(`the rows of ${name} for ${await this.nameOf({ name, ...table }, String(key))} are not in the chain`)
  }

  private async compareTable(table: SealedTable): Promise<void> {
    const { name } = table
    const rows = this.connection.each(
      `SELECT ${keySql(table, 't.')} AS "key ", s.digest AS "digest ", t.* FROM "${name}" t LEFT JOIN seal s ON s.tbl = '${name}' AND s.key = ${keySql(table, 't.')}`,
    )
    let count = 0
    for await (const row of rows) {
      // Others have their turn in between, however long the table is.
      if ((count += 1) % rowsAtATurn === 0) await breathe()
      const { 'key ': key, 'digest ': digest } = row
      if (digest === null) this.breaks.push(`${wordsOf(name, row, String(key))} was put in past the chain`)
      else if (rowDigest([row]) !== digest) this.breaks.push(`${wordsOf(name, row, String(key))} was changed past the chain`)
      if (this.breaks.length >= maxBreaks) return
    }
    if (table.runsOut) return
    const gone = await this.connection.rows(
      `SELECT s.key FROM seal s WHERE s.tbl = '${name}' AND s.digest IS NOT NULL AND NOT EXISTS (SELECT 1 FROM "${name}" t WHERE ${keySql(table, 't.')} = s.key) LIMIT 5`,
    )
    for (const { key } of gone) this.breaks.push(`${name} ${String(key)} was taken out past the chain`)
  }

  private async nameOf(table: SealedTable, key: string): Promise<string> {
    const parent = camelName(table.groupedBy ?? '').replace(/Id$/, '')
    const [row] = this.tables.has(parent) ? await this.connection.rows(`SELECT * FROM "${parent}" WHERE id = ?`, [key]) : []
    return row ? wordsOf(parent, row, key) : `${parent} ${key}`
  }
}

function wordsOf(table: string, row: RawRow, key: string): string {
  return `${table} ${String(row['code'] ?? row['name'] ?? key)}`
}
