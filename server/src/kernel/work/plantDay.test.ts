import { endpoints, type Delivery } from '@nemawashi/contract'
import { afterEach, describe, expect, it } from 'vitest'
import { receive, startPlant, stock, type Plant } from '../../testing/plant'
import { dayIn, startOfDay } from '../database/plantTime'

const { run, define } = endpoints
let plant: Plant
afterEach(() => plant.stop())

/** A gate that is in force from the plant's today on, asked of a delivery at an instant. */
async function opensAt(
  timeZone: string,
  instant: string,
  validFrom: string,
  validUntil: string | null = null,
): Promise<Delivery['lots'][number]['inspections']> {
  plant = await startPlant({ NEMAWASHI_TIME_ZONE: timeZone })
  await plant.later(new Date(Date.parse(instant) - 3_600_000).toISOString())
  const goods = await stock(plant)
  const { id } = await goods.plan('PL-DAY', [{ characteristicId: goods.judged.id }])
  await goods.point(id, { validFrom, validUntil })
  plant.clock.time = Date.parse(instant)
  const delivery = await receive(plant, goods, { quantity: 100 })
  expect(delivery.lots[0]?.balances[0]?.standing).toBe(delivery.lots[0]?.inspections.length === 0 ? 'released' : 'onHold')
  return delivery.lots[0]?.inspections ?? []
}

describe("a control point in force from today on: today is the plant's, wherever the server stands", () => {
  it.each([
    // It is the 3rd there while UTC has the 2nd, and the other way round.
    ['Pacific/Kiritimati', '2026-03-02T11:00:00Z', '2026-03-03'],
    ['Pacific/Pago_Pago', '2026-03-03T09:00:00Z', '2026-03-02'],
    ['Asia/Kathmandu', '2026-03-02T18:20:00Z', '2026-03-03'],
    // The clocks go forward in Vienna in the night to the 29th.
    ['Europe/Vienna', '2026-03-28T23:30:00Z', '2026-03-29'],
    ['Europe/Vienna', '2026-03-29T22:30:00Z', '2026-03-30'],
  ])('%s at %s: %s', async (timeZone, instant, day) => {
    expect(dayIn(timeZone, instant)).toBe(day)
    expect(await opensAt(timeZone, instant, day)).toHaveLength(1)
  })

  it('is not asked any more on the day after its last, as the plant has it', async () => {
    expect(await opensAt('Pacific/Kiritimati', '2026-03-03T09:30:00Z', '2026-03-03', '2026-03-03')).toHaveLength(1)
    await plant.stop()
    expect(await opensAt('Pacific/Kiritimati', '2026-03-03T10:30:00Z', '2026-03-03', '2026-03-03')).toHaveLength(0)
  })
})

it("once a day, and a plan that takes effect on a day, go by the plant's days", async () => {
  plant = await startPlant({ NEMAWASHI_TIME_ZONE: 'Pacific/Kiritimati' })
  plant.clock.time = Date.parse('2026-03-02T09:00:00Z')
  const goods = await stock(plant)
  const { id, version } = await goods.plan('PL-DAILY', [{ characteristicId: goods.judged.id }])
  await goods.point(id, { frequency: { kind: 'oncePer', period: 'day' } })
  const opened = async () => (await receive(plant, goods)).lots[0]?.inspections.length
  // 23:00 there, then 00:30 of the next day: both are the 2nd in UTC.
  expect([await opened(), await opened()]).toEqual([1, 0])
  plant.clock.time = Date.parse('2026-03-02T10:30:00Z')
  expect([await opened(), await opened()]).toEqual([1, 0])
  await goods.engineer.call(define.revisePlan, { params: { id }, body: { version } })
  const revised = await goods.engineer.call(define.getPlan, { params: { id } })
  const tomorrow = await goods.engineer.call(define.releasePlan, { params: { id }, body: { version: revised.version, effectiveFrom: '2026-03-03' } })
  // It is the 3rd there already: released at once.
  expect(tomorrow.revisions[0]?.state).toBe('released')
  const { rows } = await (await plant.as('receivingClerk')).call(run.listDeliveries, {})
  expect(rows).toHaveLength(4)
})

it('a day begins when it begins there, over a change of the clocks, too', async () => {
  plant = await startPlant()
  for (const [timeZone, day, start] of [
    ['Pacific/Kiritimati', '2026-03-03', '2026-03-02T10:00:00.000Z'],
    ['Pacific/Pago_Pago', '2026-03-03', '2026-03-03T11:00:00.000Z'],
    ['Asia/Kathmandu', '2026-03-03', '2026-03-02T18:15:00.000Z'],
    ['Europe/Vienna', '2026-03-29', '2026-03-28T23:00:00.000Z'],
    ['Europe/Vienna', '2026-03-30', '2026-03-29T22:00:00.000Z'],
    ['America/Santiago', '2026-09-06', '2026-09-06T04:00:00.000Z'],
  ] as const)
    expect([timeZone, startOfDay(timeZone, day).toISOString()]).toEqual([timeZone, start])
})
