import { setTimeout as wait } from 'node:timers/promises'
import type Sqlite from 'better-sqlite3'
import { ServerError } from '../../base/serverError'
import { errorCode } from '../../base/storage'
import { camelName, type Cells, type RawRow, type Value, type WritingConnection } from '../connection'

/** The library's own connection, beneath ours. */
export type RawDatabase = Sqlite.Database

/** How long another program may keep the database before a change is refused. */
const maxWaitMs = 5000
const stepMs = 20
const maxPrepared = 500

interface Prepared {
  readonly statement: Sqlite.Statement<unknown[], Value[]>
  /** Null where the statement gives no rows. */
  readonly names: readonly string[] | null
  readonly camelNames: readonly string[]
}

/** A connection to a file. Everything in it is done at once; it is asked like one that has to be waited for. */
export class SqliteConnection implements WritingConnection {
  readonly kind = 'sqlite'
  private readonly prepared = new Map<string, Prepared>()

  constructor(readonly raw: RawDatabase) {}

  async rows(sql: string, values: readonly unknown[] = []): Promise<RawRow[]> {
    const { statement, names } = this.prepare(sql)
    return rowsOf(statement, names, values)
  }

  async cells(sql: string, values: readonly unknown[] = []): Promise<Cells> {
    const { statement, names } = this.prepare(sql)
    return { names: names ?? [], rows: names === null ? [] : statement.all(...values) }
  }

  async query(sql: string, values: readonly unknown[] = []): Promise<unknown[]> {
    const { statement, names, camelNames } = this.prepare(sql)
    return rowsOf(statement, names && camelNames, values)
  }

  async *each(sql: string, values: readonly unknown[] = []): AsyncGenerator<RawRow> {
    yield* this.raw.prepare(sql).iterate(...values) as IterableIterator<RawRow>
  }

  async run(sql: string): Promise<void> {
    // One statement is read once; several are read each time.
    if (sql.includes(';')) this.raw.exec(sql)
    else this.prepare(sql).statement.run()
  }

  isOpen(): boolean {
    return this.raw.inTransaction
  }

  /** Waits without holding up the process while another program writes. */
  async begin(): Promise<void> {
    const beganMs = performance.now()
    for (;;) {
      try {
        this.prepare('BEGIN IMMEDIATE').statement.run()
        return
      } catch (error) {
        if (!errorCode(error).startsWith('SQLITE_BUSY')) throw error
        const waitedMs = Math.round(performance.now() - beganMs)
        if (waitedMs >= maxWaitMs) throw new ServerError('storage_busy', 'Another program keeps the database from being written to.', { waitedMs })
        await wait(stepMs)
      }
    }
  }

  async commit(): Promise<void> {
    this.prepare('COMMIT').statement.run()
  }

  async close(): Promise<void> {
    this.raw.close()
  }

  private prepare(sql: string): Prepared {
    const known = this.prepared.get(sql)
    if (known) return known
    const statement = this.raw.prepare<unknown[], Value[]>(sql)
    const names = statement.reader ? statement.columns().map(({ name }) => name) : null
    if (names) statement.raw(true)
    const made = { statement, names, camelNames: (names ?? []).map(camelName) }
    if (this.prepared.size >= maxPrepared) this.prepared.clear()
    this.prepared.set(sql, made)
    return made
  }
}

function rowsOf(statement: Prepared['statement'], names: readonly string[] | null, values: readonly unknown[]): RawRow[] {
  if (names === null) {
    statement.run(...values)
    return []
  }
  return statement.all(...values).map((cells) => {
    const row: RawRow = {}
    for (let i = 0; i < names.length; i++) row[names[i] as string] = cells[i] as Value
    return row
  })
}
