import type { EntitySchema, MigrationInterface } from 'typeorm'
import type { Connection, WritingConnection } from './connection'
import type { WriteBehindStore } from './writeBehind'
import type { Fellows } from './fellows'
import type { Reader, Store } from './store'

type Migration = new () => MigrationInterface

/** The tables of a plant, and the migrations that make them: in a file, and on a server. */
export interface Schema {
  readonly entities: readonly EntitySchema[]
  readonly migrations: readonly Migration[]
  readonly serverMigrations: readonly Migration[]
}

/** The one connection of this process that writes. */
export interface Writer extends Store {
  /** As it is now: one that was lost is made anew when the next transaction begins. */
  readonly connection: WritingConnection
  /** Begins a transaction, on a new connection where the last one was lost. @throws {ServerError} `storage_busy`. */
  begin(): Promise<void>
  /** The same for one change, whose rows are written together. */
  gathered(): WriteBehindStore
}

/** A plant's database, in a file or on a server. */
export interface Database {
  readonly kind: Connection['kind']
  /** The file, or the address of the server: what `verifyPlant` and others open it by. */
  readonly address: string
  /** Only the unit of work uses it. */
  readonly writer: Writer
  /** Cannot write. */
  readonly reader: Reader
  /** For lists, searches and exports: however long it takes, it holds nobody up. Cannot write. */
  readonly longReader: Reader
  /** Whether this process is the only one that changes it, so that it may remember what it read. */
  readonly isAlone: boolean
  readonly fellows: Fellows
  /**
   * A step of its own beside the changes, which no other such step comes into: for what is worth nothing after a restart and is in no
   * chain. On a server only.
   */
  apart<T>(step: (connection: Pick<Connection, 'rows'>) => Promise<T>): Promise<T>
  close(): Promise<void>
}

/** A database as of one moment, for looking at all of it. */
export interface Snapshot {
  readonly connection: Connection
  /** What the database itself finds damaged in it, in words. */
  damage(): Promise<string[]>
  /** Names of all migrations of this release, in their order. */
  readonly migrations: readonly string[]
  /** Its tables, indexes and guards, name to SQL; and what they have to be. */
  found(): Promise<ReadonlyMap<string, string>>
  expected(): Promise<ReadonlyMap<string, string>>
  /** How many entries of the chain were ever written, where the database counts them. */
  written(): Promise<number | null>
  close(): Promise<void>
}
