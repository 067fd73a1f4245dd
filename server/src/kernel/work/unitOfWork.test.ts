import Sqlite from 'better-sqlite3'
import fc from 'fast-check'
import { Client } from 'pg'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { schema } from '../../app/areas'
import { FamilyEntity } from '../../define/masters/entities'
import { PlanEntity } from '../../define/plans/entities'
import { hashOf } from '../audit/auditChain'
import type { Database } from './database'
import { writeLock } from '../database/postgres/postgres'
import type { SqliteDatabase } from '../database/sqlite/sqliteDatabase'
import { sealWhatStands } from '../audit/sealWhatStands'
import { isOnServer, runs, testDatabase } from '../../testing/database'
import { UnitOfWork, type Work } from './unitOfWork'
import { verifyPlant } from '../verify/verifyPlant'

let database: Database
let remove: () => Promise<void>
let unit: UnitOfWork
beforeEach(async () => {
  ;({ database, remove } = await testDatabase())
  // However slow the machine is, what waits at the same time goes together.
  unit = new UnitOfWork(database.writer, { now: () => new Date() }, () => crypto.randomUUID(), null, undefined, null, Infinity)
})
afterEach(() => remove())
const request = (key: string | null = null, content = 'POST /x') => ({ personId: 'p', key, content })
const number = async (work: Work) => {
  work.audit({ action: 'numbered', subject: 'thing', subjectId: 'x' })
  return work.nextCode('T')
}

/** Entries of the chain, without what a new database says of itself. */
const entries = async () => ((await database.reader.query(`SELECT COUNT(*) AS n FROM audit WHERE subject <> 'plant'`)) as { n: number }[])[0]?.n
const rawOf = () => (database as SqliteDatabase).raw
/** As a full disk: the file may grow by no more than this. */
const allowPages = (more: number) => {
  const raw = rawOf()
  raw.pragma(`max_page_count = ${Number(raw.pragma('page_count', { simple: true })) + more}`)
}
const fill = async (work: Work) => {
  work.audit({ action: 'filled', subject: 'thing', subjectId: 'x', after: 'x'.repeat(200_000) })
  return work.nextCode('T')
}

describe.skipIf(isOnServer)('a disk that takes nothing more', () => {
  it('is told of, loses nothing that was acknowledged, and is forgotten once there is room', async () => {
    expect(await unit.run(request(), number)).toBe('T-000001')
    allowPages(2)
    for (let i = 0; i < 3; i++) await expect(unit.run(request(), fill)).rejects.toMatchObject({ code: 'storage_failed' })
    expect(unit.trouble?.message).toMatch(/disk is full/)
    rawOf().pragma('max_page_count = 1000000')
    const acknowledged = await Promise.all(Array.from({ length: 5 }, () => unit.run(request(), number)))
    expect(unit.trouble).toBeNull()
    expect(database.writer.connection.isOpen()).toBe(false)
    expect(await entries()).toBe(1 + acknowledged.length)
    expect((await verifyPlant(database.address, schema)).breaks).toEqual([])
  })

  it('is not hidden by a change that goes on after the storage gave its transaction up', async () => {
    const swallowing = unit.run(request(), async (work) => {
      await database.writer.connection.run('ROLLBACK')
      return number(work)
    })
    await expect(swallowing).rejects.toMatchObject({ code: 'storage_failed' })
    expect(await unit.run(request(), number)).toMatch(/^T-/)
  })

  it('while another program writes, waits for it and then says so, without holding up the others', async () => {
    const other = new Sqlite(database.address)
    other.exec('BEGIN IMMEDIATE')
    const waiting = unit.run(request(), number)
    await new Promise((resolve) => setTimeout(resolve, 200))
    other.exec('COMMIT')
    expect(await waiting).toBe('T-000001')
    other.exec('BEGIN IMMEDIATE')
    let turns = 0
    const turning = setInterval(() => (turns += 1), 10)
    await expect(unit.run(request(), number)).rejects.toMatchObject({ code: 'storage_busy' })
    clearInterval(turning)
    expect(turns).toBeGreaterThan(50)
    other.exec('ROLLBACK')
    other.close()
    expect(await unit.run(request(), number)).toBe('T-000002')
  })
})

describe.skipIf(!isOnServer)('a database server', () => {
  it('that sent the connection away is connected to anew, and nothing is lost or written by halves', async () => {
    expect(await unit.run(request(), number)).toBe('T-000001')
    const sendAway = `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()`
    const cut = unit.run(request(), async (work) => {
      await number(work)
      await database.reader.query(sendAway).catch(() => null)
      return number(work)
    })
    await expect(cut).rejects.toMatchObject({ code: 'storage_failed' })
    expect(unit.trouble?.message).toMatch(/does not answer|was lost/)
    await vi.waitFor(async () => expect(await unit.run(request(), number)).toBe('T-000002'))
    expect(unit.trouble).toBeNull()
    expect(await entries()).toBe(2)
    expect((await verifyPlant(database.address, schema)).breaks).toEqual([])
  })

  it('on which another process writes is waited for, and said to be busy after a while, without holding up the others', async () => {
    const other = new Client({ connectionString: database.address })
    await other.connect()
    try {
      await other.query(`SELECT pg_advisory_lock(${writeLock})`)
      await expect(unit.run(request(), number)).rejects.toMatchObject({ code: 'storage_busy' })
      const waiting = unit.run(request(), number)
      await other.query(`SELECT pg_advisory_unlock(${writeLock})`)
      expect(await waiting).toBe('T-000001')
    } finally {
      await other.end()
    }
  })
})

describe('the unit of work', () => {
  it('writes nothing when the change throws, and goes on with the next', async () => {
    const failing = unit.run(request(), async (work) => {
      await number(work)
      throw new Error('no')
    })
    await expect(failing).rejects.toThrow('no')
    expect(await unit.run(request(), number)).toBe('T-000001')
    expect(await entries()).toBe(1)
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

  it('says that a running number is taken where the count was set back past the server, and of nothing else', async () => {
    const put = (id: string) => async (work: Work) => {
      const code = await number(work)
      await work.manager.insert(FamilyEntity, { id, code, name: id, version: 1 })
      return code
    }
    await unit.run(request(), put('one'))
    await database.writer.query('UPDATE counter SET value = 0')
    await expect(unit.run(request(), put('two'))).rejects.toMatchObject({ code: 'number_taken', facts: { numbers: ['T-000001'] } })
    await database.writer.query('UPDATE counter SET value = 1')
    expect(await unit.run(request(), put('two'))).toBe('T-000002')
    await expect(unit.run(request(), put('two'))).rejects.not.toHaveProperty('code', 'number_taken')
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
    expect(await entries()).toBe(32)
    expect((await verifyPlant(database.address, schema)).breaks).toEqual([])
  })

  it('writes what waits at the same time in one commit, and refuses one of them without the others', async () => {
    const commits = vi.spyOn(database.writer.connection, 'commit')
    const asked = [number, number, () => Promise.reject(new Error('no')), number].map((work) => unit.run<unknown>(request(), work))
    expect((await Promise.allSettled(asked)).map(({ status }) => status)).toEqual(['fulfilled', 'fulfilled', 'rejected', 'fulfilled'])
    expect(commits).toHaveBeenCalledTimes(1)
    commits.mockRestore()
    expect(await entries()).toBe(3)
  })

  it('acknowledges none of those that shared a transaction which was lost', async () => {
    const lose = async (work: Work) => {
      await database.writer.connection.run('ROLLBACK')
      return number(work)
    }
    const asked = [number, number, lose, number].map((work) => unit.run(request(), work))
    expect((await Promise.allSettled(asked)).map(({ status }) => status)).toEqual(['rejected', 'rejected', 'rejected', 'fulfilled'])
    expect(await entries()).toBe(1)
    expect((await verifyPlant(database.address, schema)).breaks).toEqual([])
  })
})

describe('what a change seals', () => {
  const put = (work: Work, id: string) => work.manager.insert(FamilyEntity, { id, code: id, name: id, version: 1 })

  it('is every row as it stands at its end, in whatever order rows are put in, changed and taken out: also of one that gets the place of another', async () => {
    const act = fc.record({ what: fc.constantFrom('put', 'change', 'take'), which: fc.nat(5) })
    await fc.assert(
      fc.asyncProperty(fc.array(fc.array(act, { minLength: 1, maxLength: 6 }), { minLength: 1, maxLength: 4 }), async (changes) => {
        const there = new Set<string>(((await database.reader.query('SELECT id FROM family')) as { id: string }[]).map(({ id }) => id))
        for (const acts of changes)
          await unit.run(request(), async (work) => {
            work.audit({ action: 'tried', subject: 'family', subjectId: 'x' })
            for (const { what, which } of acts) {
              const id = `f${which}`
              if (what === 'put' && !there.has(id)) {
                await put(work, id)
                there.add(id)
              } else if (what === 'take' && there.delete(id)) await work.manager.delete(FamilyEntity, { id })
              else if (what === 'change' && there.has(id)) await work.manager.update(FamilyEntity, { id }, { name: crypto.randomUUID() })
            }
          })
        expect((await verifyPlant(database.address, schema)).breaks).toEqual([])
      }),
      { numRuns: runs(40) },
    )
  })

  it.skipIf(isOnServer)(
    'a plant that an earlier release left with the seal of a row that was gone is mended by its next migration, and says so',
    async () => {
      await unit.run(request(), async (work) => {
        work.audit({ action: 'planned', subject: 'plan', subjectId: 'p' })
        await work.manager.insert(PlanEntity, { id: 'old', code: 'OLD', name: 'Old', version: 1 })
      })
      // As it was said then: the one that went under the digits of the one that came.
      await unit.run(request(), async (work) => {
        work.audit({ action: 'planned', subject: 'plan', subjectId: 'p' })
        await work.manager.delete(PlanEntity, { id: 'old' })
        await work.manager.insert(PlanEntity, { id: 'new', code: 'NEW', name: 'New', version: 1 })
      })
      const raw = rawOf()
      const { seq, rows } = raw.prepare('SELECT seq, rows FROM audit ORDER BY seq DESC LIMIT 1').get() as { seq: number; rows: string }
      const seals = JSON.parse(rows) as { plan: Record<string, string | 0> }
      expect(seals.plan['old']).toBe(0)
      const before = raw.prepare('SELECT * FROM audit WHERE seq = ?').get(seq) as Record<string, string | null>
      const { person_id: personId, subject_id: subjectId, previous_hash: previousHash, at, action, subject, before: was, after, why } = before
      const forged = JSON.stringify({ plan: { ...seals.plan, old: seals.plan['new'] } })
      const guards = raw.prepare(`SELECT name, sql FROM sqlite_master WHERE type = 'trigger' AND tbl_name = 'audit'`).all() as {
        name: string
        sql: string
      }[]
      for (const { name } of guards) raw.exec(`DROP TRIGGER "${name}"`)
      const hash = hashOf({ personId, subjectId, previousHash, at, action, subject, before: was, after, why, rows: forged } as never)
      raw.prepare('UPDATE audit SET rows = ?, hash = ? WHERE seq = ?').run(forged, hash, seq)
      for (const { sql } of guards) raw.exec(sql)
      expect((await verifyPlant(database.address, schema)).breaks).toEqual(['plan old was taken out past the chain'])
      await sealWhatStands(database.writer.connection, 'migrated: Next', new Date().toISOString())
      expect((await verifyPlant(database.address, schema)).breaks).toEqual([])
      expect(raw.prepare(`SELECT COUNT(*) FROM audit WHERE action = 'seals mended'`).pluck().get()).toBe(1)
    },
  )
})
