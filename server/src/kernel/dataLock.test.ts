import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { lockHolder, takeLock } from './dataLock'
import { backUp, tidy } from './housekeeping'
import { openDatabase } from './database'
import { UnitOfWork } from './unitOfWork'

let folder: string
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
})
afterEach(() => rmSync(folder, { recursive: true, force: true }))

describe('a data folder', () => {
  it('belongs to one server at a time, and a killed one leaves it free', () => {
    expect(lockHolder(folder)).toBeNull()
    writeFileSync(join(folder, 'server.pid'), String(process.ppid))
    expect(lockHolder(folder)).toBe(process.ppid)
    expect(() => takeLock(folder)).toThrow(/in use by a running server/)
    writeFileSync(join(folder, 'server.pid'), '2147483000')
    const release = takeLock(folder)
    expect(lockHolder(folder)).toBeNull()
    release()
    takeLock(folder)()
  })

  it('is backed up to a file that opens by itself', async () => {
    const database = await openDatabase(folder)
    await database.writer.query(`INSERT INTO counter (name, value) VALUES ('L', 7)`)
    const copy = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
    await backUp(database.writer, join(copy, 'nemawashi.sqlite'))
    await database.close()
    const restored = await openDatabase(copy)
    expect(await restored.reader.query('SELECT value FROM counter')).toEqual([{ value: 7 }])
    await restored.close()
    rmSync(copy, { recursive: true })
  })

  it('is rid of ended sessions and of keys that nobody repeats any more, and of nothing else', async () => {
    const database = await openDatabase(folder)
    const unit = new UnitOfWork(database.writer, { now: () => new Date('2026-03-20T00:00:00Z') }, () => 'id')
    const key = (name: string, at: string) =>
      database.writer.query(`INSERT INTO request_key ("key", personId, requestHash, reply, at) VALUES (?, '', '', '{}', ?)`, [name, at])
    await key('old', '2026-03-01T00:00:00Z')
    await key('young', '2026-03-19T00:00:00Z')
    await tidy(unit, new Date('2026-03-20T00:00:00Z'))
    expect(await database.reader.query('SELECT "key" FROM request_key')).toEqual([{ key: 'young' }])
    await database.close()
  })
})
