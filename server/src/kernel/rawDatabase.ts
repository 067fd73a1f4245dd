import type Sqlite from 'better-sqlite3'
import type { DataSource } from 'typeorm'

/** The connection beneath a data source: its own word on whether a transaction is open, and statements without an entity. */
export type RawDatabase = Sqlite.Database

export function rawOf(source: DataSource): RawDatabase {
  return (source.driver as unknown as { databaseConnection: RawDatabase }).databaseConnection
}
