import { endpoints, type Delivery } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { receive, refusal, startPlant, stock, type Plant } from '../../testing/plant'

const { contain, define, run, trace } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let customer: { id: string }
let prototypes: { id: string }
let sorting: { id: string }
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  customer = await goods.make(define.partners, { code: 'CU', name: 'CU', kind: 'customer', isActive: true })
  for (const purpose of ['shipping', 'outside', 'production'])
    await goods.make(define.places, { code: purpose, name: purpose, purpose, countsForPlanning: false })
  const finer = (code: string, name: string, change: object) =>
    goods.make(define.finerStandings, {
      ...{ code, name, standing: 'released', mayUse: true, mayPick: false, mayShip: false, countsForPlanning: false, isActive: true },
      ...change,
    })
  prototypes = await finer('F-1', 'for prototypes only', {})
  sorting = await finer('F-2', 'being sorted', { standing: 'quarantined', mayUse: false })
})
afterAll(() => plant.stop())

const give = async (lotId: string, finerId: string | null, containerId: string | null = null, reason = 'agreed with design') =>
  (await plant.as('qualityManager')).call(contain.giveStanding, { params: { id: lotId }, body: { containerId, finerId, reason } })
const clerk = () => plant.as('receivingClerk')
/** A delivery of two containers in the store. */
async function stored(): Promise<Delivery['lots'][number]> {
  const containers = [60, 40].map((quantity) => ({ label: null, quantity }))
  const { lots, id } = await receive(plant, goods, { containers })
  const hand = await clerk()
  for (const { containerId, placeId, quantity } of lots[0]?.balances ?? [])
    await hand.call(run.putAway, {
      params: { id: lots[0]?.id ?? '' },
      body: { containerId, fromPlaceId: placeId, quantity, toPlaceId: goods.places.store.id },
    })
  return (await hand.call(run.getDelivery, { params: { id } })).lots[0] as Delivery['lots'][number]
}
const pick = async (lotId: string, containerId: string | null) =>
  (await clerk()).call(run.pickDispatch, {
    body: { customerId: customer.id, orderNumber: '1', picks: [{ lotId, containerId, placeId: goods.places.store.id, quantity: 10 }] },
  })

describe('a finer standing', () => {
  it('of a container allows fewer steps than its standing: it cannot be picked, and is not offered; the other container is', async () => {
    const lot = await stored()
    const [first, second] = lot.balances
    await give(lot.id, prototypes.id, first?.containerId)
    expect(await refusal(pick(lot.id, first?.containerId ?? null))).toMatchObject({
      code: 'standing_forbids',
      message: `${lot.code} stands as "for prototypes only" (agreed with design): it may not be picked for a dispatch.`,
    })
    const offered = await (await clerk()).call(run.listPickable, { query: { q: lot.code } })
    expect(offered.rows.map(({ containerId }) => containerId)).toEqual([second?.containerId])
    const picked = await pick(lot.id, second?.containerId ?? null)
    // What is said after it was picked keeps it from leaving.
    await give(lot.id, prototypes.id, second?.containerId)
    const send = async () => (await clerk()).call(run.sendDispatch, { params: { id: picked.id }, body: { version: picked.version } })
    expect((await refusal(send()))?.message).toContain('sent to a customer')
    await give(lot.id, null, second?.containerId, 'looked at again')
    await send()
    const { rows } = await (await clerk()).call(run.listStock, { query: { q: lot.code } })
    expect(rows.find(({ finer }) => finer !== null)).toMatchObject({ finer: 'for prototypes only', countsForPlanning: false, standing: 'released' })
    const passport = await (await plant.as('auditor')).call(trace.getPassport, { params: { id: lot.id } })
    expect(passport.events.filter(({ kind }) => kind === 'finerStanding').map(({ title }) => title)).toEqual([
      `Restricted: for prototypes only (${first?.containerLabel})`,
      `Restricted: for prototypes only (${second?.containerLabel})`,
      `Restriction ended: for prototypes only (${second?.containerLabel})`,
    ])
  })

  it('of the lot is in place of the one before, and may still be used where it says so', async () => {
    const lot = await stored()
    await give(lot.id, prototypes.id)
    const { balances } = await give(lot.id, prototypes.id, null, 'once more')
    expect(balances.map(({ finer }) => finer)).toEqual(['for prototypes only', 'for prototypes only'])
    const { make } = goods
    const step = await make(define.operations, { code: 'ST', name: 'ST', kind: 'production' })
    const master = { code: 'M', name: 'M', revision: 'A', unit: 'piece', tracking: 'lot', familyId: null, putAwayPlaceId: goods.places.store.id }
    const part = await make(define.parts, { ...master, operationIds: [step.id] })
    const hand = await plant.as('productionOperator')
    const planned = await hand.call(run.createOrder, { body: { partId: part.id, quantity: 5, orderNumber: '', customerId: null } })
    const order = await hand.call(run.releaseOrder, { params: { id: planned.id }, body: { version: planned.version } })
    const issue = (version: number) => {
      const containerId = lot.balances[0]?.containerId ?? null
      const body = { version, lotId: lot.id, containerId, placeId: goods.places.store.id, quantity: 5 }
      return hand.call(run.issueComponent, { params: { id: order.id }, body })
    }
    const issued = await issue(order.version)
    const nothing = await make(define.finerStandings, {
      ...{ code: 'F-3', name: 'for nothing', standing: 'released', isActive: true },
      ...{ mayUse: false, mayPick: false, mayShip: false, countsForPlanning: false },
    })
    await give(lot.id, nothing.id)
    expect((await refusal(issue(issued.version)))?.message).toContain('issued to an order')
  })

  it('is refused where no piece is in the standing that it is a kind of, for what is not there, and to who may not', async () => {
    const lot = await stored()
    expect((await refusal(give(lot.id, sorting.id)))?.code).toBe('nothing_there')
    expect((await refusal(give(lot.id, lot.id)))?.code).toBe('reference_unknown')
    expect((await refusal(give(lot.id, prototypes.id, lot.id)))?.code).toBe('reference_unknown')
    expect((await refusal(give(goods.part.id, prototypes.id)))?.code).toBe('not_found')
    const body = { containerId: null, finerId: prototypes.id, reason: 'because' }
    expect((await refusal((await clerk()).call(contain.giveStanding, { params: { id: lot.id }, body })))?.status).toBe(403)
    // Taking off what nobody gave changes nothing, and says nothing.
    expect((await give(lot.id, null)).balances.every(({ finer }) => finer === null)).toBe(true)
  })

  it('is told of a past instant as it was given then', async () => {
    const lot = await stored()
    const finers = async (at: string) => {
      const { rows } = await (await clerk()).call(run.listStock, { query: { q: lot.code, at } })
      return [...new Set(rows.map(({ finer, countsForPlanning }) => `${finer ?? '–'} ${countsForPlanning}`))]
    }
    const instant = () => new Date(plant.clock.time).toISOString()
    const before = instant()
    await give(lot.id, prototypes.id)
    const while_ = instant()
    await give(lot.id, null, null, 'looked at again')
    expect([await finers(before), await finers(while_), await finers(instant())]).toEqual([['– true'], ['for prototypes only false'], ['– true']])
  })
})
