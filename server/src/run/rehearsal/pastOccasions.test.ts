import { LoadTally, playOccasions, type Rules } from '@nemawashi/core'
import { endpoints, type PastOccasions } from '@nemawashi/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { burr, decideAll, inspect, startPlant, stock, type Plant } from '../../testing/plant'

const { attach, define, run } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  await goods.make(define.places, { code: 'LINE', name: 'LINE', purpose: 'production', countsForPlanning: false })
})
afterAll(() => plant.stop())

const rulesOf = ({ points, plans }: PastOccasions): Rules => ({ points, plans: new Map(plans.map(({ id, lines }) => [id, lines])) })
const past = async (query: object = {}): Promise<PastOccasions> => goods.engineer.call(attach.getPastOccasions, { query })

let deliveries = 0
/** A delivery of two lots, what it opens settled, the first lot's as told. */
async function deliver(failing: number): Promise<string[]> {
  const clerk = await plant.as('receivingClerk')
  const lines = [60, 40].map((quantity) => ({ partId: goods.part.id, supplierLot: `S-${++deliveries}`, quantity, containers: [] }))
  const body = { supplierId: goods.supplier.id, orderNumber: `O-${deliveries}`, lines }
  const { lots, load } = await clerk.call(run.receiveDelivery, { body })
  for (const [i, lot] of lots.entries())
    for (const { id } of lot.inspections)
      await decideAll(plant, await inspect(plant, id, i === 0 ? failing : 0), failing > 0 && i === 0 ? 'scrap' : 'release')
  for (const { id } of load.inspections) await inspect(plant, id)
  return lots.map(({ id }) => id)
}
async function make(quantity: number, good: number): Promise<void> {
  const operator = await plant.as('productionOperator')
  const at = (order: { id: string; version: number }) => ({ params: { id: order.id }, body: { version: order.version } })
  const body = { partId: goods.part.id, quantity, orderNumber: '', customerId: null }
  let order = await operator.call(run.createOrder, { body })
  for (const act of [run.releaseOrder, run.startStep]) order = await operator.call(act, at(order))
  order = await operator.call(run.confirmStep, { params: { id: order.id }, body: { version: order.version, good, scrapped: 0, setAside: 0 } })
  for (const { id, isGate } of order.steps.flatMap(({ checks }) => checks)) {
    const inspection = await inspect(plant, id)
    if (isGate) await decideAll(plant, inspection, 'release')
  }
}

it('the past, played under the control points that were in force, opens what it opened in fact, at every kind of occasion', async () => {
  const questions: string[] = []
  for (const code of ['C-1', 'C-2', 'C-3']) questions.push((await goods.characteristic(code, burr)).id)
  const plan = async (code: string, positions: readonly number[]) =>
    (
      await goods.plan(
        code,
        positions.map((i) => ({ characteristicId: questions[i] ?? '' })),
      )
    ).id
  const [lots, load, also] = [await plan('PL-1', [0, 1]), await plan('PL-2', [2]), await plan('PL-3', [0])]
  await goods.point(lots, { frequency: { kind: 'oneIn', k: 3, fullAfterFailure: 2 } })
  await goods.point(lots, { partId: null, isGate: false })
  await goods.point(also, { isGate: false, frequency: { kind: 'oneIn', k: 2 } })
  await goods.point(load, { subject: 'load', partId: null, isGate: false })
  await goods.point(load, { operationId: goods.assembly.id, moment: 'end' })
  await goods.point(lots, { operationId: goods.assembly.id, moment: 'start', isGate: false })
  for (const failing of [0, 0, 1, 0, 0, 0]) await deliver(failing)
  await make(50, 48)
  await make(20, 20)

  const told = await past()
  const played = [...playOccasions(rulesOf(told), told.occasions)]
  expect(played).toHaveLength(12 + 4)
  expect(played.map(({ inspections }) => inspections.length)).toEqual(told.occasions.map(({ opened }) => opened))
  const tally = new LoadTally(told.from, told.until)
  for (const occasion of played) tally.add(occasion)
  const { total } = (await goods.engineer.call(endpoints.record.listInspections, { query: {} })) as { total: number }
  expect(tally.weeks.reduce((sum, week) => sum + week.inspections, 0)).toBe(total)
  expect(tally.weeks).toHaveLength(53)
  expect(new Set(told.occasions.map(({ opened }) => opened)).size).toBeGreaterThan(1)
  expect(told.occasions.filter(({ failed }) => failed.length > 0).map(({ quantity }) => quantity)).toContain(60)
})

it('it is told of one part, of a family, or of all; a plan that hangs nowhere yet is told when asked for; nothing is written', async () => {
  const planId = (await goods.plan('PL-NEW', [{ characteristicId: goods.measured.id }])).id
  const before = await plant.kernel.database.reader.query('SELECT COUNT(*) AS n FROM audit')
  const { occasions, isCut } = await past()
  const countOf = async (query: object) => (await past(query)).occasions.length
  expect([await countOf({ partId: goods.part.id }), await countOf({ familyId: goods.family.id }), isCut]).toEqual([
    occasions.length,
    occasions.length,
    false,
  ])
  expect(await countOf({ partId: goods.receiving.id })).toBe(0)
  expect((await past({ planId })).plans.find(({ id }) => id === planId)?.lines).toHaveLength(1)
  expect((await past()).plans.some(({ id }) => id === planId)).toBe(false)
  expect(await plant.kernel.database.reader.query('SELECT COUNT(*) AS n FROM audit')).toEqual(before)
})

it('what lies before the days that are asked about is told too, for the histories, and does not count', async () => {
  await plant.later('2027-06-01T06:00:00Z')
  await deliver(0)
  const told = await past({ days: 7 })
  expect(told.from).toBe('2027-05-26')
  const tally = new LoadTally(told.from, told.until)
  for (const occasion of playOccasions(rulesOf(told), told.occasions)) tally.add(occasion)
  expect(tally.weeks.map(({ from, occasions }) => [from, occasions])).toEqual([
    ['2027-05-24', 0],
    ['2027-05-31', 2],
  ])
  expect(told.occasions.length).toBe(12 + 4 + 2)
})

it('how lines with switching rules were judged is told where it was not simply accepted with nothing found', async () => {
  const sampling = { kind: 'attributesScheme', level: 'II', aqlPercent: 6.5, switching: 'withReduced' } as const
  const characteristicId = (await goods.characteristic('C-SCORE', burr)).id
  const draft = await goods.engineer.call(define.createPlan, {
    body: { code: 'PL-SCORE', name: 'Score', lines: [{ characteristicId, sampling, isRequired: true, isDecisive: false }] },
  })
  const plan = await goods.engineer.call(define.releasePlan, { params: { id: draft.id }, body: { version: draft.version } })
  await goods.point(plan.id, { isGate: false, onFailure: 'note' })
  for (const found of [0, 1, 2, 3]) {
    const lines = [{ partId: goods.part.id, supplierLot: `F-${found}`, quantity: 60, containers: [] }]
    const { lots } = await (
      await plant.as('receivingClerk')
    ).call(run.receiveDelivery, {
      body: { supplierId: goods.supplier.id, orderNumber: `F-${found}`, lines },
    })
    await inspect(plant, lots[0]?.inspections.find(({ planName }) => planName === 'Score')?.id ?? '', found)
  }
  // Letter E: 13 pieces, Ac 2 at 6.5 %, Ac 1 at 4 %. Source: MIL-STD-105E, tables I and II-A.
  const told = (await past()).occasions.flatMap(({ judged }) => judged.filter((line) => line.characteristicId === characteristicId))
  expect(told.map(({ isAccepted, isAcceptedTighter }) => [isAccepted, isAcceptedTighter])).toEqual([
    [true, true],
    [true, false],
    [false, false],
  ])
})
