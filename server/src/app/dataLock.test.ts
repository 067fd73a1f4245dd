import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { schema } from './areas'
import { copyDatabase, openSqlite } from '../kernel/database/sqlite/sqliteDatabase'
import { takeLock } from '../kernel/files/dataLock'
import { forgetKeys } from '../kernel/work/forgetKeys'
import { UnitOfWork } from '../kernel/work/unitOfWork'

let folder: string
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
})
afterEach(() => rmSync(folder, { recursive: true, force: true }))

describe('a data folder', () => {
  it('belongs to one server at a time, whatever number a process left in it', () => {
    for (const left of ['', String(process.ppid), 'nonsense']) {
      writeFileSync(join(folder, 'server.pid'), left)
      const release = takeLock(folder)
      expect(() => takeLock(folder)).toThrow(/in use by a running server/)
      release()
    }
    takeLock(folder)()
  })

  it('is free again when the process that had it was killed', async () => {
    const script = `const S = require('better-sqlite3'); const d = new S(process.argv[1]); d.exec('BEGIN EXCLUSIVE'); console.log('has it'); setInterval(() => {}, 1000)`
    const other = spawn(process.execPath, ['-e', script, join(folder, 'server.lock')])
    await new Promise((resolve) => other.stdout.once('data', resolve))
    expect(() => takeLock(folder)).toThrow(/in use/)
    const gone = new Promise((resolve) => other.once('exit', resolve))
    other.kill('SIGKILL')
    await gone
    takeLock(folder)()
  })

  it('is backed up to a file that opens by itself, while somebody writes', async () => {
    const database = await openSqlite(folder, schema)
    await database.writer.query(`INSERT INTO counter (name, value) VALUES ('L', 7)`)
    const copy = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
    copyDatabase(database.address, join(copy, 'nemawashi.sqlite'))
    expect(() => copyDatabase(database.address, join(copy, 'nemawashi.sqlite'))).toThrow(/exists already/)
    await database.close()
    const restored = await openSqlite(copy, schema)
    expect(await restored.reader.query('SELECT value FROM counter')).toEqual([{ value: 7 }])
    await restored.close()
    rmSync(copy, { recursive: true })
  })

  it('is rid of ended sessions and of keys that nobody repeats any more, and of nothing else', async () => {
    const database = await openSqlite(folder, schema)
    const now = Date.now()
    const ago = (days: number) => new Date(now - days * 86_400_000)
    const unit = new UnitOfWork(database.writer, { now: () => new Date() }, () => 'id')
    const keys = () => database.reader.query('SELECT "key" FROM request_key')
    const key = (name: string, at: string) =>
      database.writer.query(`INSERT INTO request_key ("key", person_id, request_hash, reply, at) VALUES (?, '', '', '{}', ?)`, [name, at])
    const names = async () => ((await keys()) as { key: string }[]).map((row) => row.key).sort()
    const lately = Array.from({ length: 15 }, (_, i) => `day ${i}`).sort()
    for (const [i, name] of Array.from({ length: 15 }, (_, days) => `day ${days}`).entries()) await key(name, ago(i).toISOString())
    await key('old', ago(16).toISOString())
    await forgetKeys(unit, new Date())
    expect(await names()).toEqual(lately)
    // A clock that is far ahead makes no key of the last fourteen days old, also once something was stored by it.
    await forgetKeys(unit, ago(-30))
    expect(await names()).toEqual(lately)
    await key('ahead', ago(-30).toISOString())
    await forgetKeys(unit, ago(-30))
    expect(await names()).toEqual(['ahead', ...lately.filter((name) => name !== 'day 14')])
    await database.close()
  })
})
