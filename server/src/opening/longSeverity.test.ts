import type { SamplingRule } from '@nemawashi/core'
import { endpoints, type Inspection } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { verifications } from '../app/areas'
import { decideAll, inspect, receive, startPlant, stock, type Plant } from '../testing/plant'

const { contain, record, run } = endpoints
// MIL-STD-105E, Table II: 100 pieces at level S-2 have letter B; AQL 4 accepts on none, so each accepted lot scores 2.
const rule: SamplingRule = { kind: 'attributesScheme', level: 'S-2', aqlPercent: 4, switching: 'withReduced' }
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant, rule)
  await goods.point((await goods.plan('PL-LONG', [{ characteristicId: goods.judged.id }])).id)
})
afterAll(() => plant.stop())

const open = async (supplierId = goods.supplier.id): Promise<Inspection> => {
  const [lot] = (await receive(plant, goods, { supplierId })).lots
  return (await plant.as('inspector')).call(record.getInspection, { params: { id: lot?.inspections[0]?.id ?? '' } })
}
const judge = async (inspection: Inspection, bad = 0) => {
  const finished = await inspect(plant, inspection.id, bad)
  await decideAll(plant, finished)
  return inspection.lines[0]?.severity?.state
}
/** What is kept is what the whole history leads to. */
const isProved = async () => {
  const { connection } = plant.kernel.database.writer
  expect((await Promise.all(verifications.map((verify) => verify(connection)))).flat()).toEqual([])
}

it('the inspection of a line goes on however long its history: reduced stays reduced, a stop nobody answered stands', async () => {
  const seen: (string | undefined)[] = []
  for (let lot = 0; lot < 80; lot++) seen.push(await judge(await open()))
  // Fifteen lots score 30, and nothing leads back but a lot that is not accepted.
  expect(new Set(seen.slice(0, 15))).toEqual(new Set(['normal']))
  expect(new Set(seen.slice(15))).toEqual(new Set(['reduced']))
  await isProved()
  const stopped: (string | undefined)[] = []
  for (let lot = 0; lot < 8; lot++) stopped.push(await judge(await open(goods.other.id), 3))
  for (let lot = 0; lot < 65; lot++) stopped.push(await judge(await open(goods.other.id), 0))
  expect(stopped.slice(0, 7)).toEqual(['normal', 'normal', ...Array.from({ length: 5 }, () => 'tightened')])
  expect(new Set(stopped.slice(7))).toEqual(new Set(['discontinued']))
  await isProved()
}, 120_000)

it('a finding that is opened again, a lot of another supplier and an answer lead on from what is so then', async () => {
  const manager = await plant.as('qualityManager')
  const { rows } = await manager.call(contain.listStops, { query: { state: 'standing' } })
  const stop = await manager.call(contain.getStop, { params: { id: rows[0]?.id ?? '' } })
  await manager.call(contain.answerStop, { params: { id: stop.id }, body: { version: stop.version, reason: 'the supplier has mended its die' } })
  expect(await judge(await open(goods.other.id))).toBe('tightened')
  await isProved()
  // Reduced inspection ends with a lot that is not accepted, and comes back when that was a slip.
  const slip = await inspect(plant, (await open()).id, 2)
  expect((await open()).lines[0]?.severity?.state).toBe('normal')
  await (
    await plant.as('inspector')
  ).call(record.reopenInspection, { params: { id: slip.id }, body: { version: slip.version, reason: 'read wrongly' } })
  expect((await open()).lines[0]?.severity?.state).toBe('reduced')
  await isProved()
  // A lot that was somebody else's counts for them, and for nobody else.
  const delivery = await receive(plant, goods)
  await inspect(plant, delivery.lots[0]?.inspections[0]?.id ?? '', 2)
  const correction = { field: 'supplier' as const, supplierId: goods.other.id }
  await (
    await plant.as('receivingClerk')
  ).call(run.correctDelivery, { params: { id: delivery.id }, body: { correction, reason: 'the label says so' } })
  await isProved()
})
