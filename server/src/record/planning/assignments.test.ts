import { endpoints, type Facet, type QueueFacets } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { reading, receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'

const { people, record } = endpoints
let plant: Plant
let goods: Stock

beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  await goods.point((await goods.plan('PL-1', [{ characteristicId: goods.measured.id }])).id, { responsible: 'Lab', dueHours: 2 })
})
afterAll(() => plant.stop())

const arrive = async () => (await receive(plant, goods)).lots[0]?.inspections[0]?.id ?? ''
const inspector = () => plant.as('inspector')
const meOf = async (role: 'inspector' | 'qualityEngineer') => (await (await plant.as(role)).call(people.getSession, {})).person?.id ?? ''
const take = async (role: 'inspector' | 'qualityEngineer', id: string, isTakingOver = false) =>
  (await plant.as(role)).call(record.takeInspection, { params: { id }, body: { isTakingOver } })
const queue = async (query: object) => (await (await inspector()).call(record.listInspections, { query: { state: 'open', ...query } })).rows
const ids = async (query: object) => (await queue(query)).map(({ id }) => id)

describe('an inspection that somebody takes', () => {
  it('is nobody else’s until it is put back, and is taken over only when that is said', async () => {
    const id = await arrive()
    expect(await take('inspector', id)).toMatchObject({ holderId: await meOf('inspector') })
    expect(await refusal(take('qualityEngineer', id))).toMatchObject({ status: 409, code: 'inspection_taken' })
    // A second time by the same person changes nothing.
    expect((await take('inspector', id)).version).toBe(1)
    const { holderId, heldSince } = await take('qualityEngineer', id, true)
    expect([holderId, heldSince !== null]).toEqual([await meOf('qualityEngineer'), true])
    const unassign = async (role: 'inspector' | 'qualityEngineer') => (await plant.as(role)).call(record.unassignInspection, { params: { id } })
    expect((await refusal(unassign('inspector')))?.code).toBe('inspection_taken')
    expect(await unassign('qualityEngineer')).toMatchObject({ holderId: null, heldSince: null })
    const { rows } = await (await plant.as('auditor')).call(people.listAudit, { query: { subject: 'inspection', subjectId: id } })
    expect(rows.map(({ action }) => action)).toEqual(expect.arrayContaining(['taken', 'taken over', 'put back']))
  })

  it('belongs to whoever began it, without a word; a closed one is nobody’s to take', async () => {
    const id = await arrive()
    const me = await inspector()
    const { lines } = await me.call(record.getInspection, { params: { id } })
    await me.call(record.recordReadings, { params: { id }, body: { readings: [reading(lines[0]?.id ?? '', 1, '0.30')] } })
    expect((await refusal(take('qualityEngineer', id)))?.facts).toMatchObject({ holder: 'inspector' })
    expect(await ids({ own: 'begun' })).toContain(id)
    await me.call(record.unassignInspection, { params: { id } })
    expect(await ids({ own: 'begun' })).not.toContain(id)
    expect(await ids({ own: 'free' })).toContain(id)
    const { version } = await me.call(record.getInspection, { params: { id } })
    const manager = await plant.as('qualityManager')
    await manager.call(record.cancelInspection, { params: { id }, body: { version, reason: 'opened twice' } })
    expect((await refusal(take('inspector', id)))?.code).toBe('inspection_closed')
  })

  it('goes to one of two who take it at the same moment', async () => {
    const id = await arrive()
    const both = await Promise.all([refusal(take('inspector', id)), refusal(take('qualityEngineer', id))])
    expect(both.map((answer) => answer?.code ?? 'theirs').sort()).toEqual(['inspection_taken', 'theirs'])
  })
})

describe('the own day', () => {
  it('has what one is at, what is planned for one up to today, and what nobody has: each in one group', async () => {
    const [begun, planned, later, free] = [await arrive(), await arrive(), await arrive(), await arrive()]
    await take('inspector', begun)
    const me = await meOf('inspector')
    const engineer = await plant.as('qualityEngineer')
    const assign = (id: string, day: string | null) =>
      engineer.call(record.assignInspection, { params: { id }, body: { personId: me, day, version: 0 } })
    expect(await assign(planned, '2026-03-01')).toMatchObject({ personId: me, day: '2026-03-01', holderId: null })
    await assign(later, '2026-03-09')
    const groups = { begun: await ids({ own: 'begun' }), planned: await ids({ own: 'planned' }), free: await ids({ own: 'free' }) }
    for (const [id, group] of [
      [begun, 'begun'],
      [planned, 'planned'],
      [free, 'free'],
      [later, ''],
    ] as const)
      expect(Object.entries(groups).flatMap(([name, found]) => (found.includes(id) ? [name] : []))).toEqual(group === '' ? [] : [group])
    expect(await ids({ assignedTo: me, day: '2026-03-09' })).toEqual([later])
    expect(await ids({ assignedTo: me, day: 'before' })).toEqual([planned])
  })

  it('is planned by an inspector for themself, and for others by an engineer; a second plan on old knowledge is refused', async () => {
    const id = await arrive()
    const other = await meOf('qualityEngineer')
    const plan = async (role: 'inspector' | 'qualityEngineer', personId: string | null, version: number) =>
      (await plant.as(role)).call(record.assignInspection, { params: { id }, body: { personId, day: '2026-03-03', version } })
    expect((await refusal(plan('inspector', other, 0)))?.code).toBe('role_missing')
    await plan('inspector', await meOf('inspector'), 0)
    expect((await refusal(plan('qualityEngineer', other, 0)))?.code).toBe('stale_version')
    await plan('qualityEngineer', other, 1)
    expect((await refusal(plan('inspector', await meOf('inspector'), 2)))?.code).toBe('role_missing')
    // Nobody's work has no day.
    expect(await plan('qualityEngineer', null, 2)).toMatchObject({ personId: null, day: null })
  })

  it('has a board: days without the weekend, people of the bench with their minutes, and what nobody has', async () => {
    const engineer = await plant.as('qualityEngineer')
    const board = await engineer.call(record.getPlanning, { query: { from: '2026-03-05' } })
    expect(board.days).toEqual(['2026-03-05', '2026-03-06', '2026-03-09', '2026-03-10', '2026-03-11'])
    expect(board.people).toMatchObject([{ dayMinutes: 420 }, { dayMinutes: 420 }])
    expect(board.unplannedTotal).toBe((await ids({ assignedTo: '-' })).length)
    expect(board.planned.map(({ id }) => id)).toEqual(expect.arrayContaining(await ids({ assignedTo: await meOf('inspector') })))
  })
})

describe('somebody who comes no more', () => {
  it('is planned for nothing, and what was planned for them is planned for nobody', async () => {
    const id = await arrive()
    const engineer = await plant.as('qualityEngineer')
    const assign = (personId: string, version: number) =>
      engineer.call(record.assignInspection, { params: { id }, body: { personId, day: '2026-03-04', version } })
    const input = { name: 'Ada', initials: 'AD', signInName: 'ada', roles: ['inspector' as const] }
    const ada = await plant.administrator.call(people.createPerson, { body: { ...input, password: 'long enough it is' } })
    await assign(ada.id, 0)
    expect(await ids({ assignedTo: '-' })).not.toContain(id)
    await plant.administrator.call(people.updatePerson, {
      params: { id: ada.id },
      body: { ...input, isActive: false, password: null, version: ada.version },
    })
    expect(await ids({ assignedTo: '-' })).toContain(id)
    expect((await engineer.call(record.getPlanning, { query: {} })).unplanned.map((card) => card.id)).toContain(id)
    const facets = await engineer.call(record.getFacets, { query: { state: 'open' } })
    expect(facets.assignedTo.map(({ value }) => value)).not.toContain(ada.id)
    expect((await refusal(assign(ada.id, 1)))?.code).toBe('reference_unknown')
  })
})

describe('the queue', () => {
  it('says how many are left of it by each way to narrow it down: exactly as many as the list has then', async () => {
    plant.clock.time += 3 * 3_600_000
    await arrive()
    const me = await inspector()
    const facets = await me.call(record.getFacets, { query: { state: 'open' } })
    expect(facets.due.map(({ value }) => value)).toEqual(['late', 'today'])
    for (const [name, options] of Object.entries(facets) as [keyof QueueFacets, Facet[]][]) {
      expect(options.length).toBeGreaterThan(0)
      for (const { value, count } of options) {
        const { total } = await me.call(record.listInspections, { query: { state: 'open', [name]: value, limit: 1 } })
        expect([name, value, total]).toEqual([name, value, count])
      }
    }
    const late = await me.call(record.getFacets, { query: { state: 'open', due: 'late' } })
    expect(late.gate).toMatchObject([{ value: 'yes', count: facets.due[0]?.count }])
  })

  it('numbers the inspections of a lot', async () => {
    const second = await goods.point((await goods.plan('PL-2', [{ characteristicId: goods.judged.id }])).id)
    const lotId = (await receive(plant, goods)).lots[0]?.id ?? ''
    expect((await queue({ lotId, sort: 'code', dir: 'asc' })).map(({ number, ofLot }) => `${number}/${ofLot}`)).toEqual(['1/2', '2/2'])
    await goods.engineer.call(endpoints.attach.retireControlPoint, { params: { id: second.id }, body: { version: second.version } })
  })
})

describe('an inspection that somebody has taken', () => {
  it('is recorded, judged and cancelled by them alone, until another takes it over or leads the work', async () => {
    const [mine, theirs] = [await plant.as('inspector', 'who-has-it'), await plant.as('inspector', 'who-wants-it')]
    const delivery = await receive(plant, goods, { quantity: 30 })
    const id = delivery.lots[0]?.inspections[0]?.id ?? ''
    await mine.call(record.takeInspection, { params: { id }, body: {} })
    const { lines, version } = await mine.call(record.getInspection, { params: { id } })
    const readings = [reading(lines[0]?.id ?? '', 1, lines[0]?.kind === 'judged' ? 'O' : '0.30')]
    const byThem = theirs.call(record.recordReadings, { params: { id }, body: { readings } })
    expect(await refusal(byThem)).toMatchObject({ code: 'inspection_taken', facts: { holder: 'who-has-it' } })
    expect((await refusal(theirs.call(record.finishInspection, { params: { id }, body: { version } })))?.code).toBe('inspection_taken')
    await mine.call(record.recordReadings, { params: { id }, body: { readings } })
    const { assignment } = await theirs.call(record.getInspection, { params: { id } })
    expect(assignment).toMatchObject({ holderName: 'who-has-it', claimedBy: assignment.holderId })
    await theirs.call(record.takeInspection, { params: { id }, body: { isTakingOver: true } })
    expect(
      (await refusal(mine.call(record.recordReadings, { params: { id }, body: { readings: [reading(lines[0]?.id ?? '', 2, 'O')] } })))?.code,
    ).toBe('inspection_taken')
    // Whoever leads the work may call it off all the same.
    const now = await theirs.call(record.getInspection, { params: { id } })
    const off = (await plant.as('qualityManager')).call(record.cancelInspection, {
      params: { id },
      body: { version: now.version, reason: 'not needed' },
    })
    expect((await off).state).toBe('cancelled')
  })
})
