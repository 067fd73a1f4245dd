import { endpoints } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { startPlant, stock, type Plant, type Stock } from '../../testing/plant'

const { define } = endpoints
let plant: Plant
let goods: Stock
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
})
afterAll(() => plant.stop())

/** More rows than are sealed in one turn, of two tables. */
const many = 1300

it('a change of many rows lets others have their turn while it is sealed, and every row of it is in its seals', async () => {
  const { work, database, chain } = plant.kernel
  const rows = Array.from({ length: many }, (_, i) => ({
    code: `M-${String(i).padStart(4, '0')}`,
    name: `Groove ${i}`,
    tolerance: `${5 + (i % 9)} ±0.05`,
    unit: 'mm',
    resolution: '0.01',
  }))
  await goods.engineer.call(define.importCharacteristics, { body: { rows, documents: [] } })
  const [last] = (await database.reader.query(`SELECT rows FROM audit ORDER BY seq DESC LIMIT 1`)) as { rows: string }[]
  const seals = JSON.parse(last?.rows ?? '{}') as Record<string, object>
  expect([Object.keys(seals['characteristic'] ?? {}).length, Object.keys(seals['characteristic_revision'] ?? {}).length]).toEqual([many, many])

  let turns = 0
  let isDone = false
  const others = (async () => {
    while (!isDone) {
      turns += 1
      await new Promise((resolve) => setImmediate(resolve))
    }
  })()
  await work.run({ personId: null, key: null, content: '' }, async ({ manager, audit }) => {
    await manager.query('UPDATE characteristic SET version = version + 1', [])
    audit({ action: 'changed', subject: 'plant', subjectId: '' })
    turns = 0
  })
  isDone = true
  await others
  // After each five hundred rows.
  expect(turns).toBeGreaterThanOrEqual(Math.floor(many / 500))
  expect((await chain.verify([])).breaks).toEqual([])
})
