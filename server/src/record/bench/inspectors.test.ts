import { endpoints } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { loadInspection } from '../../inspections/inspections'
import { reading, receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'
import { reportCsv } from '../../trace/reports/reportCsv'

const { people, record } = endpoints
let plant: Plant
let goods: Stock
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  await goods.point((await goods.plan('PL', [{ characteristicId: goods.measured.id }])).id)
})
afterAll(() => plant.stop())

it('a value keeps who inspected beside who typed it; for oneself nothing is added, and nobody is typed for who does not inspect', async () => {
  const inspector = await plant.as('inspector')
  await plant.as('receivingClerk')
  const { rows } = await inspector.call(people.listPeople, { query: { limit: 200 } })
  const idOf = (role: string) => rows.find(({ roles }) => roles.join() === role)?.id ?? ''
  const id = (await receive(plant, goods)).lots[0]?.inspections[0]?.id ?? ''
  const lineId = (await inspector.call(record.getInspection, { params: { id } })).lines[0]?.id ?? ''
  const type = (piece: number, inspectedById: string | null) =>
    inspector.call(record.recordReadings, {
      params: { id },
      body: { readings: [reading(lineId, piece, '0.30', { inspectedById })] },
    })
  await type(1, null)
  await type(2, idOf('inspector'))
  await type(3, idOf('qualityEngineer'))
  for (const nobody of [idOf('receivingClerk'), '00000000-0000-7000-8000-000000000000'])
    expect(await refusal(type(3, nobody))).toMatchObject({ code: 'reference_unknown', facts: { field: 'inspectedById', received: nobody } })
  const engineer = rows.find(({ roles }) => roles.join() === 'qualityEngineer')?.name
  const { readings } = await inspector.call(record.getInspection, { params: { id } })
  expect(readings.map(({ piece, inspectedByName }) => [piece, inspectedByName])).toEqual([
    [1, null],
    [2, null],
    [3, engineer],
  ])
  const csv = [...reportCsv(await loadInspection(plant.kernel.database.reader, id))].join('').split('\r\n')
  expect(csv[0]?.endsWith(',inspectedBy')).toBe(true)
  expect(csv[3]?.endsWith(`,${engineer}`)).toBe(true)
})
