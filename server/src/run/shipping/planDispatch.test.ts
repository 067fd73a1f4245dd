import { endpoints, type Dispatch } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { schema } from '../../app/areas'
import { verifyPlant } from '../../kernel/verify/verifyPlant'
import { inspect, receive, refusal, startPlant, stock, type Plant } from '../../testing/plant'

const { attach, define, record, run, trace } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let customer: { id: string }
let ship: { id: string }
let planId = ''
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  customer = await goods.make(define.partners, { code: 'CUS', name: 'Customer', kind: 'customer', isActive: true })
  ship = await goods.make(define.operations, { code: 'SHIP', name: 'Shipping', kind: 'shipping' })
  for (const purpose of ['shipping', 'outside'])
    await goods.make(define.places, { code: `${purpose}-2`, name: purpose, purpose, countsForPlanning: false })
  const part = await goods.engineer.call(define.parts.get, { params: { id: goods.part.id } })
  const { id, version, ...fields } = part
  await goods.engineer.call(define.parts.update, { params: { id }, body: { ...fields, version, operationIds: [goods.receiving.id, ship.id] } })
  planId = (await goods.plan('PL-ORDER', [{ characteristicId: goods.judged.id }])).id
})
afterAll(async () => {
  expect((await verifyPlant(plant.kernel.database.address, schema)).breaks).toEqual([])
  await plant.stop()
})

const clerk = () => plant.as('receivingClerk')
const asking = (change: object) => ({
  planId,
  change: { operationId: ship.id, moment: 'beforePicking', subject: 'load', holdPlaceId: null, ...change },
})
const plan = async (quantity = 60): Promise<Dispatch> =>
  (await clerk()).call(run.planDispatch, {
    body: { customerId: customer.id, orderNumber: 'SO-1', leavesOn: '2026-12-01', lines: [{ partId: goods.part.id, quantity }] },
  })
/** Free pieces of a new lot in the store. */
async function stored(quantity = 100): Promise<{ lotId: string; containerId: null; placeId: string; quantity: number }> {
  const { lots } = await receive(plant, goods, { quantity })
  const lotId = lots[0]?.id ?? ''
  const placeId = goods.places.store.id
  await (
    await clerk()
  ).call(run.putAway, { params: { id: lotId }, body: { containerId: null, fromPlaceId: goods.places.dock.id, toPlaceId: placeId, quantity } })
  return { lotId, containerId: null, placeId, quantity }
}
const pick = async ({ id, version }: Dispatch, spot: Awaited<ReturnType<typeof stored>>, quantity: number) =>
  (await clerk()).call(run.pickPlanned, { params: { id }, body: { version, picks: [{ ...spot, quantity }] } })
const now = async ({ id }: Dispatch) => (await clerk()).call(run.getDispatch, { params: { id } })
const send = async ({ id, version }: Dispatch) => (await clerk()).call(run.sendDispatch, { params: { id }, body: { version } })
const cancel = async ({ id, version }: Dispatch) => (await clerk()).call(run.cancelDispatch, { params: { id }, body: { version } })
const look = async (id: string) => (await plant.as('inspector')).call(record.getInspection, { params: { id } })

describe('a dispatch that is planned', () => {
  it('says what is to be picked and what is free for it, and is picked no further than that', async () => {
    const spot = await stored()
    const planned = await plan()
    expect(planned).toMatchObject({ state: 'planned', pickedAt: null, picks: [], gates: [], lines: [{ quantity: 60, picked: 0 }] })
    expect(planned.lines[0]?.free).toBeGreaterThanOrEqual(100)
    expect((await refusal(send(planned)))?.code).toBe('not_picked')
    expect(await refusal(pick(planned, spot, 61))).toMatchObject({ code: 'not_planned', facts: { planned: 60, received: 61 } })
    const picked = await pick(planned, spot, 50)
    expect(picked).toMatchObject({ state: 'picked', lines: [{ quantity: 60, picked: 50 }], picks: [{ quantity: 50 }] })
    expect((await refusal(pick(picked, spot, 10)))?.code).toBe('already_picked')
    expect((await send(picked)).state).toBe('sent')
    expect((await refusal(cancel(await now(picked))))?.code).toBe('already_sent')
  })

  it('reserves nothing, and says which other plans want the same pieces, those that leave first above', async () => {
    await stored()
    const [first, second] = [await plan(60), await plan(25)]
    const said = async (dispatch: Dispatch) => (await now(dispatch)).lines[0]?.alsoPlanned.map(({ code, quantity }) => `${quantity} ${code}`)
    expect(await said(second)).toContain(`60 ${first.code}`)
    expect(await said(first)).toContain(`25 ${second.code}`)
    expect(await said(first)).not.toContain(`60 ${first.code}`)
    const days = (await now(first)).lines[0]?.alsoPlanned.map(({ leavesOn }) => leavesOn ?? '9') ?? []
    expect(days).toEqual([...days].sort())
    const { rows } = await (await clerk()).call(run.listPickable, { query: { q: goods.part.code } })
    expect(rows[0]?.planned).toBeGreaterThanOrEqual(85)
    await cancel(first)
    expect(await said(second)).not.toContain(`60 ${first.code}`)
    const off = await cancel(second)
    expect(off.lines[0]?.alsoPlanned).toEqual([])
  })

  it('takes no part that it does not have', async () => {
    const other = await goods.make(define.parts, {
      code: 'P-OTHER',
      name: 'Other',
      revision: 'A',
      unit: 'piece',
      tracking: 'lot',
      familyId: null,
      putAwayPlaceId: null,
      operationIds: [goods.receiving.id],
    })
    const body = { customerId: customer.id, orderNumber: 'SO-2', leavesOn: null, lines: [{ partId: other.id, quantity: 5 }] }
    const planned = await (await clerk()).call(run.planDispatch, { body })
    const spot = await stored()
    expect(await refusal(pick(planned, spot, 5))).toMatchObject({ code: 'not_planned', facts: { planned: 0 } })
  })
})

describe('a check before picking', () => {
  it('keeps a gated dispatch from being picked until it is acceptable, and holds no pieces', async () => {
    await goods.under([asking({ isGate: true })], async () => {
      const spot = await stored()
      const planned = await plan()
      const [check] = planned.checks
      expect(check).toMatchObject({ moment: 'beforePicking', lotCode: null, isGate: true })
      expect(planned.gates).toEqual([expect.stringContaining('is still to do')])
      expect((await refusal(pick(planned, spot, 60)))?.code).toBe('gate_closed')
      expect(await look(check?.id ?? '')).toMatchObject({
        subjectKind: 'load',
        lotCode: `load ${planned.code}`,
        originKind: 'dispatch',
        supplierName: 'Customer',
      })
      const { unplanned } = await goods.engineer.call(record.getPlanning, { query: {} })
      expect(unplanned.find(({ id }) => id === check?.id)?.lotCode).toBe(`load ${planned.code}`)
      expect(await inspect(plant, check?.id ?? '')).toMatchObject({ state: 'decided', holds: false })
      expect((await pick(await now(planned), spot, 60)).gates).toEqual([])
      const passport = await (await plant.as('auditor')).call(trace.getPassport, { params: { id: spot.lotId } })
      expect(passport.events.map(({ title }) => title)).toContainEqual(expect.stringContaining('Plan PL-ORDER'))
    })
  })

  it('that is not acceptable keeps it back, gate or not, until it is recorded anew; what is only noted does not', async () => {
    await goods.under([asking({ isGate: false })], async () => {
      const spot = await stored()
      const planned = await plan()
      expect(planned.gates).toEqual([])
      const { id, version } = await inspect(plant, planned.checks[0]?.id ?? '', 1)
      expect((await now(planned)).gates).toEqual([expect.stringContaining('is not acceptable')])
      const listed = await (await clerk()).call(run.listDispatches, { query: { q: planned.code } })
      expect(listed.rows).toMatchObject([{ openChecks: 1, failedChecks: 1 }])
      expect((await refusal(pick(planned, spot, 60)))?.code).toBe('gate_closed')
      // Nothing is decided on: it is not among what waits for a decision.
      const queued = async (state: 'deciding' | 'withoutGoods') =>
        (await goods.engineer.call(record.listInspections, { query: { state, limit: 200 } })).rows.map((row) => row.id)
      expect(await queued('withoutGoods')).toContain(id)
      expect(await queued('deciding')).not.toContain(id)
      const { waitingForDecision } = await goods.engineer.call(trace.getToday, {})
      expect(waitingForDecision).toBe((await queued('deciding')).length)
      await (await plant.as('inspector')).call(record.reopenInspection, { params: { id }, body: { version, reason: 'the order is mended' } })
      expect((await pick(planned, spot, 60)).state).toBe('picked')
    })
    await goods.under([asking({ isGate: false, onFailure: 'note' })], async () => {
      const planned = await plan()
      expect((await inspect(plant, planned.checks[0]?.id ?? '', 1)).state).toBe('decided')
      expect((await now(planned)).gates).toEqual([])
    })
  })

  it('is cancelled with the dispatch', async () => {
    await goods.under([asking({ isGate: true })], async () => {
      const planned = await plan()
      const off = await cancel(planned)
      expect(off).toMatchObject({ state: 'cancelled', gates: [], checks: [{ state: 'cancelled' }] })
      expect((await refusal(pick(off, await stored(), 60)))?.code).toBe('already_sent')
    })
  })

  it('is asked with the picking where nothing was planned, and keeps the goods at the door', async () => {
    await goods.under([asking({ isGate: true }), asking({ isGate: true, moment: 'beforeDispatch' })], async () => {
      const spot = await stored()
      const body = { customerId: customer.id, orderNumber: 'SO-3', picks: [{ ...spot, quantity: 40 }] }
      const picked = await (await clerk()).call(run.pickDispatch, { body })
      expect(picked.checks.map(({ moment }) => moment).sort()).toEqual(['beforeDispatch', 'beforePicking'])
      expect((await refusal(send(picked)))?.code).toBe('gate_closed')
      for (const { id } of picked.checks) await inspect(plant, id)
      expect((await send(picked)).state).toBe('sent')
    })
  })

  it('is rehearsed, refused at moments where there is none, and found again in the past', async () => {
    await goods.under([asking({ isGate: true })], async () => {
      const query = { operationId: ship.id, partId: goods.part.id, quantity: 10, lots: 1, partnerId: customer.id }
      const { lots } = await goods.engineer.call(attach.rehearse, { query })
      expect(lots[0]?.considered).toMatchObject([{ moment: 'beforePicking', subject: 'load', opens: true, blocks: 'pick' }])
      expect((await refusal(goods.point(planId, { operationId: ship.id, moment: 'beforePicking', subject: 'lot' })))?.code).toBe('moment_not_there')
      await plan(7)
      const past = await goods.engineer.call(attach.getPastOccasions, { query: { partId: goods.part.id, days: 90 } })
      const found = past.occasions.filter(({ moment, quantity }) => moment === 'beforePicking' && quantity === 7)
      expect(found).toMatchObject([{ opened: 1, customerId: customer.id }])
    })
  })
})
