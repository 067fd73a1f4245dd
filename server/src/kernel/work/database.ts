import type { Database, Schema, Snapshot } from '../database/database'
import { databaseFile, openSqlite, snapshotOfFile } from '../database/sqlite/sqliteDatabase'

export type { Database, Schema, Snapshot, Writer } from '../database/database'
export type { Reader, Store } from '../database/store'

export const isServer = (address: string): boolean => /^postgres(ql)?:\/\//.test(address)

/** Where the database of a configuration is. */
export function addressOf({ dataFolder, databaseServer }: { readonly dataFolder: string; readonly databaseServer: string | null }): string {
  return databaseServer ?? databaseFile(dataFolder)
}

/** Loaded where a plant is on a server. */
const onServer = () => import('../database/postgres/postgresDatabase')

/** Opens the database of a configuration, bringing it up to date first. */
export async function openDatabase(
  { dataFolder, databaseServer, timeZone }: { readonly dataFolder: string; readonly databaseServer: string | null; readonly timeZone?: string },
  schema: Schema,
  now: () => Date = () => new Date(),
): Promise<Database> {
  return databaseServer === null
    ? openSqlite(dataFolder, schema, now, timeZone)
    : (await onServer()).openPostgres(databaseServer, schema, now, timeZone)
}

/** A database as of now, by its file or the address of its server. */
export async function snapshotOf(address: string, schema: Schema): Promise<Snapshot> {
  return isServer(address) ? (await onServer()).snapshotOfServer(address, schema) : snapshotOfFile(address, schema)
}
