import { endpoints } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { gap, reading, receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'

const { record } = endpoints
let plant: Plant
let goods: Stock
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  await goods.point((await goods.plan('PL-1', [{ characteristicId: goods.measured.id }, { characteristicId: goods.judged.id }])).id)
})
afterAll(() => plant.stop())

/** A delivery with its inspection of three pieces, answered so. */
async function arrive(values: readonly (string | null)[]) {
  const inspector = await plant.as('inspector')
  const id = (await receive(plant, goods)).lots[0]?.inspections[0]?.id ?? ''
  const { lines, version, code } = await inspector.call(record.getInspection, { params: { id } })
  const [measured = '', judged = ''] = lines.map((line) => line.id)
  let last: string | null = null
  const answer = async (answers: readonly (string | null)[]) => {
    const readings = answers.map((value, i) => reading(measured, i + 1, value, { isConfirmedOutside: true, corrects: i === 0 ? last : null }))
    last = readings[0]?.id ?? null
    await inspector.call(record.recordReadings, { params: { id }, body: { readings } })
  }
  if (values.length > 0) await answer(values)
  const series = async (lineId = measured) => inspector.call(record.getLineSeries, { params: { id: lineId } })
  return { id, code, version, measured, judged, answer, series }
}
const numbers = async ({ series }: Awaited<ReturnType<typeof arrive>>) => (await series()).values.map(({ number }) => number)

it('a line goes on with the values of the deliveries before, in order of time, each as last corrected', async () => {
  const first = await arrive(['0.31', '0.35', '0.40'])
  const second = await arrive(['0.33'])
  expect(await numbers(second)).toEqual([0.31, 0.35, 0.4, 0.33])
  expect((await second.series()).values.map(({ code, piece }) => `${code} ${piece}`)).toEqual([
    ...[1, 2, 3].map((piece) => `${first.code} ${piece}`),
    `${second.code} 1`,
  ])
  await second.answer(['0.34', '0.36'])
  expect([...(await numbers(second))].sort()).toEqual([0.31, 0.34, 0.35, 0.36, 0.4])
  await second.answer([null])
  expect((await second.series()).total).toBe(4)
})

it('leaves out what was cancelled, has nothing where nothing is measured, and says so where there is no such line', async () => {
  const before = await arrive(['0.31'])
  const count = (await before.series()).total
  const wrong = await arrive(['0.32'])
  const manager = await plant.as('qualityManager')
  const { version } = await manager.call(record.getInspection, { params: { id: wrong.id } })
  await manager.call(record.cancelInspection, { params: { id: wrong.id }, body: { version, reason: 'opened by mistake' } })
  expect((await before.series()).total).toBe(count)
  expect(await before.series(before.judged)).toEqual({ values: [], total: 0 })
  expect(await refusal(before.series(wrong.id))).toMatchObject({ code: 'not_found' })
})

it('does not mix units: values of an earlier revision in another one are left out', async () => {
  const { define } = endpoints
  const before = await arrive(['0.31'])
  expect((await before.series()).total).toBeGreaterThan(1)
  const { engineer, measured } = goods
  const revised = await engineer.call(define.reviseCharacteristic, { params: { id: measured.id }, body: { version: measured.version } })
  const inMicrometres = { ...gap, unit: 'µm', nominal: '300', lower: '250', upper: '350', resolution: '10' }
  const changed = await engineer.call(define.updateCharacteristic, {
    params: { id: measured.id },
    body: { ...inMicrometres, version: revised.version },
  })
  await engineer.call(define.releaseCharacteristic, { params: { id: measured.id }, body: { version: changed.version } })
  const after = await arrive(['310'])
  expect(await numbers(after)).toEqual([310])
})
