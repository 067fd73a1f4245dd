import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { schema } from '../app/areas'
import { openPostgres } from '../kernel/database/postgres/postgresDatabase'
import { databaseFile, openSqlite } from '../kernel/database/sqlite/sqliteDatabase'
import { onServer, template, templateVariable, testServer } from './database'

const madeAt = () => new Date('2026-01-01T00:00:00Z')

/** Makes, before all tests, the database that each of theirs is a copy of: migrating takes longer than most of them. Gives what takes it away. */
export default async function makeTemplate(): Promise<(() => void) | undefined> {
  if (testServer !== null) {
    await onServer(`CREATE DATABASE ${template}`)
    const url = new URL(testServer)
    url.pathname = `/${template}`
    await (await openPostgres(url.toString(), schema, madeAt)).close()
    return undefined
  }
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-template-'))
  await (await openSqlite(folder, schema, madeAt)).close()
  process.env[templateVariable] = databaseFile(folder)
  return () => rmSync(folder, { recursive: true, force: true })
}
