import { schema } from '../app/areas'
import { openPostgres } from '../kernel/dialect/postgresDatabase'
import { onServer, template, testServer } from './database'

/** Makes, before all tests on a server, the database that each of theirs is a copy of; nothing where they run in files. */
export default async function makeTemplate(): Promise<void> {
  if (testServer === null) return
  await onServer(`CREATE DATABASE ${template}`)
  const url = new URL(testServer)
  url.pathname = `/${template}`
  await (await openPostgres(url.toString(), schema, () => new Date('2026-01-01T00:00:00Z'))).close()
}
