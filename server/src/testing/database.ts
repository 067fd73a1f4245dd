import { copyFileSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Client } from 'pg'
import { schema } from '../app/areas'
import { openDatabase, type Database } from '../kernel/work/database'
import { databaseFile } from '../kernel/database/sqlite/sqliteDatabase'

/** The server that the tests run on; null: in files. `npm run test:postgres` sets it. */
export const testServer = process.env['NEMAWASHI_TEST_POSTGRES'] ?? null
/** For tests of what only a file has: its pages, its lock, its copies. */
export const isOnServer = testServer !== null

/** How often a property is tried: in a file as often as it says; on a server, where the same is asked once more, a third as often. */
export const runs = (times: number): number => (isOnServer ? Math.ceil(times / 3) : times)

export const template = 'nemawashi_template'
/** Says where the file is that each test's plant in a file is a copy of; set before all tests. */
export const templateVariable = 'NEMAWASHI_TEST_TEMPLATE'
let made = 0

export async function onServer(sql: string, address = testServer ?? ''): Promise<void> {
  const client = new Client({ connectionString: address })
  await client.connect()
  try {
    await client.query(sql)
  } finally {
    await client.end()
  }
}

const drop = (name: string): Promise<void> => onServer(`DROP DATABASE ${name} WITH (FORCE)`)

/** A place for a database of its own: what a configuration needs to find it, and what takes it away again. */
export async function testPlace(): Promise<{ dataFolder: string; databaseServer: string | null; remove(): Promise<void> }> {
  const dataFolder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
  const removeFolder = () => rmSync(dataFolder, { recursive: true, force: true })
  if (testServer === null) {
    const from = process.env[templateVariable]
    if (from !== undefined) copyFileSync(from, databaseFile(dataFolder))
    return { dataFolder, databaseServer: null, remove: async () => removeFolder() }
  }
  const name = `test_${process.pid}_${(made += 1)}_${Date.now()}`
  await onServer(`CREATE DATABASE ${name} TEMPLATE ${template}`)
  const url = new URL(testServer)
  url.pathname = `/${name}`
  return {
    dataFolder,
    databaseServer: url.toString(),
    async remove() {
      removeFolder()
      await drop(name)
    },
  }
}

/** A database on the server in which nothing is. */
export async function emptyOnServer(): Promise<{ address: string; remove(): Promise<void> }> {
  const name = `empty_${process.pid}_${(made += 1)}_${Date.now()}`
  await onServer(`CREATE DATABASE ${name}`)
  const url = new URL(testServer ?? '')
  url.pathname = `/${name}`
  return { address: url.toString(), remove: () => drop(name) }
}

/** A copy of a database on the server; whoever is connected to it is sent away for that. */
export async function copyOnServer(address: string): Promise<{ address: string; run(sql: string): Promise<void>; remove(): Promise<void> }> {
  const from = new URL(address).pathname.slice(1)
  const name = `copy_${process.pid}_${(made += 1)}_${Date.now()}`
  await onServer(`SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '${from}'`)
  await onServer(`CREATE DATABASE ${name} TEMPLATE ${from}`)
  const url = new URL(address)
  url.pathname = `/${name}`
  return { address: url.toString(), run: (sql) => onServer(sql, url.toString()), remove: () => drop(name) }
}

/** An empty plant's database, brought up to date. */
export async function testDatabase(): Promise<{ database: Database; remove(): Promise<void> }> {
  const place = await testPlace()
  const database = await openDatabase(place, schema)
  return {
    database,
    async remove() {
      await database.close()
      await place.remove()
    },
  }
}
