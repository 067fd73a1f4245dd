import fc from 'fast-check'
import { In, IsNull } from 'typeorm'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { FamilyEntity, PartEntity, PartnerEntity } from '../../define/masters/entities'
import { runs, testDatabase } from '../../testing/database'
import type { Database } from '../work/database'
import { UnitOfWork, type Work } from '../work/unitOfWork'

let database: Database
let remove: () => Promise<void>
let unit: UnitOfWork
beforeEach(async () => {
  ;({ database, remove } = await testDatabase())
  unit = new UnitOfWork(database.writer, { now: () => new Date() }, () => crypto.randomUUID())
})
afterEach(() => remove())

const change = <T>(work: (work: Work) => Promise<T>) =>
  unit.run({ personId: 'p', key: null, content: '' }, (change) => {
    change.audit({ action: 'changed', subject: 'thing', subjectId: 'x' })
    return work(change)
  })
const family = (i: number) => ({ id: `f${i}`, code: `F-${i}`, name: `Family ${i}`, version: 1 })
const part = (i: number, familyId: string | null) => ({
  id: `p${i}`,
  code: `P-${i}`,
  name: `Part ${i % 3}`,
  revision: 'A',
  unit: 'piece' as const,
  tracking: 'lot' as const,
  familyId,
  putAwayPlaceId: null,
  version: 1,
})
const counted = async (work: Pick<Work['manager'], 'query'>, table: string) =>
  ((await work.query(`SELECT COUNT(*) AS n FROM ${table}`)) as { n: number }[])[0]?.n

describe('rows that a change puts in', () => {
  it('are there for whoever of the change asks, by entity or by SQL', async () => {
    await change(async ({ manager }) => {
      await manager.insert(FamilyEntity, family(1))
      await manager.insert(PartEntity, part(1, 'f1'))
      await manager.insert(PartEntity, part(2, null))
      expect(await manager.findOneBy(PartEntity, { code: 'P-2' })).toMatchObject({ id: 'p2', packQuantity: null })
      expect(await manager.findBy(PartEntity, { id: In(['p1', 'p9']) })).toHaveLength(1)
      expect(await manager.existsBy(PartEntity, { code: 'P-9' })).toBe(false)
      expect(await counted(manager, 'part')).toBe(2)
    })
  })

  it('are found by one of several texts, and by a value that they left to the database', async () => {
    await change(async ({ manager }) => {
      await manager.insert(PartEntity, part(1, null))
      expect(await manager.findBy(PartEntity, { id: In(['p1', 'p9']) })).toHaveLength(1)
      await manager.insert(PartEntity, part(2, null))
      expect(await manager.findBy(PartEntity, { id: In(['p9']) })).toEqual([])
      expect(await manager.findBy(PartEntity, { holdDays: IsNull() })).toHaveLength(2)
      await manager.insert(PartnerEntity, { id: 's1', code: 'S', name: 'S', version: 1, kind: 'supplier', isActive: true })
      expect(await manager.findBy(PartnerEntity, { supplierGroup: '' })).toHaveLength(1)
    })
  })

  it('go in by few statements, also where some of them say more than others', async () => {
    const asked = vi.spyOn(database.writer.connection, 'rows')
    await change(async ({ manager }) => {
      for (let i = 0; i < 40; i++) await manager.insert(PartEntity, { ...part(i, null), ...(i >= 36 ? { packQuantity: i } : {}) })
    })
    expect(asked.mock.calls.filter(([sql]) => sql.startsWith('INSERT INTO "part"'))).toHaveLength(3)
    const kept = await database.reader.find(PartEntity, { order: { id: 'ASC' } })
    expect(kept.map(({ packQuantity }) => packQuantity).filter((entry) => entry !== null)).toEqual([36, 37, 38, 39])
    expect(kept).toHaveLength(40)
  })

  it('stand in the database after the rows that they point at, however they were put in', async () => {
    await change(async ({ manager }) => {
      await manager.insert(PartEntity, part(1, null))
      await manager.insert(FamilyEntity, family(1))
      await manager.insert(PartEntity, part(2, 'f1'))
    })
    expect(await database.reader.findBy(PartEntity, { familyId: 'f1' })).toHaveLength(1)
  })

  it('are all there when several questions are asked at once', async () => {
    await change(async ({ manager }) => {
      for (let i = 0; i < 40; i++) await manager.insert(PartEntity, part(i, null))
      const asked = Array.from({ length: 5 }, () => counted(manager, 'part'))
      expect(await Promise.all(asked)).toEqual([40, 40, 40, 40, 40])
    })
  })

  it('are refused with the change where one of them is not taken, though somebody looks away', async () => {
    const swallowing = change(async ({ manager }) => {
      await manager.insert(FamilyEntity, family(1))
      await manager.insert(FamilyEntity, { ...family(2), code: 'F-1' })
      await counted(manager, 'family').catch(() => undefined)
    })
    await expect(swallowing).rejects.toThrow(/unique/i)
    expect(await counted(database.reader, 'family')).toBe(0)
  })

  it('are gone with a change that is refused, and do not come with the next one', async () => {
    const refused = change(async ({ manager }) => {
      await manager.insert(FamilyEntity, family(1))
      throw new Error('refused')
    })
    await expect(refused).rejects.toThrow('refused')
    await change(({ manager }) => manager.insert(FamilyEntity, family(2)))
    expect((await database.reader.find(FamilyEntity)).map(({ code }) => code)).toEqual(['F-2'])
  })

  it('answer every question as rows do that were written at once', async () => {
    const act = fc.oneof(
      fc.record({ act: fc.constant('insert' as const), familyId: fc.constantFrom('f1', null) }),
      fc.record({ act: fc.constant('rename' as const), name: fc.constantFrom('Part 0', 'Part 1') }),
      fc.record({ act: fc.constantFrom('findBy' as const, 'count' as const, 'sql' as const), name: fc.constantFrom('Part 0', 'Part 1', 'Part 2') }),
      fc.record({ act: fc.constantFrom('without' as const, 'all' as const) }),
    )
    let at = 0
    await fc.assert(
      fc.asyncProperty(fc.array(act, { maxLength: 60 }), async (acts) => {
        const model: ReturnType<typeof part>[] = []
        const asked = new Error('asked enough')
        const run = change(async ({ manager }) => {
          await manager.insert(FamilyEntity, family(1))
          for (const act of acts) {
            if (act.act === 'insert') {
              model.push(part((at += 1), act.familyId))
              await manager.insert(PartEntity, { ...(model.at(-1) as (typeof model)[number]) })
            } else if (act.act === 'rename') {
              await manager.update(PartEntity, { name: act.name }, { name: 'Part 2' })
              for (const row of model) if (row.name === act.name) row.name = 'Part 2'
            } else if (act.act === 'findBy' || act.act === 'count' || act.act === 'sql') {
              const { name } = act
              const expected = model.filter((row) => row.name === name).length
              if (act.act === 'findBy') expect(await manager.findBy(PartEntity, { name })).toHaveLength(expected)
              else if (act.act === 'count') expect(await manager.countBy(PartEntity, { name })).toBe(expected)
              else expect(await manager.query('SELECT id FROM part WHERE name = ?', [name])).toHaveLength(expected)
            } else if (act.act === 'without')
              expect(await manager.countBy(PartEntity, { familyId: IsNull() })).toBe(model.filter(({ familyId }) => familyId === null).length)
            else expect((await manager.find(PartEntity, { order: { id: 'ASC' } })).map(({ id }) => id)).toEqual(model.map(({ id }) => id).sort())
          }
          throw asked
        })
        await expect(run).rejects.toBe(asked)
      }),
      { numRuns: runs(60) },
    )
  })
})
