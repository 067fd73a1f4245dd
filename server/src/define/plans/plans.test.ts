import { endpoints, type PlanFile, type PlanLineInput } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { gap, planLine, receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'
import { rowOf, workbookOf } from '../../testing/workbookOf'
import { takeAllEffect } from './planSchedule'

const { define, record, people } = endpoints
let plant: Plant
let goods: Stock
let other: { id: string }
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  other = await goods.make(define.parts, {
    code: 'P-2',
    name: 'Longer variant',
    revision: 'A',
    unit: 'piece',
    tracking: 'lot',
    familyId: goods.family.id,
    putAwayPlaceId: goods.places.store.id,
    operationIds: [goods.receiving.id],
  })
})
afterAll(() => plant.stop())

const two: PlanLineInput['sampling'] = { kind: 'fixedNumber', sampleSize: 2, accept: 0 }
const line = (change: Partial<PlanLineInput> = {}) => planLine(goods.measured.id, { sampling: two, ...change })
const create = (code: string, lines: PlanLineInput[]) => goods.engineer.call(define.createPlan, { body: { code, name: `Plan ${code}`, lines } })
const load = (id: string) => goods.engineer.call(define.getPlan, { params: { id } })
const release = (id: string, version: number, effectiveFrom: string | null = null) =>
  goods.engineer.call(define.releasePlan, { params: { id }, body: { version, effectiveFrom } })
const revise = async (id: string, sampleSize: number) => {
  const drafted = await goods.engineer.call(define.revisePlan, { params: { id }, body: { version: (await load(id)).version } })
  const lines = [line({ sampling: { kind: 'fixedNumber', sampleSize, accept: 0 } })]
  return goods.engineer.call(define.updatePlan, { params: { id }, body: { version: drafted.version, name: 'Revised', lines } })
}
async function sampleOfArrival(part: { id: string }): Promise<{ sampleSize: number; lower: string | null; upper: string | null } | undefined> {
  const delivery = await receive(plant, { ...goods, part: { ...goods.part, ...part } })
  const inspector = await plant.as('inspector')
  return (await inspector.call(record.getInspection, { params: { id: delivery.lots[0]?.inspections[0]?.id ?? '' } })).lines[0]
}

describe('a plan for many parts', () => {
  it('gives a part its own target and limits, and the others those of the line', async () => {
    const target = { partId: other.id, nominal: '0.6', lower: '0.5', upper: '0.7' }
    const plan = await create('FAMILY', [line({ targets: [target] })])
    expect(plan.revisions[0]?.lines[0]?.targets).toEqual([{ ...target, partCode: 'P-2' }])
    await release(plan.id, plan.version)
    const hung = await goods.point(plan.id, { partId: null, familyId: goods.family.id })
    expect(await sampleOfArrival(other)).toMatchObject({ lower: '0.5', upper: '0.7' })
    expect(await sampleOfArrival(goods.part)).toMatchObject({ lower: '0.25', upper: '0.35' })
    await goods.engineer.call(endpoints.attach.retireControlPoint, { params: { id: hung.id }, body: { version: hung.version } })
  })

  it.each([
    [{ lower: '0.8' }, 'limits_reversed', /P-2/],
    [{ lower: 'wide' }, 'not_a_number', /P-2/],
  ])('refuses a target with %j and names the part', async (change, code, message) => {
    const target = { partId: other.id, nominal: null, upper: '0.7', ...change }
    expect(await refusal(create('BAD-TARGET', [line({ targets: [target] })]))).toMatchObject({
      code,
      message: expect.stringMatching(message),
      facts: { line: 0, part: 'P-2' },
    })
  })

  it('refuses two targets for one part, and targets of what is not measured', async () => {
    const target = { partId: other.id, nominal: null, lower: '0.5', upper: '0.7' }
    expect((await refusal(create('TWICE', [line({ targets: [target, target] })])))?.message).toMatch(/P-2 has two targets/)
    expect((await refusal(create('JUDGED', [line({ characteristicId: goods.judged.id, targets: [target] })])))?.message).toMatch(/takes no limits/)
    expect((await refusal(create('NOBODY', [line({ targets: [{ ...target, partId: goods.family.id }] })])))?.code).toBe('reference_unknown')
  })
})

describe('a plan with a day from which it is used', () => {
  it('waits beside the released revision and takes its place when the day has come, before the next delivery is inspected', async () => {
    const plan = await create('DAY', [line()])
    await release(plan.id, plan.version)
    const hung = await goods.point(plan.id)
    const draft = await revise(plan.id, 7)
    const scheduled = await release(plan.id, draft.version, '2026-03-09')
    expect(scheduled.revisions.map(({ state, effectiveFrom }) => [state, effectiveFrom])).toEqual([
      ['scheduled', '2026-03-09'],
      ['released', null],
    ])
    expect(await sampleOfArrival(goods.part)).toMatchObject({ sampleSize: 2 })
    await plant.later('2026-03-09T12:00:00Z')
    expect(await sampleOfArrival(goods.part)).toMatchObject({ sampleSize: 7 })
    expect((await load(plan.id)).revisions.map(({ state }) => state)).toEqual(['released', 'retired'])
    await goods.engineer.call(endpoints.attach.retireControlPoint, { params: { id: hung.id }, body: { version: hung.version } })
  })

  it('that is today is used at once; one that is over is refused', async () => {
    const plan = await create('TODAY', [line()])
    const today = new Date(plant.clock.time).toISOString().slice(0, 10)
    const before = new Date(plant.clock.time - 86_400_000).toISOString().slice(0, 10)
    expect(await refusal(release(plan.id, plan.version, before))).toMatchObject({ code: 'input_invalid' })
    expect((await release(plan.id, plan.version, today)).revisions.map(({ state }) => state)).toEqual(['released'])
  })

  it('is put in place by the server itself too, and the chain says so', async () => {
    const plan = await create('ALONE', [line()])
    await release(plan.id, plan.version, '2026-03-20')
    await takeAllEffect(plant.kernel.work)
    expect((await load(plan.id)).revisions[0]?.state).toBe('scheduled')
    await plant.later('2026-03-20T12:00:00Z')
    await takeAllEffect(plant.kernel.work)
    await takeAllEffect(plant.kernel.work)
    expect((await load(plan.id)).revisions[0]?.state).toBe('released')
    const entries = await plant.administrator.call(people.listAudit, { query: { q: 'took effect' } })
    expect(entries.rows.filter(({ subjectId }) => subjectId === plan.id)).toHaveLength(1)
    expect(await plant.administrator.call(people.verifyAudit, {})).toMatchObject({ isWhole: true })
  })

  it('gives way to a later release, and is refused for a day that is past or no day', async () => {
    const plan = await create('LATER', [line()])
    await release(plan.id, plan.version, '2026-05-01')
    const draft = await revise(plan.id, 3)
    expect((await refusal(release(plan.id, draft.version, '2026-01-01')))?.message).toMatch(/today or later/)
    expect((await refusal(release(plan.id, draft.version, '2026-02-30')))?.code).toBe('input_invalid')
    const released = await release(plan.id, draft.version)
    expect(released.revisions.map(({ state }) => state)).toEqual(['released', 'retired'])
  })
})

describe('plans in a file', () => {
  const send = (content: string | Buffer, isTrial = false, name = 'plans.json') =>
    goods.engineer.call(define.importPlans, { body: { name, content: Buffer.from(content).toString('base64'), isTrial } })
  const download = async (query: string) =>
    Buffer.from(
      await (await fetch(`${plant.base}/api/v1/plan-exchange/export?${query}`, { headers: { cookie: goods.engineer.cookies } })).arrayBuffer(),
    )
  const count = async () => (await goods.engineer.call(define.listPlans, { query: { limit: 1 } })).total

  it('come back unchanged from both formats, for every kind of rule', async () => {
    const rules: PlanLineInput['sampling'][] = [
      { kind: 'attributesScheme', level: 'II', aqlPercent: 1, form: 'double', severity: 'tightened', counting: 'nonconforming' },
      {
        kind: 'stages',
        stages: [
          { sampleSize: 3, accept: null, reject: 2 },
          { sampleSize: 3, accept: 1, reject: 2 },
        ],
      },
      { kind: 'variablesPlan', method: 's', sampleSize: 5, k: 1.5, sigma: null },
    ]
    for (const [i, sampling] of rules.entries()) {
      const made = await goods.engineer.call(define.createCharacteristic, { body: { code: `FILE-${i}`, ...gap } })
      await create(`FILE-${i}`, [
        line({
          characteristicId: made.id,
          sampling,
          stage: 'before "assembly", dry',
          instruction: '=not a formula',
          detached: { nominal: null, lower: '0.2', upper: '0.3', fromRevision: 1 },
          targets: [{ partId: other.id, nominal: null, lower: '0.5', upper: '0.7' }],
        }),
      ])
    }
    await create('FILE-EMPTY', [])
    for (const format of ['json', 'xlsx']) {
      const { plans, problems } = await send(await download(`format=${format}`), true, `plans.${format}`)
      expect(problems, format).toEqual([])
      expect(
        plans.map(({ outcome }) => outcome),
        format,
      ).toEqual(plans.map(() => 'unchanged'))
      expect(plans).toHaveLength(await count())
    }
  })

  const file = (...plans: unknown[]) => JSON.stringify({ format: 'nemawashi-plans', version: 1, plans } as PlanFile)
  const rule = { kind: 'everyPiece', accept: 0 }

  it('are made as drafts, revise what is released, and change a draft in place', async () => {
    const first = file({ code: 'IN-1', name: 'Brought in', lines: [{ characteristic: 'c-gap', sampling: rule }] })
    expect(await send(first, true)).toMatchObject({ plans: [{ outcome: 'created', lines: 1 }], problems: [] })
    const before = await count()
    await send(first)
    expect(await count()).toBe(before + 1)
    const [made] = (await goods.engineer.call(define.listPlans, { query: { q: 'IN-1' } })).rows
    const id = made?.id ?? ''
    const lines = [{ characteristic: 'C-GAP', sampling: rule, isDecisive: true }]
    await send(file({ code: 'IN-1', name: 'Brought in', lines }))
    expect((await load(id)).revisions).toMatchObject([{ revision: 1, state: 'draft', lines: [{ isDecisive: true }] }])
    await release(id, (await load(id)).version)
    const [{ outcome } = { outcome: '' }] = (await send(file({ code: 'in-1', name: 'Brought in', lines: [] }))).plans
    expect(outcome).toBe('revised')
    expect((await load(id)).revisions.map(({ revision, state, lines: ownLines }) => [revision, state, ownLines.length])).toEqual([
      [2, 'draft', 0],
      [1, 'released', 1],
    ])
  })

  it('are taken back as a whole, and stay when one of them was changed or came into use', async () => {
    const state = async () => (await download('format=json')).toString()
    const rows = async (q: string) => (await goods.engineer.call(define.listPlans, { query: { q } })).rows
    const undo = (id: string | null) => goods.engineer.call(define.undoPlanImport, { params: { id: id ?? '' } })
    const one = (code: string, name: string) => ({ code, name, lines: [{ characteristic: 'C-GAP', sampling: rule }] })
    await send(file(one('BACK-1', 'draft before'), one('BACK-2', 'released before')))
    const [released] = await rows('BACK-2')
    await release(released?.id ?? '', 1)
    const before = await state()
    const { importId } = await send(
      file({ ...one('BACK-1', 'changed'), lines: [] }, { ...one('BACK-2', 'revised'), lines: [] }, one('BACK-3', 'new')),
    )
    expect(await state()).not.toBe(before)
    expect(await undo(importId)).toEqual({ removed: 3 })
    expect(await state()).toBe(before)
    expect((await refusal(undo(importId)))?.code).toBe('import_moved_on')
    const again = await send(file(one('BACK-4', 'new'), one('BACK-5', 'new')))
    const [used] = await rows('BACK-4')
    await release(used?.id ?? '', 1)
    expect(await refusal(undo(again.importId))).toMatchObject({ code: 'import_moved_on', facts: { moved: ['BACK-4'] } })
    expect(await rows('BACK-5')).toHaveLength(1)
    expect((await send(file(one('BACK-5', 'new')))).importId).toBeNull()
    expect((await refusal(undo('00000000-0000-7000-8000-000000000000')))?.code).toBe('not_found')
  })

  it.each([
    [{ code: 'X', name: 'x', lines: [{ characteristic: 'NOWHERE', sampling: rule }] }, 'plan X, line 1', /no characteristic NOWHERE/],
    [
      {
        code: 'X',
        name: 'x',
        lines: [{ characteristic: 'C-GAP', sampling: rule, targets: [{ part: 'P-9', nominal: null, lower: '1', upper: '2' }] }],
      },
      'plan X, line 1',
      /no part P-9/,
    ],
    [{ code: 'X', name: 'x', lines: [{ characteristic: 'C-GAP', sampling: { kind: 'everyThird' } }] }, 'plan X, line 1, sampling.kind', /./],
    [{ code: 'X', name: '', lines: [] }, 'plan X, name', /./],
    [{ code: 'X!', name: 'x', lines: [] }, 'plan X!', /letters, digits/],
    [
      { code: 'X', name: 'x', lines: [{ characteristic: 'C-GAP', sampling: { kind: 'attributesScheme', level: 'II', aqlPercent: 0.7 } }] },
      'plan X',
      /0\.65 % or 1 %/,
    ],
  ])('with %j are refused, and it is said where', async (plan, where, message) => {
    const before = await count()
    const { problems } = await send(file(plan), true)
    expect(problems[0]).toMatchObject({ where, message: expect.stringMatching(message) })
    const fine = { code: 'FINE', name: 'fine', lines: [] }
    expect(await refusal(send(file(fine, plan)))).toMatchObject({ code: 'import_has_errors' })
    expect(await count()).toBe(before)
  })

  it('of a workbook name the row and the column of what is wrong', async () => {
    const rows = rowOf(1, ['plan', 'characteristic', 'sampling', 'required']) + rowOf(2, ['W-1', 'C-GAP', '{"kind":', 'perhaps'])
    const wrong = await send(workbookOf(rows), true, 'w.xlsx')
    expect(wrong.problems.map(({ where }) => where)).toEqual(['row 1, sampling', 'row 1, required'])
    expect((await send('plan,name\nW-1,w\n', true, 'w.csv')).problems[0]?.message).toMatch(/missing: characteristic, sampling/)
    expect((await refusal(send('{ not json', true)))?.code).toBe('table_unreadable')
    expect((await refusal(send('', true)))?.code).toBe('table_unreadable')
  })

  it('publish the schema of their JSON', async () => {
    const schema = (await (await fetch(`${plant.base}/api/v1/plan-exchange/schema`)).json()) as { properties: Record<string, unknown> }
    expect(Object.keys(schema.properties)).toEqual(['format', 'version', 'plans'])
  })
})
