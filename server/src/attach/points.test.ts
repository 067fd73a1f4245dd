import { endpoints, type ControlPoint } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { refusal, startPlant, stock, type Plant } from '../testing/plant'

const { attach, run } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let planId = ''
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  planId = (await goods.plan('PL-V', [{ characteristicId: goods.judged.id }])).id
})
afterAll(() => plant.stop())

/** How many inspections a delivery opens today. */
async function opened(orderNumber: string): Promise<number> {
  const lines = [{ partId: goods.part.id, supplierLot: orderNumber, quantity: 20, containers: [] }]
  const delivery = await (await plant.as('receivingClerk')).call(run.receiveDelivery, { body: { supplierId: goods.supplier.id, orderNumber, lines } })
  return delivery.lots[0]?.inspections.length ?? -1
}
const stop = async () => {
  const flow = await goods.engineer.call(attach.getFlow, { params: { id: goods.part.id }, query: {} })
  return flow.stops[0] as (typeof flow.stops)[number]
}
const retire = (point: ControlPoint) => goods.engineer.call(attach.retireControlPoint, { params: { id: point.id }, body: { version: point.version } })
const said = ({ operationId, moment, partId, familyId, supplierId, customerId, isGate, holdPlaceId }: ControlPoint) => {
  return { operationId, moment, planId, partId, familyId, supplierId, customerId, isGate, holdPlaceId }
}

it('a control point opens on the days on which it is in force, and says so where it is not', async () => {
  const point = await goods.point(planId, { validFrom: '2026-03-10', validUntil: '2026-03-12' })
  expect(await opened('1')).toBe(0)
  expect((await stop()).points).toMatchObject([{ isInForce: false, opens: false, why: 'in force from 10 Mar 2026 until 12 Mar 2026' }])
  await plant.later('2026-03-10T10:00:00Z')
  expect(await opened('2')).toBe(1)
  await plant.later('2026-03-12T10:00:00Z')
  expect(await opened('3')).toBe(1)
  await plant.later('2026-03-13T10:00:00Z')
  expect(await opened('4')).toBe(0)
  const rehearsed = async (at: string) => {
    const query = { operationId: goods.receiving.id, partId: goods.part.id, quantity: 20, at }
    return (await goods.engineer.call(attach.rehearse, { query })).lots[0]?.considered.filter(({ opens }) => opens).length
  }
  expect([await rehearsed('2026-03-11T10:00:00Z'), await rehearsed('2026-03-14T10:00:00Z')]).toEqual([1, 0])
  await retire(point)
})

it('two of the same are refused on days that both would ask, with the days; a day that nobody asks between them is shown', async () => {
  const first = await goods.point(planId, { validUntil: '2026-04-10' })
  const refused = await refusal(goods.point(planId, { validFrom: '2026-04-05', validUntil: '2026-05-01' }))
  expect(refused).toMatchObject({ code: 'already_exists', facts: { validFrom: '2026-04-05', validUntil: '2026-04-10' } })
  expect((await refusal(goods.point(planId, { validFrom: '2026-05-02', validUntil: '2026-05-01' })))?.code).toBe('days_reversed')
  const second = await goods.point(planId, { validFrom: '2026-04-15' })
  expect((await stop()).gaps).toEqual([{ planCode: 'PL-V', from: '2026-04-11', until: '2026-04-14' }])
  for (const point of [first, second]) await retire(point)
})

it('is changed from a day on: it ends the day before, and its successor asks from then', async () => {
  const point = await goods.point(planId, { responsible: 'Lab' })
  const replace = (validFrom: string, change: object = {}) =>
    goods.engineer.call(attach.replaceControlPoint, {
      params: { id: point.id },
      body: { ...said(point), version: point.version, validFrom, ...change },
    })
  expect((await refusal(replace('2026-03-13')))?.code).toBe('day_past')
  const next = await replace('2026-03-20', { isGate: false })
  expect(next).toMatchObject({ validFrom: '2026-03-20', validUntil: null, isGate: false })
  const { points, gaps } = await stop()
  expect([points.map(({ code, isInForce, validUntil }) => [code === point.code, isInForce, validUntil]), gaps]).toEqual([
    [
      [true, true, '2026-03-19'],
      [false, false, null],
    ],
    [],
  ])
  const held = await opened('5')
  await plant.later('2026-03-20T08:00:00Z')
  // What has ended hangs there no longer, and stays readable.
  const flow = await goods.engineer.call(attach.getFlow, { params: { id: goods.part.id }, query: {} })
  expect(flow.stops[0]?.points.map(({ code }) => code)).toEqual([next.code])
  expect(flow.before.find(({ code }) => code === point.code)).toMatchObject({ state: 'active', validUntil: '2026-03-19' })
  expect([held, await opened('6')]).toEqual([1, 1])
  await retire(next)
})

it('tells what it has said before: by whom, when, in words, when it is retired too', async () => {
  const point = await goods.point(planId, { responsible: 'Lab', supplierId: goods.supplier.id })
  const body = { ...said(point), responsible: 'Line', supplierId: null, version: point.version, frequency: { kind: 'oneIn', k: 3 } as const }
  const changed = await goods.engineer.call(attach.updateControlPoint, { params: { id: point.id }, body })
  await retire(changed)
  const { changes } = await goods.engineer.call(attach.getControlPointPast, { params: { id: point.id } })
  expect(changes.map(({ action, byName }) => [action, byName])).toEqual([
    ['retired', 'qualityEngineer'],
    ['changed', 'qualityEngineer'],
    ['attached', 'qualityEngineer'],
  ])
  expect(changes[1]?.fields).toEqual([
    { field: 'supplierId', before: 'SUP Supplier', after: '' },
    { field: 'frequency', before: 'every arrival', after: 'one in 3 arrivals' },
    { field: 'responsible', before: 'Lab', after: 'Line' },
  ])
})

it('begins no earlier than today and ends no earlier, but keeps the day on which it began', async () => {
  const today = '2026-03-24'
  await plant.later(`${today}T12:00:00Z`)
  for (const days of [{ validFrom: '2026-03-23' }, { validUntil: '2026-03-23' }, { validFrom: '2026-03-21', validUntil: '2026-03-22' }])
    expect(await refusal(goods.point(planId, days))).toMatchObject({ code: 'day_past', facts: { today } })
  const point = await goods.point(planId, { validFrom: today, validUntil: '2026-03-26' })
  const change = (days: object, version: number) =>
    goods.engineer.call(attach.updateControlPoint, {
      params: { id: point.id },
      body: { ...said(point), validFrom: point.validFrom, validUntil: point.validUntil, ...days, version },
    })
  await plant.later('2026-03-28T08:00:00Z')
  expect((await refusal(change({ responsible: 'Lab' }, point.version)))?.facts).toMatchObject({ field: 'validUntil', received: '2026-03-26' })
  expect((await refusal(change({ validUntil: null, validFrom: '2026-03-25' }, point.version)))?.facts).toMatchObject({ field: 'validFrom' })
  const longer = await change({ validUntil: '2026-03-31' }, point.version)
  expect([longer.validFrom, longer.validUntil]).toEqual([today, '2026-03-31'])
  await retire(longer)
})
