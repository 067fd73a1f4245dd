import { endpoints, type ProductionOrder } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { planLine, reading, refusal, startPlant, stock, type Plant } from '../../testing/plant'

const { attach, contain, define, record, run } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let steps: { mill: { id: string }; wash: { id: string } }
let planId = ''
const parts = new Map<string, { id: string }>()

beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  const { make } = goods
  await make(define.places, { code: 'LINE', name: 'LINE', purpose: 'production', countsForPlanning: false })
  const step = (code: string) => make(define.operations, { code, name: code, kind: 'production' })
  steps = { mill: await step('MILL'), wash: await step('WASH') }
  for (const tracking of ['lot', 'serial']) {
    const milled = { code: `M-${tracking}`, name: 'Milled', revision: 'A', unit: 'piece', tracking, familyId: null }
    const body = { ...milled, putAwayPlaceId: goods.places.store.id, operationIds: [steps.mill.id, steps.wash.id] }
    parts.set(tracking, await make(define.parts, body))
  }
  const lines = [planLine(goods.judged.id, { sampling: { kind: 'fixedNumber', sampleSize: 1, accept: 0 } })]
  const plan = await goods.engineer.call(define.createPlan, { body: { code: 'PL-A', name: 'Burrs', lines } })
  await goods.engineer.call(define.releasePlan, { params: { id: plan.id }, body: { version: plan.version } })
  planId = plan.id
})
afterAll(() => plant.stop())

const operator = () => plant.as('productionOperator')
async function under(change: object, work: (point: { id: string }) => Promise<void>): Promise<void> {
  const point = { operationId: steps.mill.id, partId: null, holdPlaceId: null, isGate: false, moment: 'everyPieces', every: 50, ...change }
  const { id, version } = await goods.point(planId, point)
  try {
    await work({ id })
  } finally {
    await goods.engineer.call(attach.retireControlPoint, { params: { id }, body: { version } })
  }
}
async function running(tracking = 'lot', serials?: string[]): Promise<ProductionOrder> {
  const hand = await operator()
  const body = { partId: parts.get(tracking)?.id ?? '', quantity: serials?.length ?? 400, orderNumber: '', customerId: null }
  let order = await hand.call(run.createOrder, { body })
  order = await hand.call(run.releaseOrder, { params: { id: order.id }, body: { version: order.version, ...(serials ? { serials } : {}) } as never })
  return hand.call(run.startStep, { params: { id: order.id }, body: { version: order.version } })
}
const made = async ({ id, version }: ProductionOrder, good: number, scrapped = 0) =>
  (await operator()).call(run.reportStep, { params: { id }, body: { version, report: { kind: 'pieces', good, scrapped, setAside: 0 } } })
const standing = async ({ id }: ProductionOrder) => {
  const { balances } = await (await operator()).call(run.getOrder, { params: { id } })
  const sums: Record<string, number> = {}
  for (const { placeName, standing: is, quantity } of balances) sums[`${placeName} ${is}`] = (sums[`${placeName} ${is}`] ?? 0) + quantity
  return sums
}
const look = async (id: string) => (await plant.as('inspector')).call(record.getInspection, { params: { id } })
/** The check that came up last, answered and finished. */
async function check({ steps: [step] }: ProductionOrder, value: string | null, isFinished = true) {
  const hand = await plant.as('inspector')
  const id = step?.checks.find(({ state }) => state === 'toDo' || state === 'started')?.id ?? ''
  const { lines, version } = await look(id)
  if (value === null) return { id, hand }
  const readings = [reading(lines[0]?.id ?? '', 1, value)]
  const { version: next } = await hand.call(record.recordReadings, { params: { id }, body: { readings } })
  if (isFinished) await hand.call(record.finishInspection, { params: { id }, body: { version: Math.max(version, next) } })
  return { id, hand }
}
const since = async ({ id }: { id: string }) => (await (await plant.as('inspector')).call(record.getMadeSince, { params: { id } })).run

describe('a nonconforming check of a run', () => {
  it('holds what was made since the last check that conformed, and no more; what was made meanwhile, too', async () => {
    await under({ onFailure: 'holdMade' }, async () => {
      let order = await made(await running(), 50)
      await check(order, 'O')
      order = await made(order, 45, 5)
      await check(order, 'O')
      order = await made(order, 50)
      const open = await check(order, null)
      // Before anything is held it is said what would be.
      expect(await since(open)).toMatchObject({ since: 100, quantity: 50, free: 145, toHold: 50, held: 0, failed: [], lookFirst: 125, looks: 6 })
      await made(order, 20)
      await check(order, 'X')
      expect(await standing(order)).toMatchObject({ 'LINE onHold': 70, 'LINE released': 95 })
      expect(await since(open)).toMatchObject({ checkedAt: 150, done: 170, quantity: 70, held: 70, toHold: 0, lookFirst: 125 })
      // A decision is on these pieces alone.
      const finished = await look(open.id)
      expect(finished.held).toEqual([{ containerId: null, containerLabel: null, quantity: 70 }])
      const rows = [{ containerId: null, quantity: 70, disposition: 'scrap' as const, reason: 'burrs' }]
      const manager = await plant.as('qualityManager')
      await manager.call(contain.decide, {
        params: { id: open.id },
        body: { version: finished.version, password: 'a-test-password', lotId: null, rows },
      })
      expect(await standing(order)).toMatchObject({ 'LINE released': 95 })
    })
  })

  it('that follows another one holds only what that one does not, and goes back to the beginning where none conformed', async () => {
    await under({ onFailure: 'holdMade' }, async () => {
      let order = await made(await running(), 50)
      const first = await check(order, 'X')
      order = await made(order, 60)
      const second = await check(order, 'X')
      expect(await standing(order)).toEqual({ 'LINE onHold': 110 })
      expect(await since(first)).toMatchObject({ lastGood: null, since: 0, held: 50, failed: [] })
      // What was decided on the first one's pieces stands, whatever comes after.
      const { version, held } = await look(first.id)
      const rows = held.map(({ containerId, quantity }) => ({ containerId, quantity, disposition: 'concession' as const, reason: 'looked at' }))
      const manager = await plant.as('qualityManager')
      await manager.call(contain.decide, { params: { id: first.id }, body: { version, password: 'a-test-password', lotId: null, rows } })
      order = await made(order, 50)
      expect(await since(await check(order, null))).toMatchObject({ quantity: 160, heldBefore: 110, free: 100, toHold: 50 })
      expect(await since(second)).toMatchObject({ lastGood: null, heldBefore: 50, held: 60, failed: [{ done: 50, held: 50, isAcceptable: false }] })
    })
  })

  it('goes by checks of its own control point alone', async () => {
    const lines = [planLine(goods.judged.id, { sampling: { kind: 'fixedNumber', sampleSize: 1, accept: 0 } })]
    const other = await goods.engineer.call(define.createPlan, { body: { code: 'PL-B', name: 'Other', lines } })
    await goods.engineer.call(define.releasePlan, { params: { id: other.id }, body: { version: other.version } })
    const beside = { operationId: steps.mill.id, partId: null, holdPlaceId: null, isGate: false, moment: 'setUp', every: null }
    const { id, version } = await goods.point(other.id, beside)
    await under({ onFailure: 'holdMade' }, async () => {
      let order = await made(await running(), 20)
      order = await (
        await operator()
      ).call(run.reportStep, {
        params: { id: order.id },
        body: { version: order.version, report: { kind: 'setUp', note: 'new tool' } },
      })
      await check(order, 'O')
      order = await made(order, 30)
      expect(await since(await check(order, null))).toMatchObject({ lastGood: null, since: 0, quantity: 50 })
    })
    await goods.engineer.call(attach.retireControlPoint, { params: { id }, body: { version } })
  })

  it('holds at once by the word of whoever records, before it is finished; nothing twice', async () => {
    await under({ onFailure: 'note' }, async () => {
      const order = await made(await running(), 50)
      const { id, hand } = await check(order, 'X', false)
      const { run: held } = await hand.call(record.holdMadeSince, { params: { id } })
      expect(held).toMatchObject({ held: 50, free: 0, toHold: 0 })
      expect(await refusal(hand.call(record.holdMadeSince, { params: { id } }))).toMatchObject({ code: 'nothing_made_since' })
      await check(order, null).then(async () => hand.call(record.finishInspection, { params: { id }, body: { version: (await look(id)).version } }))
      expect(await standing(order)).toEqual({ 'LINE onHold': 50 })
      expect(await refusal(hand.call(record.holdMadeSince, { params: { id } }))).toMatchObject({ code: 'inspection_closed' })
    })
  })

  it('holds the very pieces where they have serial numbers and this step made them', async () => {
    await under({ onFailure: 'holdMade', every: 2 }, async () => {
      let order = await running('serial', ['S-1', 'S-2', 'S-3', 'S-4', 'S-5'])
      order = await made(order, 2)
      await check(order, 'O')
      order = await made(order, 2)
      const open = await check(order, null)
      expect(await since(open)).toMatchObject({ serials: ['S-3', 'S-4'], toHold: 2 })
      await check(order, 'X')
      expect((await look(open.id)).held.map(({ containerLabel }) => containerLabel)).toEqual(['M-serial S-3', 'M-serial S-4'])
      expect(await standing(order)).toEqual({ 'LINE onHold': 2, 'LINE released': 2 })
    })
  })

  it('asks for a moment of a run, and knows nothing of what no step made', async () => {
    const bad = { operationId: steps.mill.id, partId: null, holdPlaceId: null, isGate: false, onFailure: 'holdMade', moment: 'end', every: null }
    expect(await refusal(goods.point(planId, bad))).toMatchObject({ code: 'moment_not_there', facts: { field: 'onFailure' } })
  })
})
