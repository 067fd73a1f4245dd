import { noFellows } from '../fellows'
import { existsSync, mkdirSync, readdirSync, statSync } from 'node:fs'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { DataSource } from 'typeorm'
import type { Database, Schema, Snapshot } from '../database'
import { sealWhatStands } from '../../audit/sealWhatStands'
import { watchRows } from '../../audit/rowSeals'
import { expectedOnce } from '../expectedOnce'
import { writeBehind } from '../writeBehind'
import { SnakeNames } from '../connection'
import { ReaderThreads } from './readerThread'
import { SqliteConnection, type RawDatabase } from './sqlite'
import { storeOf } from '../store'

/**
 * Settings of every connection. FULL: what was acknowledged is on the disk, after a power cut too. The wait for another program is
 * short here, as it holds up the whole process; the unit of work waits longer, between tries.
 */
export const pragmas = ['journal_mode = WAL', 'synchronous = FULL', 'foreign_keys = ON', 'busy_timeout = 20', 'cache_size = -16000'] as const

export const databaseFile = (folder: string) => join(folder, 'nemawashi.sqlite')

/** A database in a file, with the library's own connection to it: for tests and tools. */
export interface SqliteDatabase extends Database {
  readonly raw: RawDatabase
  readonly source: DataSource
}

type Made = Pick<Schema, 'entities' | 'migrations'>

function source(database: string, extra: readonly string[], { entities, migrations }: Made): DataSource {
  return new DataSource({
    type: 'better-sqlite3',
    database,
    entities: [...entities],
    migrations: [...migrations],
    migrationsTransactionMode: 'each',
    namingStrategy: new SnakeNames(),
    prepareDatabase: (raw: RawDatabase) => {
      for (const pragma of [...pragmas, ...extra]) raw.pragma(pragma)
    },
  })
}

/** A file of so much, which a list is read from in a few milliseconds whatever is asked. */
const smallBytes = 24 * 1024 * 1024
const sizeOf = (raw: RawDatabase) => Number(raw.pragma('page_count', { simple: true })) * Number(raw.pragma('page_size', { simple: true }))

/** The mapper keeps its connection to itself; our queries go over the same one. */
function rawOf({ driver }: DataSource): RawDatabase {
  return (driver as unknown as { databaseConnection: RawDatabase }).databaseConnection
}

/** What a server leaves in its folder besides the database: it shows that there was one. */
const traces = ['chain.head', 'chain.key', 'backups', 'nemawashi.sqlite-wal']

/** A plant that was here must not turn into an empty one without a word. */
function refuseVanished(folder: string): void {
  const file = databaseFile(folder)
  const isMissing = !existsSync(file)
  if (!isMissing && statSync(file).size > 0) return
  const found = existsSync(folder) ? readdirSync(folder).filter((name) => traces.includes(name)) : []
  if (isMissing && found.length === 0) return
  throw new Error(
    `The database ${file} is ${isMissing ? 'missing' : 'empty (0 bytes)'}${found.length > 0 ? `, but ${found.join(', ')} beside it shows that there was a plant here` : ''}. ` +
      'Put a backup back with npm run restore -- FILE, or choose an empty folder in NEMAWASHI_DATA to begin anew.',
  )
}

/** Names of the migrations that a database has had, in their order; none for a new one. */
export function migrationsOf(raw: RawDatabase): string[] {
  const has = raw.prepare(`SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = 'migrations'`).get()
  return has ? (raw.prepare('SELECT name FROM migrations ORDER BY id').pluck().all() as string[]) : []
}

/** Refuses a database that a newer release has written; gives the migrations that it still lacks. */
function missingMigrations(file: string, { migrations }: Made): { had: number; missing: string[] } {
  if (!existsSync(file)) return { had: 0, missing: migrations.map(({ name }) => name) }
  const raw = new Sqlite(file, { readonly: true })
  try {
    const had = migrationsOf(raw)
    const unknown = had.filter((name) => !migrations.some((migration) => migration.name === name))
    if (unknown.length > 0)
      throw new Error(`The database ${file} was written by a newer release (${unknown.join(', ')}). Start that release, or restore an older backup.`)
    return { had: had.length, missing: migrations.map(({ name }) => name).filter((name) => !had.includes(name)) }
  } finally {
    raw.close()
  }
}

/** Opens the database of a data folder, bringing it up to date first; before that a copy of it is kept. */
export async function openSqlite(folder: string, schema: Schema, now: () => Date = () => new Date(), timeZone = 'UTC'): Promise<SqliteDatabase> {
  refuseVanished(folder)
  mkdirSync(folder, { recursive: true })
  const file = databaseFile(folder)
  const { had, missing } = missingMigrations(file, schema)
  if (had > 0 && missing.length > 0) copyBefore(folder, missing[0] ?? '')
  const writing = await source(file, [], schema).initialize()
  await writing.runMigrations()
  const raw = rawOf(writing)
  const connection = new SqliteConnection(raw)
  // Asked of the chain and not of what was missing: a start that was broken off between the two is made up for by the next one.
  const last = schema.migrations.at(-1)?.name ?? ''
  const isSealed = raw.prepare(`SELECT 1 FROM audit WHERE subject_id = '' AND action = 'sealed' AND why LIKE ?`).get(`%${last}%`)
  if (!isSealed)
    await sealWhatStands(
      connection,
      had === 0 ? `a new plant, ${last}` : `migrated: ${(missing.length > 0 ? missing : [last]).join(', ')}`,
      now().toISOString(),
    )
  await watchRows(connection)
  const reading = await source(file, ['query_only = ON'], { ...schema, migrations: [] }).initialize()
  const readingConnection = new SqliteConnection(rawOf(reading))
  const threads = new ReaderThreads(file)
  // What a small plant is asked is answered before a thread has even heard of it.
  const whichever = () => (sizeOf(raw) < smallBytes ? readingConnection : threads)
  const longConnection: Pick<SqliteConnection, 'query' | 'rows'> = {
    query: (sql, values) => whichever().query(sql, values),
    rows: (sql, values) => whichever().rows(sql, values),
  }
  const { manager } = writing.createQueryRunner()
  const current = { manager, connection }
  const store = storeOf(() => current, timeZone)
  return {
    kind: 'sqlite',
    address: file,
    raw,
    source: writing,
    writer: { ...store, gathered: () => writeBehind(store, () => current), connection, begin: () => connection.begin() },
    reader: storeOf(() => ({ manager: reading.manager, connection: readingConnection }), timeZone),
    longReader: storeOf(() => ({ manager: reading.manager, connection: longConnection }), timeZone),
    isAlone: true,
    fellows: noFellows,
    apart: async () => Promise.reject(new Error('A file is served by one process, which keeps such things itself.')),
    async close() {
      await threads.close()
      await reading.destroy()
      raw.pragma('wal_checkpoint(TRUNCATE)')
      await writing.destroy()
    },
  }
}

function copyBefore(folder: string, migration: string): void {
  mkdirSync(join(folder, 'backups'), { recursive: true })
  const to = join(folder, 'backups', `before-${migration}-${new Date().toISOString().replaceAll(/[:.]/g, '-')}.sqlite`)
  copyDatabase(databaseFile(folder), to)
}

/**
 * Copies a database to a new file as of one moment, while others go on writing to it.
 * @throws where the file is there already.
 */
export function copyDatabase(from: string, to: string): void {
  if (existsSync(to)) throw new Error(`${to} exists already. Name a file that does not.`)
  const raw = new Sqlite(from, { readonly: true, fileMustExist: true })
  try {
    raw.prepare('VACUUM INTO ?').run(to)
  } finally {
    raw.close()
  }
}

/** The tables, indexes and triggers that a database has to have after these migrations, name to SQL. */
async function expectedSchema(schema: Schema, had: readonly string[]): Promise<Map<string, string>> {
  const memory = await source(':memory:', [], {
    entities: [],
    migrations: schema.migrations.filter(({ name }) => had.includes(name)),
  }).initialize()
  try {
    await memory.runMigrations()
    return schemaOf(rawOf(memory))
  } finally {
    await memory.destroy()
  }
}

function schemaOf(raw: RawDatabase): Map<string, string> {
  const rows = raw
    .prepare(`SELECT type || ' ' || name AS name, sql FROM main.sqlite_master WHERE sql IS NOT NULL AND name NOT LIKE 'sqlite_%'`)
    .all() as {
    name: string
    sql: string
  }[]
  return new Map(rows.map(({ name, sql }) => [name, sql]))
}

/** The file as of now; nothing is written and nothing brought up to date. */
export async function snapshotOfFile(file: string, schema: Schema): Promise<Snapshot> {
  const raw = new Sqlite(file, { readonly: true, fileMustExist: true })
  raw.pragma('temp_store = FILE')
  raw.exec('BEGIN')
  const had = migrationsOf(raw)
  return {
    connection: new SqliteConnection(raw),
    async damage() {
      const words = raw.pragma('integrity_check(5)', { simple: false }) as { integrity_check: string }[]
      const lost = raw.pragma('foreign_key_check') as { table: string; parent: string }[]
      return [
        ...words.filter(({ integrity_check: said }) => said !== 'ok').map(({ integrity_check: said }) => `the file is damaged: ${said}`),
        ...['user_version', 'application_id']
          .map((name) => [name, Number(raw.pragma(name, { simple: true }))] as const)
          .filter(([, value]) => value !== 0)
          .map(([name, value]) => `the ${name} of the file is ${value}, and no release sets one`),
        ...(lost.length > 0 ? [`${lost.length} rows of ${lost[0]?.table} point at ${lost[0]?.parent} that are not there`] : []),
      ]
    },
    migrations: schema.migrations.map(({ name }) => name),
    found: async () => schemaOf(raw),
    expected: () => expectedOnce(schema, had, () => expectedSchema(schema, had)),
    written: async () => (raw.prepare(`SELECT seq FROM sqlite_sequence WHERE name = 'audit'`).pluck().get() as number | undefined) ?? 0,
    close: async () => void raw.close(),
  }
}
