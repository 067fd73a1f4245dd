import { types as standard, type Client, type ClientBase, type CustomTypesConfig, type Pool, type PoolClient, type QueryArrayResult } from 'pg'
import Cursor from 'pg-cursor'
import { ServerError } from '../../base/serverError'
import { errorCode } from '../../base/storage'
import { camelName, type Cells, type Connection, type RawRow, type Value, type WritingConnection } from '../connection'

/** How long another process may keep the right to write before a change is refused. */
const maxWaitMs = 5000
const rowsAtOnce = 500

/** The lock of whoever writes: one in the whole plant, however many processes serve it, as the chain has one end. */
export const writeLock = 4720
/** The lock of whoever brings the schema up to date. */
export const migrationLock = 4721
/** The lock of steps beside the changes. */
export const apartLock = 4722

const { builtins } = standard

/** Sums and counts as numbers, flags as 0 and 1: as SQLite gives them. */
const types: CustomTypesConfig = {
  getTypeParser(oid: number, format?: 'text' | 'binary') {
    if (oid === builtins.BOOL) return (text: string) => (text === 't' ? 1 : 0)
    if (oid === builtins.INT8 || oid === builtins.NUMERIC) return Number
    return standard.getTypeParser(oid, format as 'text')
  },
}

const cache = new Map<string, string>()

/**
 * What is written for both databases, as PostgreSQL reads it: values are numbered, and LIKE takes no notice of case, as in SQLite. Texts
 * between quotes stay as they are.
 */
export function forPostgres(sql: string): string {
  const known = cache.get(sql)
  if (known !== undefined) return known
  let count = 0
  const made = sql
    .split(/('(?:[^']|'')*'|"[^"]*")/)
    .map((piece, i) => (i % 2 === 1 ? piece : piece.replaceAll('?', () => `$${++count}`).replaceAll(/\bLIKE\b/g, 'ILIKE')))
    .join('')
  if (cache.size > 1000) cache.clear()
  cache.set(sql, made)
  return made
}

type Asked = Pick<ClientBase, 'query'>

function ask(client: Asked, sql: string, values: readonly unknown[]): Promise<QueryArrayResult<Value[]>> {
  return client.query<Value[]>({ text: forPostgres(sql), values: [...values], types, rowMode: 'array' })
}

function rowsUnder({ fields, rows }: QueryArrayResult<Value[]>, nameOf: (name: string) => string): RawRow[] {
  const names = (fields ?? []).map(({ name }) => nameOf(name))
  return rows.map((cells) => Object.fromEntries(names.map((name, i) => [name, cells[i] as Value])))
}

const asIs = (name: string) => name

/** Connections of a pool: for reading, each question on whichever is free. */
export function readingPool(pool: Pool): Pick<Connection, 'rows' | 'query'> {
  return {
    rows: async (sql, values = []) => rowsUnder(await ask(pool, sql, values), asIs),
    query: async (sql, values = []) => rowsUnder(await ask(pool, sql, values), camelName),
  }
}

/** One connection to a server. */
export class PostgresConnection implements WritingConnection {
  readonly kind = 'postgres'
  private hasEnded = false

  constructor(readonly client: Client | PoolClient) {
    client.on('error', this.end)
    client.on('end', this.end)
  }

  private readonly end = () => void (this.hasEnded = true)

  /** Listens to the client no longer, which goes back to where it came from. */
  leave(): void {
    this.client.off('error', this.end)
    this.client.off('end', this.end)
  }

  /** Whether the server has gone away from it. */
  get isLost(): boolean {
    return this.hasEnded
  }

  async rows(sql: string, values: readonly unknown[] = []): Promise<RawRow[]> {
    return rowsUnder(await this.ask(sql, values), asIs)
  }

  async cells(sql: string, values: readonly unknown[] = []): Promise<Cells> {
    const { fields, rows } = await this.ask(sql, values)
    return { names: fields.map(({ name }) => name), rows }
  }

  async query(sql: string, values: readonly unknown[] = []): Promise<unknown[]> {
    return rowsUnder(await this.ask(sql, values), camelName)
  }

  async *each(sql: string, values: readonly unknown[] = []): AsyncGenerator<RawRow> {
    const cursor = this.client.query(new Cursor<RawRow>(forPostgres(sql), [...values], { types }))
    try {
      for (let rows = await cursor.read(rowsAtOnce); rows.length > 0; rows = await cursor.read(rowsAtOnce)) yield* rows
    } finally {
      await cursor.close()
    }
  }

  async run(sql: string): Promise<void> {
    await this.telling(() => this.client.query(sql))
  }

  isOpen(): boolean {
    const status = this.client.getTransactionStatus()
    return !this.hasEnded && (status === 'T' || status === 'E')
  }

  async begin(): Promise<void> {
    const beganMs = performance.now()
    try {
      await this.run(`BEGIN; SET LOCAL lock_timeout = ${maxWaitMs}; SELECT pg_advisory_xact_lock(${writeLock}); SET LOCAL lock_timeout = 0`)
    } catch (error) {
      await this.rollBack()
      if (errorCode(error) !== '55P03') throw error
      throw new ServerError('storage_busy', 'Another program keeps the database from being written to.', {
        waitedMs: Math.round(performance.now() - beganMs),
      })
    }
  }

  /**
   * Leaves the transaction that something failed in, where there may be one: of an error the client tells before the server has said how
   * its transaction stands after it. Where there is none, the server only remarks on it.
   */
  async rollBack(): Promise<void> {
    if (!this.hasEnded) await this.run('ROLLBACK')
  }

  async commit(): Promise<void> {
    const { command } = await this.telling(() => this.client.query('COMMIT'))
    // A transaction in which something failed is rolled back by the same word, and without an error.
    if (command !== 'COMMIT') throw new ServerError('storage_failed', 'Nothing can be stored now: the transaction was lost.', {})
  }

  async close(): Promise<void> {
    if ('release' in this.client) this.client.release(this.hasEnded)
    else await this.client.end()
  }

  private ask(sql: string, values: readonly unknown[]): Promise<QueryArrayResult<Value[]>> {
    return this.telling(() => ask(this.client, sql, values))
  }

  /** A connection that broke off says so by a code, like everything else that fails. */
  private async telling<T>(asking: () => Promise<T>): Promise<T> {
    try {
      return await asking()
    } catch (error) {
      if (error instanceof Error && errorCode(error) === '' && (this.hasEnded || /terminated|ended|closed/i.test(error.message))) {
        this.hasEnded = true
        throw Object.assign(new Error(error.message, { cause: error }), { code: '08006' })
      }
      throw error
    }
  }
}

/** An address without its password: for words and for the log. */
export function shownAddress(address: string): string {
  const url = new URL(address)
  if (url.password !== '') url.password = '***'
  return url.toString()
}
