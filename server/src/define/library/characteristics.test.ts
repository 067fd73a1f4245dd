import { endpoints, type PlanLineInput } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { burr, gap, planLine, receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'

const { define, attach } = endpoints
let plant: Plant
let goods: Stock
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
})
afterAll(() => plant.stop())

describe('a characteristic', () => {
  const create = (change: object) =>
    refusal(goods.engineer.call(define.createCharacteristic, { body: { code: `C-${Math.floor(performance.now() * 1e6)}`, ...gap, ...change } }))

  it.each([
    [{ lower: '0.4' }, 'limits_reversed'],
    [{ nominal: '0.5' }, 'nominal_outside_limits'],
    [{ unit: 'furlong' }, 'unit_unknown'],
    [{ lower: null, upper: null }, 'limits_missing'],
    [{ lower: '1e400' }, 'not_a_number'],
    [{ upper: 'NaN' }, 'not_a_number'],
    [{ lower: '0.255' }, 'too_many_decimals'],
    [{ resolution: '0' }, 'resolution_not_positive'],
    [{ ...burr, acceptableState: '' }, 'input_invalid'],
    [{ code: 'C-GAP' }, 'already_exists'],
  ])('with %j is refused as %s', async (change, code) => {
    expect(await create(change)).toMatchObject({ code })
  })

  it('takes a decimal comma and keeps a decimal point', async () => {
    const made = await goods.engineer.call(define.createCharacteristic, { body: { code: 'C-COMMA', ...gap, lower: '0,25', upper: '0,35' } })
    expect(made.revisions[0]).toMatchObject({ lower: '0.25', upper: '0.35', state: 'draft', revision: 1 })
  })

  it('is not edited once released but revised; the released revision stays until the draft is released', async () => {
    const body = { ...gap, upper: '0.38', version: goods.measured.version }
    expect((await refusal(goods.engineer.call(define.updateCharacteristic, { params: { id: goods.measured.id }, body })))?.code).toBe('not_a_draft')
    const drafted = await goods.engineer.call(define.reviseCharacteristic, {
      params: { id: goods.measured.id },
      body: { version: goods.measured.version },
    })
    expect(drafted.revisions.map((revision) => revision.state)).toEqual(['draft', 'released'])
    const changed = await goods.engineer.call(define.updateCharacteristic, {
      params: { id: drafted.id },
      body: { ...body, version: drafted.version },
    })
    const released = await goods.engineer.call(define.releaseCharacteristic, { params: { id: drafted.id }, body: { version: changed.version } })
    expect(released.revisions.map(({ state, upper }) => [state, upper])).toEqual([
      ['released', '0.38'],
      ['retired', '0.35'],
    ])
  })

  it('changed by somebody else meanwhile is refused with who did it and when', async () => {
    const made = await goods.engineer.call(define.createCharacteristic, { body: { code: 'C-STALE', ...gap } })
    const colleague = await plant.as('qualityEngineer', 'colleague')
    await colleague.call(define.updateCharacteristic, { params: { id: made.id }, body: { ...gap, name: 'Theirs', version: made.version } })
    const found = await refusal(
      goods.engineer.call(define.updateCharacteristic, { params: { id: made.id }, body: { ...gap, name: 'Mine', version: made.version } }),
    )
    expect(found).toMatchObject({ status: 409, code: 'stale_version', facts: { seenVersion: 1, currentVersion: 2, changedByName: 'colleague' } })
    expect((await goods.engineer.call(define.getCharacteristic, { params: { id: made.id } })).revisions[0]?.name).toBe('Theirs')
  })
})

describe('an inspection plan', () => {
  const line = (change: Partial<PlanLineInput> = {}) => planLine(goods.judged.id, change)
  const create = (lines: PlanLineInput[], code = `P-${Math.floor(performance.now() * 1e6)}`) =>
    goods.engineer.call(define.createPlan, { body: { code, name: 'Plan', lines } })

  it('refuses a sampling rule that cannot be carried out, and says in which line', async () => {
    expect(await refusal(create([line({ sampling: { kind: 'attributesScheme', level: 'II', aqlPercent: 0.7 } })]))).toMatchObject({
      code: 'aql_not_in_series',
      facts: { line: 0, below: 0.65, above: 1 },
    })
    expect(await refusal(create([line({ sampling: { kind: 'fixedNumber', sampleSize: 5, accept: 5 } })]))).toMatchObject({
      code: 'acceptance_number_invalid',
    })
    expect(await refusal(create([line(), line()]))).toMatchObject({ code: 'already_exists', facts: { line: 1 } })
  })

  it('keeps its lines in the order given, and is released only with lines whose characteristics are', async () => {
    const empty = await create([])
    expect((await refusal(goods.engineer.call(define.releasePlan, { params: { id: empty.id }, body: { version: empty.version } })))?.code).toBe(
      'plan_without_lines',
    )
    const draft = await goods.engineer.call(define.createCharacteristic, { body: { code: 'C-DRAFT', ...burr } })
    const waiting = await create([line(), line({ characteristicId: draft.id })])
    expect(waiting.revisions[0]?.lines.map((entry) => entry.code)).toEqual(['C-BURR', 'C-DRAFT'])
    expect(await refusal(goods.engineer.call(define.releasePlan, { params: { id: waiting.id }, body: { version: waiting.version } }))).toMatchObject({
      code: 'nothing_released',
      facts: { characteristics: ['C-DRAFT'] },
    })
    const turned = await goods.engineer.call(define.updatePlan, {
      params: { id: waiting.id },
      body: { name: 'Plan', lines: [line({ characteristicId: draft.id }), line()], version: waiting.version },
    })
    expect(turned.revisions[0]?.lines.map((entry) => entry.code)).toEqual(['C-DRAFT', 'C-BURR'])
  })

  it('that hangs on a control point cannot be retired, nor can a characteristic that a plan asks for', async () => {
    const plan = await goods.plan('P-HELD', [{ characteristicId: goods.judged.id }])
    const point = await goods.point(plan.id)
    expect(await refusal(goods.engineer.call(define.retirePlan, { params: { id: plan.id }, body: { version: plan.version } }))).toMatchObject({
      code: 'still_in_use',
      facts: { points: [point.code] },
    })
    const judged = await goods.engineer.call(define.getCharacteristic, { params: { id: goods.judged.id } })
    expect(
      (await refusal(goods.engineer.call(define.retireCharacteristic, { params: { id: judged.id }, body: { version: judged.version } })))?.code,
    ).toBe('still_in_use')
    await goods.engineer.call(attach.retireControlPoint, { params: { id: point.id }, body: { version: point.version } })
    const retired = await goods.engineer.call(define.retirePlan, { params: { id: plan.id }, body: { version: plan.version } })
    expect(retired.revisions[0]?.state).toBe('retired')
    expect((await refusal(goods.point(plan.id)))?.code).toBe('nothing_released')
  })
})

describe('a draft', () => {
  const discard = (endpoint: typeof define.discardPlan | typeof define.discardCharacteristic, draft: { id: string; version: number }) =>
    goods.engineer.call(endpoint, { params: { id: draft.id }, body: { version: draft.version } })

  it('is discarded: the revision before it stands, and what was never released is gone', async () => {
    const revised = await goods.engineer.call(define.reviseCharacteristic, {
      params: { id: goods.measured.id },
      body: { version: (await goods.engineer.call(define.getCharacteristic, { params: { id: goods.measured.id } })).version },
    })
    const { left } = await discard(define.discardCharacteristic, revised)
    expect(revised.revisions[0]?.state).toBe('draft')
    expect(left?.revisions).toEqual(revised.revisions.slice(1))
    expect((await refusal(discard(define.discardCharacteristic, left ?? revised)))?.code).toBe('not_a_draft')
    const plan = await goods.engineer.call(define.createPlan, { body: { code: 'P-MISTAKE', name: 'Mistake', lines: [planLine(goods.judged.id)] } })
    expect(await discard(define.discardPlan, plan)).toEqual({ left: null })
    expect((await refusal(goods.engineer.call(define.getPlan, { params: { id: plan.id } })))?.code).toBe('not_found')
  })

  it('that a plan asks for already stays', async () => {
    const made = await goods.engineer.call(define.createCharacteristic, { body: { code: 'C-ASKED', ...burr } })
    await goods.engineer.call(define.createPlan, { body: { code: 'P-ASKS', name: 'Asks', lines: [planLine(made.id)] } })
    expect(await refusal(discard(define.discardCharacteristic, made))).toMatchObject({ code: 'still_in_use', facts: { plans: ['P-ASKS'] } })
  })
})

describe('a control point', () => {
  it('asks at a moment that its operation has, for a part or a family but not both, and once', async () => {
    const plan = await goods.plan('P-POINT', [{ characteristicId: goods.judged.id }])
    expect((await refusal(goods.point(plan.id, { operationId: goods.assembly.id })))?.code).toBe('moment_not_there')
    expect((await refusal(goods.point(plan.id, { familyId: goods.family.id })))?.code).toBe('input_invalid')
    const point = await goods.point(plan.id)
    expect((await refusal(goods.point(plan.id)))?.code).toBe('already_exists')
    await goods.engineer.call(attach.retireControlPoint, { params: { id: point.id }, body: { version: point.version } })
  })

  it('for the part goes before one for the family on the same plan, and the flow line says why', async () => {
    const plan = await goods.plan('P-BOTH', [{ characteristicId: goods.judged.id }])
    const wide = await goods.point(plan.id, { partId: null, familyId: goods.family.id })
    const narrow = await goods.point(plan.id, { supplierId: goods.supplier.id })
    const points = async (partnerId: string) =>
      (await goods.engineer.call(attach.getFlow, { params: { id: goods.part.id }, query: { partnerId } })).stops[0]?.points.map((point) => [
        point.code,
        point.opens,
      ])
    expect(await points(goods.supplier.id)).toEqual([
      [wide.code, false],
      [narrow.code, true],
    ])
    expect(await points(goods.other.id)).toEqual([
      [wide.code, true],
      [narrow.code, false],
    ])
    expect((await receive(plant, goods)).lots[0]?.inspections).toHaveLength(1)
    // The list of parts counts what hangs on the way of each: for every part too, where it passes there.
    const every = await goods.point(plan.id, { partId: null, familyId: null })
    const elsewhere = await goods.make(define.parts, { ...apart, code: 'P-APART', operationIds: [goods.assembly.id] })
    const { rows } = await goods.engineer.call(define.parts.list, { query: {} })
    const counted = (id: string) => (rows as { id: string; points: number }[]).find((row) => row.id === id)?.points
    expect([counted(goods.part.id), counted(elsewhere.id)]).toEqual([3, 0])
    for (const point of [wide, narrow, every])
      await goods.engineer.call(attach.retireControlPoint, { params: { id: point.id }, body: { version: point.version } })
  })
})

const apart = { name: 'Part', revision: 'A', unit: 'piece', tracking: 'lot', familyId: null, putAwayPlaceId: null }

describe('a part', () => {
  it('has its routing in order, receiving first, each operation once', async () => {
    const body = { code: 'P-2', name: 'Part', revision: 'A', unit: 'piece', tracking: 'lot', familyId: null, putAwayPlaceId: null }
    const create = (operationIds: string[]) => refusal(goods.make(define.parts, { ...body, operationIds }))
    expect((await create([goods.assembly.id, goods.receiving.id]))?.code).toBe('routing_order')
    expect((await create([goods.receiving.id, goods.receiving.id]))?.code).toBe('routing_order')
    const shipping = await goods.make(define.operations, { code: 'SHP', name: 'Shipping', kind: 'shipping' })
    expect((await create([goods.receiving.id, shipping.id, goods.assembly.id]))?.code).toBe('routing_order')
    expect(await create([goods.receiving.id, goods.assembly.id, shipping.id])).toBeNull()
    expect((await create([]))?.code).toBe('already_exists')
  })
})

describe('words that the plant keeps', () => {
  const rows = async (area: typeof define.classes) =>
    (await goods.engineer.call(area.list, { query: {} })).rows as { id: string; code: string; name: string; uses: number; isActive: boolean }[]
  const edit = (area: typeof define.classes, row: { id: string }, change: object) =>
    refusal(goods.engineer.call(area.update, { params: { id: row.id }, body: { version: 1, ...change } as never }))

  it('are classes of importance too: three to begin with, more as one likes, each with its uses', async () => {
    await goods.make(define.classes, { code: 'safety', name: 'belongs to the safety proof', isActive: true })
    await goods.engineer.call(define.createCharacteristic, { body: { code: 'C-SAFE', ...gap, class: 'safety' } })
    const kept = await rows(define.classes)
    expect(kept.map(({ code }) => code)).toEqual(['critical', 'major', 'minor', 'safety'])
    expect(kept.find(({ code }) => code === 'safety')?.uses).toBe(1)
    expect(await refusal(goods.engineer.call(define.createCharacteristic, { body: { code: 'C-X', ...gap, class: 'grave' } }))).toMatchObject({
      code: 'reference_unknown',
      message: expect.stringContaining('critical, major, minor, safety'),
    })
  })

  it('keep their code while they are in use, and are retired instead of deleted: who has one keeps it', async () => {
    const safety = (await rows(define.classes)).find(({ code }) => code === 'safety')
    if (!safety) throw new Error('the class is missing')
    const { id: _, uses: __, ...fields } = { ...safety, version: undefined }
    expect(await edit(define.classes, safety, { ...fields, version: 1, code: 'secure' })).toMatchObject({ code: 'still_in_use', facts: { uses: 1 } })
    expect(await edit(define.classes, safety, { ...fields, version: 1, name: 'safety proof', isActive: false })).toBeNull()
    const [found] = (await goods.engineer.call(define.listCharacteristics, { query: { q: 'C-SAFE' } })).rows
    const made = await goods.engineer.call(define.getCharacteristic, { params: { id: found?.id ?? '' } })
    const body = { ...gap, class: 'safety', name: 'still safe', version: made.version }
    expect((await goods.engineer.call(define.updateCharacteristic, { params: { id: made.id }, body })).revisions[0]?.class).toBe('safety')
    expect((await refusal(goods.engineer.call(define.createCharacteristic, { body: { code: 'C-Y', ...gap, class: 'safety' } })))?.code).toBe(
      'reference_unknown',
    )
  })

  it('in an import are named where they are not on the list', async () => {
    const seen = await goods.engineer.call(define.checkImport, {
      body: { rows: [{ code: 'C-Z', name: 'z', tolerance: '1 ±0.1', unit: 'mm', resolution: '0.1', class: 'grave' }] },
    })
    expect(seen.problems).toMatchObject([{ row: 1, column: 'class', message: expect.stringContaining('critical, major, minor') }])
  })
})
