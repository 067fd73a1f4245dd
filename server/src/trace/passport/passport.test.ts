import { standings } from '@nemawashi/core'
import { endpoints } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { decideAll, inspect, reading, receive, startPlant, stock, type Plant, type Stock } from '../../testing/plant'
import { loadInspection } from '../../inspections/inspections'
import { reportCsv } from '../reports/reportCsv'
import { loadToday } from '../today/today'

const { trace, record, run } = endpoints
let plant: Plant
let goods: Stock
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  await goods.point((await goods.plan('PL-1', [{ characteristicId: goods.measured.id }, { characteristicId: goods.judged.id }])).id)
})
afterAll(() => plant.stop())
const auditor = () => plant.as('auditor')

describe('the passport of a lot', () => {
  it('tells its life in order, with who did what and where the pieces stood after each step', async () => {
    const delivery = await receive(plant, goods, {
      quantity: 50,
      containers: [
        { label: 'K-01', quantity: 30 },
        { label: 'K-02', quantity: 20 },
      ],
    })
    const lot = delivery.lots[0]
    plant.clock.time += 3_600_000
    const inspection = await inspect(plant, lot?.inspections[0]?.id ?? '')
    plant.clock.time += 3_600_000
    await decideAll(plant, inspection)
    const clerk = await plant.as('receivingClerk')
    const spot = (await clerk.call(run.getDelivery, { params: { id: delivery.id } })).lots[0]?.balances[0]
    await clerk.call(run.putAway, {
      params: { id: lot?.id ?? '' },
      body: { containerId: spot?.containerId ?? null, fromPlaceId: spot?.placeId ?? '', quantity: 30, toPlaceId: goods.places.store.id },
    })
    const passport = await (await auditor()).call(trace.getPassport, { params: { id: lot?.id ?? '' } })
    expect(passport.events.map((event) => [event.kind, event.byName])).toEqual([
      ['received', 'receivingClerk'],
      ['inspectionOpened', null],
      ['inspectionStarted', 'inspector'],
      ['inspectionFinished', 'inspector'],
      ['decided', 'qualityManager'],
      ['moved', 'receivingClerk'],
    ])
    expect(passport.events.map((event) => event.at)).toEqual([...passport.events.map((event) => event.at)].sort())
    expect(passport.events.map((event) => event.standingsAfter)).toEqual([
      { onHold: 50 },
      { onHold: 50 },
      { onHold: 50 },
      { onHold: 50 },
      { released: 50 },
      { released: 50 },
    ])
    expect(passport.events[0]?.title).toBe('Received, 50 pieces')
    expect(passport.events[4]?.seal).toMatchObject({ initials: 'XX', meaning: 'release' })
    expect(passport.events[5]?.title).toBe('Put away, 30 of K-01')
    expect(passport.movements.map(({ quantity, from, to }) => [quantity, from, to])).toEqual([
      [30, null, 'BAY, on hold'],
      [20, null, 'BAY, on hold'],
      [30, 'BAY, on hold', 'BAY, released'],
      [20, 'BAY, on hold', 'BAY, released'],
      [30, 'BAY, released', 'STORE, released'],
    ])
  })

  it('always adds up, whatever is decided', async () => {
    for (const disposition of ['release', 'quarantine', 'scrap', 'returnToSupplier', 'concession'] as const) {
      const delivery = await receive(plant, goods, { quantity: 37 })
      await decideAll(plant, await inspect(plant, delivery.lots[0]?.inspections[0]?.id ?? '', disposition === 'release' ? 0 : 1), disposition)
      const passport = await (await auditor()).call(trace.getPassport, { params: { id: delivery.lots[0]?.id ?? '' } })
      for (const { standingsAfter } of passport.events) expect(standings.reduce((sum, standing) => sum + (standingsAfter[standing] ?? 0), 0)).toBe(37)
      expect(passport.balances.reduce((sum, balance) => sum + balance.quantity, 0)).toBe(37)
    }
  })
})

describe('the day at a glance', () => {
  it('counts what is to do, started, finished, waiting and held, by how long', async () => {
    const before = await (await auditor()).call(trace.getToday, {})
    const delivery = await receive(plant, goods)
    const id = delivery.lots[0]?.inspections[0]?.id ?? ''
    const inspector = await plant.as('inspector')
    const lineId = (await inspector.call(record.getInspection, { params: { id } })).lines[0]?.id ?? ''
    const today = async () => (await auditor()).call(trace.getToday, {})
    expect((await today()).toDo).toBe(before.toDo + 1)
    await inspector.call(record.recordReadings, { params: { id }, body: { readings: [reading(lineId, 1, '0.30')] } })
    expect(await today()).toMatchObject({ toDo: before.toDo, started: before.started + 1 })
    const later = await loadToday(plant.kernel.database.reader, 'Europe/Vienna', new Date(plant.clock.time + 4 * 86_400_000))
    expect(later.heldByAge.find((age) => age.fromDays === 3)?.lots).toBeGreaterThan(0)
    expect(later.heldByAge.reduce((sum, age) => sum + age.lots, 0)).toBe(before.heldByAge.reduce((sum, age) => sum + age.lots, 0) + 1)
    expect(later.notAcceptedByMonth).toMatchObject([{ month: '2026-03', notAcceptable: 4 }])
  })
})

describe('the readings as CSV', () => {
  it('have a row for every piece that was asked for, blanks too, with the limits that they were judged by', async () => {
    const delivery = await receive(plant, goods)
    const id = delivery.lots[0]?.inspections[0]?.id ?? ''
    const inspector = await plant.as('inspector')
    const lineId = (await inspector.call(record.getInspection, { params: { id } })).lines[0]?.id ?? ''
    const first = reading(lineId, 2, '0.31')
    await inspector.call(record.recordReadings, { params: { id }, body: { readings: [first] } })
    await inspector.call(record.recordReadings, {
      params: { id },
      body: { readings: [reading(lineId, 2, '0.40', { isConfirmedOutside: true, corrects: first.id })] },
    })
    const csv = [...reportCsv(await loadInspection(plant.kernel.database.reader, id))].join('')
    expect(csv.startsWith('\uFEFF')).toBe(true)
    const lines = csv.trim().split('\r\n')
    expect(lines[0]).toBe(
      'inspection,lot,part,characteristic,revision,name,piece,value,unit,lower,upper,mark,corrections,recordedBy,typedAt,entered,skipped',
    )
    expect(lines).toHaveLength(7)
    expect(lines[1]).toMatch(/,C-GAP,1,Gate gap,1,,mm,0\.25,0\.35,notJudged,0,,,,$/)
    expect(lines[2]).toMatch(/,C-GAP,1,Gate gap,2,0\.40,mm,0\.25,0\.35,nonconforming,1,inspector,/)
    expect(lines[4]).toMatch(/,C-BURR,1,Burrs,1,,,,,notJudged,/)
  })
})

describe('the lots that are held', () => {
  it('are grouped by how long they have been here, each in one group, from its first moment on', async () => {
    const small = await startPlant()
    const its = await stock(small)
    await its.point((await its.plan('PL-1', [{ characteristicId: its.measured.id }])).id)
    const { receivedAt } = await receive(small, its)
    const groupAt = async (days: number) => {
      const now = new Date(Date.parse(receivedAt) + days * 86_400_000)
      const { heldByAge } = await loadToday(small.kernel.database.reader, 'Europe/Vienna', now)
      return heldByAge.filter(({ lots }) => lots > 0).map(({ fromDays }) => fromDays)
    }
    const groups = []
    for (const days of [0, 0.99, 1, 2.99, 3, 6.99, 7, 100]) groups.push(await groupAt(days))
    expect(groups).toEqual([[0], [0], [1], [1], [3], [3], [7], [7]])
    await small.stop()
  })

  it('wait since they were held, and not since their lot came', async () => {
    const small = await startPlant()
    const its = await stock(small)
    const plan = await its.plan('PL-1', [{ characteristicId: its.measured.id }])
    const { lots } = await receive(small, its)
    await small.later('2026-03-12T06:00:00Z')
    const inspector = await small.as('inspector')
    const body = { planId: plan.id, operationId: its.receiving.id, containerId: null, isHolding: true, reason: 'looked odd' }
    await inspector.call(endpoints.record.openByHand, { params: { id: lots[0]?.id ?? '' }, body })
    const { rows } = await inspector.call(endpoints.contain.listHeld, { query: {} })
    expect(rows[0]?.heldSince.slice(0, 10)).toBe('2026-03-12')
    expect((await inspector.call(endpoints.contain.listHeld, { query: { fromDays: 3 } })).rows).toEqual([])
    await small.stop()
  })
})
