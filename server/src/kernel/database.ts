import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { DataSource, type EntityManager } from 'typeorm'
import { entities } from './allEntities'
import { migrations } from './migrations'

interface Pragmatic {
  pragma(text: string): unknown
}

/** Settings of every connection. FULL: what was acknowledged is on the disk, after a power cut too. */
export const pragmas = ['journal_mode = WAL', 'synchronous = FULL', 'foreign_keys = ON', 'busy_timeout = 5000', 'cache_size = -16000'] as const

function source(folder: string, extra: readonly string[], withMigrations: boolean): DataSource {
  return new DataSource({
    type: 'better-sqlite3',
    database: join(folder, 'nemawashi.sqlite'),
    entities,
    migrations: withMigrations ? migrations : [],
    migrationsTransactionMode: 'each',
    prepareDatabase: (database: Pragmatic) => {
      for (const pragma of [...pragmas, ...extra]) database.pragma(pragma)
    },
  })
}

/** Everything that can be asked of the database; handed to lists, pages and reports. */
export type Reader = Pick<EntityManager, 'query' | 'find' | 'findBy' | 'findOneBy' | 'countBy'>

export interface Database {
  /** The one connection that writes. Only the unit of work uses it. */
  readonly writer: DataSource
  /** A second connection on the same file that cannot write. */
  readonly reader: DataSource
  close(): Promise<void>
}

/** Opens the database of a data folder, bringing it up to date first. */
export async function openDatabase(folder: string): Promise<Database> {
  mkdirSync(folder, { recursive: true })
  const writer = await source(folder, [], true).initialize()
  await writer.runMigrations()
  const reader = await source(folder, ['query_only = ON'], false).initialize()
  return {
    writer,
    reader,
    async close() {
      await reader.destroy()
      await writer.query('PRAGMA wal_checkpoint(TRUNCATE)')
      await writer.destroy()
    },
  }
}
