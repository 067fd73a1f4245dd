import { endpoints } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { inspect, receive, startPlant, stock, type Plant, type Stock } from '../../testing/plant'

const { record, trace } = endpoints
let plant: Plant
let goods: Stock
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  await goods.point((await goods.plan('PL-L', [{ characteristicId: goods.judged.id }])).id, { dueHours: 1 })
})
afterAll(() => plant.stop())

it('what was made up late says so for ever: in the list, in the passport, in the report; what was made in time does not', async () => {
  plant.clock.time = Date.parse('2026-03-02T08:00:00Z')
  const [late, inTime] = [(await receive(plant, goods)).lots[0], (await receive(plant, goods)).lots[0]]
  await inspect(plant, inTime?.inspections[0]?.id ?? '')
  await plant.later('2026-03-02T11:10:30Z')
  await inspect(plant, late?.inspections[0]?.id ?? '')
  const auditor = await plant.as('auditor')
  const code = late?.inspections[0]?.code
  const { rows } = await auditor.call(record.listInspections, { query: { recorded: 'late' } })
  expect(rows.map((row) => row.code)).toEqual([code])
  const finished = async (id: string) => {
    const { events } = await auditor.call(trace.getPassport, { params: { id } })
    return events.find(({ kind }) => kind === 'inspectionFinished')?.detail
  }
  expect(await finished(late?.id ?? '')).toMatch(/· 2 h 10 min late$/)
  expect(await finished(inTime?.id ?? '')).not.toContain('late')
  const { dueAt, finishedAt } = await auditor.call(record.getInspection, { params: { id: late?.inspections[0]?.id ?? '' } })
  expect([dueAt?.slice(0, 16), finishedAt?.slice(0, 16)]).toEqual(['2026-03-02T09:00', '2026-03-02T11:10'])
})
