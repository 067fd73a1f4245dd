import { endpoints } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { reading, receive, startPlant, stock, type Plant } from '../testing/plant'

const { record } = endpoints
let plant: Plant
/** An inspection of each kind by what it looks at, and the lot that two of them came with. */
const made = { lot: '', container: '', load: '' }
const words = new Map<string, readonly (keyof typeof made)[]>()

beforeAll(async () => {
  plant = await startPlant()
  const goods = await stock(plant)
  const point = async (code: string, change: object) => goods.point((await goods.plan(code, [{ characteristicId: goods.measured.id }])).id, change)
  await point('PL-LOT', { subject: 'lot', responsible: 'Lab' })
  await point('PL-BOX', { subject: 'container' })
  await point('PL-LOAD', { subject: 'load', partId: null })
  const delivery = await receive(plant, goods, { quantity: 40, containers: [{ label: 'BOX-77', quantity: 40 }] })
  const inspector = await plant.as('inspector')
  const { rows } = await inspector.call(record.listInspections, { query: {} })
  const idOf = (plan: string) => rows.find(({ planName }) => planName === `Plan ${plan}`)?.id ?? ''
  Object.assign(made, { lot: idOf('PL-LOT'), container: idOf('PL-BOX'), load: idOf('PL-LOAD') })
  const { lines } = await inspector.call(record.getInspection, { params: { id: made.lot } })
  await inspector.call(record.recordReadings, { params: { id: made.lot }, body: { readings: [reading(lines[0]?.id ?? '', 1, '0.30')] } })
  await (await plant.as('qualityEngineer', 'Zora')).call(record.takeInspection, { params: { id: made.container }, body: { isTakingOver: false } })
  const both = ['lot', 'container'] as const
  const all = ['lot', 'container', 'load'] as const
  const found: [string, readonly (keyof typeof made)[]][] = [
    [rows.find(({ id }) => id === made.lot)?.code ?? '', ['lot']],
    ['lab', ['lot']],
    ['PL-BOX', ['container']],
    ['receiving', all],
    [delivery.lots[0]?.code ?? '', both],
    ['s-1', both],
    ['P-1', both],
    ['box-77', ['container']],
    [delivery.code, ['load']],
    ['supplier', all],
    // Whoever began it has it, and whoever took it.
    ['inspector', ['lot']],
    ['zora', ['container']],
    ['supplier lab', ['lot']],
    ['box-77 lab', []],
    ['nowhere', []],
    ['%', []],
    ['S_1', []],
  ]
  for (const [word, kinds] of found) words.set(word, kinds)
})
afterAll(() => plant.stop())

it('an inspection is found by any word that stands on its row, and by several together', async () => {
  const inspector = await plant.as('inspector')
  for (const [word, kinds] of words) {
    const { rows, total } = await inspector.call(record.listInspections, { query: { q: word } })
    expect([word, rows.map(({ id }) => id).toSorted(), total]).toEqual([word, kinds.map((kind) => made[kind]).toSorted(), kinds.length])
  }
})
