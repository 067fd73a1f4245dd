import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { In, IsNull } from 'typeorm'
import { ControlPointEntity } from '../../attach/entities'
import { MovementEntity } from '../../stock/ledger/entities'
import { receive, startPlant, stock, type Plant } from '../../testing/plant'

/** A list of conditions is the mapper's own to answer: what it says of one is what the plain statements have to say. */
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  const planId = (await goods.plan('PL-S', [{ characteristicId: goods.judged.id }])).id
  await goods.point(planId, { frequency: { kind: 'oneIn', k: 3 }, dueHours: 1.5, responsible: `O'Neil "lab" ?` })
  await goods.point(planId, { isGate: false, partId: null, supplierId: goods.supplier.id })
  await receive(plant, goods)
})
afterAll(() => plant.stop())
const reader = () => plant.kernel.database.reader
const codes = (rows: readonly { code: string }[]) => rows.map(({ code }) => code).sort()

describe('rows that are asked for plainly', () => {
  it('come as the mapper gives them: flags, decimals, what is kept as JSON, and what is empty', async () => {
    const plain = await reader().findBy(ControlPointEntity, { operationId: goods.receiving.id })
    const mapped = await reader().findBy(ControlPointEntity, [{ operationId: goods.receiving.id }])
    expect(plain).toHaveLength(2)
    expect(plain.sort((a, b) => (a.code < b.code ? -1 : 1))).toEqual(mapped.sort((a, b) => (a.code < b.code ? -1 : 1)))
    const [gate] = plain
    expect(gate).toMatchObject({ isGate: true, dueHours: 1.5, frequency: { kind: 'oneIn', k: 3 }, responsible: `O'Neil "lab" ?`, familyId: null })
    expect(await reader().findBy(MovementEntity, { kind: 'received' })).toEqual(await reader().findBy(MovementEntity, [{ kind: 'received' }]))
  })

  it('are found by flags, by what is empty, and by several columns at once; what is more is the mapper’s', async () => {
    const find = async (where: object) => codes(await reader().findBy(ControlPointEntity, where))
    expect(await find({ isGate: true })).toEqual(['CP-000001'])
    expect(await find({ isGate: false, partId: IsNull() })).toEqual(['CP-000002'])
    expect(await find({ partId: IsNull(), isGate: true })).toEqual([])
    expect(await find({ code: In(['CP-000001', 'CP-000002']) })).toEqual(['CP-000001', 'CP-000002'])
    expect(await find({})).toEqual(['CP-000001', 'CP-000002'])
    await expect(reader().findBy(ControlPointEntity, { nothing: 'there' } as object)).rejects.toThrow()
  })

  it('are counted, and missed: null, or an error that names what was looked for', async () => {
    expect(await reader().countBy(ControlPointEntity, { state: 'active' })).toBe(2)
    expect(await reader().existsBy(ControlPointEntity, { state: 'retired' })).toBe(false)
    expect(await reader().findOneBy(ControlPointEntity, { code: 'CP-9' })).toBeNull()
    await expect(reader().findOneByOrFail(ControlPointEntity, { code: 'CP-9' })).rejects.toThrow(/CP-9/)
  })
})

describe('rows that are put in and changed plainly', () => {
  const change = <T>(work: Parameters<typeof plant.kernel.work.run<T>>[1]) => plant.kernel.work.run({ personId: null, key: null, content: '' }, work)

  it('are what the mapper reads, in all columns that were given and no others', async () => {
    const [before] = await reader().findBy(ControlPointEntity, [{ code: 'CP-000002' }])
    await change(async (work) => {
      await work.manager.update(
        ControlPointEntity,
        { code: 'CP-000002' },
        { frequency: { kind: 'perHours', hours: 8 }, isGate: true, validUntil: null },
      )
      work.audit({ action: 'changed', subject: 'control point', subjectId: before?.id ?? '' })
    })
    const [after] = await reader().findBy(ControlPointEntity, [{ code: 'CP-000002' }])
    expect(after).toEqual({ ...before, frequency: { kind: 'perHours', hours: 8 }, isGate: true })
  })

  it('are refused as ever: a key that is taken leaves nothing, with the database’s own code', async () => {
    const [row] = await reader().findBy(ControlPointEntity, [{ code: 'CP-000001' }])
    const twice = change((work) => work.manager.insert(ControlPointEntity, { ...row, code: 'CP-000099' } as never))
    await expect(twice).rejects.toMatchObject({ code: expect.stringMatching(/^SQLITE_CONSTRAINT|^23505/) })
    expect(await reader().existsBy(ControlPointEntity, { code: 'CP-000099' })).toBe(false)
  })
})
