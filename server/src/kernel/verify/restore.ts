import { closeSync, existsSync, fsyncSync, linkSync, mkdirSync, openSync, renameSync, rmSync, statSync } from 'node:fs'
import Sqlite from 'better-sqlite3'
import { beginning, ChainWriter, headOf } from '../audit/auditChain'
import { chainKey, HeadFile, type Head } from '../audit/chainHead'
import type { Config } from '../base/config'
import type { Schema } from '../work/database'
import { takeLock } from '../files/dataLock'
import { SqliteConnection } from '../database/sqlite/sqlite'
import { copyDatabase, databaseFile, migrationsOf } from '../database/sqlite/sqliteDatabase'
import { verifyPlant } from './verifyPlant'

/** How far the chain of a database file goes. */
export function headOfFile(file: string): Head {
  const raw = new Sqlite(file, { readonly: true, fileMustExist: true })
  try {
    return (raw.prepare('SELECT seq, hash FROM audit ORDER BY seq DESC LIMIT 1').get() as Head | undefined) ?? beginning
  } finally {
    raw.close()
  }
}

/** Refuses what is no whole plant of this release or an earlier one. */
async function requirePlant(file: string, schema: Schema): Promise<void> {
  if (!existsSync(file) || !statSync(file).isFile() || statSync(file).size === 0)
    throw new Error(`Received "${file}". Name an existing backup file: npm run restore -- FILE`)
  let had: string[]
  try {
    const raw = new Sqlite(file, { readonly: true, fileMustExist: true })
    had = migrationsOf(raw)
    raw.close()
  } catch {
    throw new Error(`${file} is no database. Nothing was changed.`)
  }
  if (had[0] !== schema.migrations[0]?.name) throw new Error(`${file} is a database, but not one of this application. Nothing was changed.`)
  const unknown = had.filter((name) => !schema.migrations.some((migration) => migration.name === name))
  if (unknown.length > 0) throw new Error(`${file} was written by a newer release (${unknown.join(', ')}). Nothing was changed.`)
  const { breaks } = await verifyPlant(file, schema)
  if (breaks.length > 0) throw new Error(`${file} is not whole; nothing was changed:\n  ${breaks.join('\n  ')}`)
}

function flush(path: string): void {
  const descriptor = openSync(path, 'r')
  fsyncSync(descriptor)
  closeSync(descriptor)
}

/** Brings what waits in the log of the present database into its file, so that the file alone is kept whole. Gives the endings to keep with it. */
function settle(file: string): readonly string[] {
  try {
    const raw = new Sqlite(file, { fileMustExist: true })
    raw.pragma('wal_checkpoint(TRUNCATE)')
    raw.close()
    return ['']
  } catch {
    // A damaged database is kept as it lies there, its log with it.
    return ['', '-wal', '-shm']
  }
}

/**
 * Puts a copy back: checked first, copied beside, then changed places with what was there, which is kept under a name of its own.
 * Broken off at any moment, either the old or the new database is in its place.
 * @param called what it was opened from, where that is another file
 * @throws {Error} in words for people.
 */
export async function restore(config: Config, schema: Schema, from: string | undefined, called = from): Promise<boolean> {
  if (from === undefined) throw new Error('Name the backup file: npm run restore -- FILE')
  const release = takeLock(config.dataFolder)
  try {
    await requirePlant(from, schema)
    mkdirSync(config.dataFolder, { recursive: true })
    const file = databaseFile(config.dataFolder)
    const beside = `${file}.restoring`
    rmSync(beside, { force: true })
    copyDatabase(from, beside)
    const at = new Date().toISOString()
    const head = await describeRestored(beside, at)
    flush(beside)
    const kept = `${file}.before-restore-${at.replaceAll(/[:.]/g, '-')}`
    if (existsSync(file)) {
      const endings = settle(file)
      // Linked and not moved: at no moment is there no database in its place.
      linkSync(file, kept)
      for (const ending of endings) if (ending !== '' && existsSync(`${file}${ending}`)) renameSync(`${file}${ending}`, `${kept}${ending}`)
    }
    for (const ending of ['-wal', '-shm']) rmSync(`${file}${ending}`, { force: true })
    renameSync(beside, file)
    flush(config.dataFolder)
    if (existsSync(config.chainHeadFile)) renameSync(config.chainHeadFile, `${config.chainHeadFile}.before-restore-${at.replaceAll(/[:.]/g, '-')}`)
    const said = new HeadFile(config.chainHeadFile, chainKey(config.chainKeyFile))
    said.write(head, at)
    said.close()
    console.log(`Restored ${called}.${existsSync(kept) ? ` What was there before is kept at ${kept}` : ''}`)
    return true
  } finally {
    release()
  }
}

/** The chain goes on with the word that it was put back: what came after the copy is gone, and this says so. */
async function describeRestored(file: string, at: string): Promise<Head> {
  const raw = new Sqlite(file)
  const connection = new SqliteConnection(raw)
  try {
    const isOfNow = raw.prepare(`SELECT 1 FROM pragma_table_info('audit') WHERE name = 'previous_hash'`).get()
    // The chain of an older release is continued once that release's database has been brought up to date.
    if (!isOfNow) return await headOf(connection)
    await connection.begin()
    const head = await new ChainWriter(connection).append(at, null, [{ action: 'restored', subject: 'plant', subjectId: '' }], null)
    await connection.commit()
    return head
  } finally {
    raw.close()
  }
}
