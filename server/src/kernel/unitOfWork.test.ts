import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { verifyChain } from './auditChain'
import { openDatabase, type Database } from './database'
import { UnitOfWork, type Work } from './unitOfWork'

let folder: string
let database: Database
let unit: UnitOfWork
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'nemawashi-test-'))
  database = await openDatabase(folder)
  unit = new UnitOfWork(database.writer, { now: () => new Date() }, () => crypto.randomUUID())
})
afterEach(async () => {
  await database.close()
  rmSync(folder, { recursive: true })
})
const request = (key: string | null = null, content = 'POST /x') => ({ personId: 'p', key, content })
const number = async (work: Work) => {
  work.audit({ action: 'numbered', subject: 'thing', subjectId: 'x' })
  return work.nextCode('T')
}

describe('the unit of work', () => {
  it('writes nothing when the change throws, and goes on with the next', async () => {
    const failing = unit.run(request(), async (work) => {
      await number(work)
      throw new Error('no')
    })
    await expect(failing).rejects.toThrow('no')
    expect(await unit.run(request(), number)).toBe('T-000001')
    expect((await verifyChain(database.reader.manager)).entries).toBe(1)
  })

  it('answers a repeated key with the first answer and changes nothing', async () => {
    const first = await unit.run(request('k'), number)
    expect(await unit.run(request('k'), number)).toBe(first)
    expect(await unit.run(request(null), number)).toBe('T-000002')
    await expect(unit.run(request('k', 'POST /other'), number)).rejects.toMatchObject({ code: 'key_reused' })
  })

  it('does not remember the key of a change that failed', async () => {
    await expect(unit.run(request('k'), () => Promise.reject(new Error('no')))).rejects.toThrow()
    expect(await unit.run(request('k'), number)).toBe('T-000001')
  })

  it('refuses a change that the audit chain is not told of', async () => {
    await expect(unit.run(request(), async (work) => work.nextCode('T'))).rejects.toThrow(/audit chain was not told/)
    expect(await unit.run(request(), number)).toBe('T-000001')
  })

  it('keeps forty changes at once apart: every number once, the chain whole', async () => {
    const codes = await Promise.all(
      Array.from({ length: 40 }, (_, i) =>
        i % 5 === 4 ? unit.run(request(), () => Promise.reject(new Error('no'))).catch(() => null) : unit.run(request(), number),
      ),
    )
    const given = codes.filter((code) => code !== null)
    expect(new Set(given).size).toBe(32)
    expect(await verifyChain(database.reader.manager)).toEqual({ entries: 32, breaks: [] })
  })
})
