import { endpoints, type ProductionOrder } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { schema } from '../app/areas'
import { verifyPlant } from '../kernel/verify/verifyPlant'
import { decideAll, inspect, receive, refusal, startPlant, stock, type Plant } from '../testing/plant'
import { verifyLedger } from '../stock/ledger/ledgerRepository'

const { define, run, record, trace, contain } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let made: { id: string }
let customer: { id: string }
let steps: { forge: { id: string }; prove: { id: string }; ship: { id: string }; back: { id: string } }
let planId = ''

beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  const { make } = goods
  await make(define.places, { code: 'LINE', name: 'LINE', purpose: 'production', countsForPlanning: false })
  await make(define.places, { code: 'DOOR', name: 'DOOR', purpose: 'shipping', countsForPlanning: false })
  customer = await make(define.partners, { code: 'CUS', name: 'Customer', kind: 'customer', isActive: true })
  const step = (code: string, kind: string) => make(define.operations, { code, name: code, kind })
  steps = {
    forge: await step('FORGE', 'production'),
    prove: await step('PROVE', 'production'),
    ship: await step('SHIP', 'shipping'),
    back: await step('BACK', 'return'),
  }
  made = await make(define.parts, {
    code: 'M-1',
    name: 'Made part',
    revision: 'A',
    unit: 'piece',
    tracking: 'lot',
    familyId: null,
    putAwayPlaceId: goods.places.store.id,
    operationIds: [steps.forge.id, steps.prove.id, steps.ship.id, steps.back.id],
  })
  planId = (await goods.plan('PL-WAY', [{ characteristicId: goods.judged.id }])).id
})
afterAll(async () => {
  expect((await verifyPlant(plant.kernel.database.address, schema)).breaks).toEqual([])
  await plant.stop()
})

const operator = () => plant.as('productionOperator')
const pointAt = (operationId: string, moment: string, change: object = {}) =>
  goods.point(planId, { operationId, moment, partId: made.id, holdPlaceId: null, ...change })
const retire = (point: { id: string; version: number }) =>
  goods.engineer.call(endpoints.attach.retireControlPoint, { params: { id: point.id }, body: { version: point.version } })
async function act(order: ProductionOrder, verb: 'releaseOrder' | 'startStep' | 'finishOrder'): Promise<ProductionOrder> {
  return (await operator()).call(run[verb], { params: { id: order.id }, body: { version: order.version } })
}
async function confirm(order: ProductionOrder, good: number, scrapped = 0, setAside = 0): Promise<ProductionOrder> {
  return (await operator()).call(run.confirmStep, { params: { id: order.id }, body: { version: order.version, good, scrapped, setAside } })
}
async function released(quantity = 100): Promise<ProductionOrder> {
  const body = { partId: made.id, quantity, orderNumber: '88', customerId: null }
  return act(await (await operator()).call(run.createOrder, { body }), 'releaseOrder')
}
const reload = async ({ id }: ProductionOrder) => (await operator()).call(run.getOrder, { params: { id } })
const standing = ({ balances }: ProductionOrder) => Object.fromEntries(balances.map((row) => [`${row.placeName} ${row.standing}`, row.quantity]))
/** An order through both steps, into the store. */
async function finished(quantity = 100): Promise<ProductionOrder> {
  let order = await released(quantity)
  for (let i = 0; i < 2; i++) order = await confirm(await act(order, 'startStep'), quantity)
  return act(order, 'finishOrder')
}

describe('a production order', () => {
  it('gives its lot before the first step, makes its pieces at it, accounts for each at the next, and puts the rest in the store', async () => {
    let order = await released()
    expect(order).toMatchObject({ state: 'released', lotCode: expect.stringMatching(/^L-/), next: { act: 'start', quantity: 100, gates: [] } })
    expect((await refusal(confirm(order, 100)))?.code).toBe('order_not_so_far')
    // Nothing of it is made yet, and that is no fault of the ledger.
    expect(await verifyLedger(plant.kernel.database.writer.connection)).toEqual([])
    order = await act(order, 'startStep')
    expect((await refusal(confirm(order, 101)))?.code).toBe('step_does_not_add_up')
    expect((await refusal(confirm(order, 1.5)))?.code).toBe('step_does_not_add_up')
    order = await confirm(order, 95, 3, 2)
    expect(standing(order)).toEqual({ 'LINE released': 95, 'SCRAP scrapped': 3, 'CAGE quarantined': 2 })
    order = await act(order, 'startStep')
    expect((await refusal(confirm(order, 90)))?.facts).toMatchObject({ together: 90, there: 95 })
    order = await act(await confirm(order, 94, 1), 'finishOrder')
    expect(order).toMatchObject({ state: 'finished', next: null })
    expect(standing(order)).toEqual({ 'STORE released': 94, 'SCRAP scrapped': 4, 'CAGE quarantined': 2 })
    const passport = await (await plant.as('auditor')).call(trace.getPassport, { params: { id: order.lotId ?? '' } })
    expect(passport.lot).toMatchObject({ originKind: 'orderReleased', originCode: order.code, supplierName: '' })
    expect(passport.events[0]?.detail).toBe(`made with ${order.code}, order 88`)
  })

  it('of a part without a production step is refused', async () => {
    const bought = await goods.make(define.parts, {
      ...{ code: 'B-1', name: 'Bought', revision: 'A', unit: 'piece', tracking: 'lot', familyId: null },
      ...{ putAwayPlaceId: null, operationIds: [goods.receiving.id] },
    })
    const body = { partId: bought.id, quantity: 5, orderNumber: '', customerId: null }
    expect((await refusal((await operator()).call(run.createOrder, { body })))?.code).toBe('nothing_to_make')
  })

  it('two people act on at once goes one step, not two', async () => {
    const order = await released()
    const outcomes = await Promise.all([refusal(act(order, 'startStep')), refusal(act(order, 'startStep'))])
    expect(outcomes.filter((outcome) => outcome === null)).toHaveLength(1)
    expect(outcomes.find((outcome) => outcome !== null)?.code).toBe('stale_version')
  })
})

describe('a gate on a step', () => {
  it('of its start stops the confirmation until it is decided, with the check named', async () => {
    const point = await pointAt(steps.forge.id, 'start')
    let order = await act(await released(), 'startStep')
    const [check] = order.steps[0]?.checks ?? []
    expect(check).toMatchObject({ moment: 'start', isGate: true, state: 'toDo' })
    expect(await refusal(confirm(order, 100))).toMatchObject({
      code: 'gate_closed',
      facts: { inspectionId: check?.id, reasons: [expect.stringContaining('still to do')] },
    })
    const inspection = await inspect(plant, check?.id ?? '')
    expect((await refusal(confirm(order, 100)))?.facts['reasons']).toEqual([expect.stringContaining('waits for a decision')])
    await decideAll(plant, inspection)
    order = await confirm(await reload(order), 100)
    expect(standing(order)).toEqual({ 'LINE released': 100 })
    await retire(point)
  })

  it('of its end holds what was made and stops the next step; what is scrapped by the decision is missing from then on', async () => {
    const point = await pointAt(steps.forge.id, 'end', { frequency: { kind: 'everyArrival' }, advice: 'Draw the tool back.' })
    let order = await confirm(await act(await released(), 'startStep'), 100)
    expect(standing(order)).toEqual({ 'LINE onHold': 100 })
    expect(await refusal(act(order, 'startStep'))).toMatchObject({ code: 'gate_closed' })
    const inspection = await inspect(plant, order.next?.gates[0]?.id ?? '', 1)
    const manager = await plant.as('qualityManager')
    const body = { containerId: null, reason: 'soft' }
    await manager.call(contain.decide, {
      params: { id: inspection.id },
      body: {
        version: inspection.version,
        password: 'a-test-password',
        rows: [
          { ...body, quantity: 40, disposition: 'concession' },
          { ...body, quantity: 60, disposition: 'scrap' },
        ],
      },
    })
    order = await reload(order)
    expect(order.next).toMatchObject({ act: 'start', quantity: 40, gates: [] })
    // Whoever stands at the step sees what was decided, and what the control point advises.
    const decided = [
      { disposition: 'concession', quantity: 40 },
      { disposition: 'scrap', quantity: 60 },
    ]
    expect(order.steps[0]?.checks[0]).toMatchObject({ state: 'decided', verdict: 'notAcceptable', advice: 'Draw the tool back.', decided })
    const [row] = (await manager.call(run.listOrders, { query: { q: order.code } })).rows
    expect(row).toMatchObject({ failedChecks: 1, openChecks: 0, stepName: 'PROVE' })
    await retire(point)
  })
})

describe('a component', () => {
  it('is used by an order when it is released, and kept on hold it is refused', async () => {
    const bar = (await receive(plant, goods, { quantity: 50 })).lots[0]
    const order = await released()
    const issue = async (quantity: number, from = order) =>
      (await operator()).call(run.issueComponent, {
        params: { id: order.id },
        body: { version: from.version, lotId: bar?.id ?? '', containerId: null, placeId: goods.places.dock.id, quantity },
      })
    const after = await issue(20)
    expect(after.components).toMatchObject([{ lotCode: bar?.code, quantity: 20 }])
    expect((await refusal(issue(31, after)))?.code).toBe('movement_exceeds_balance')
    const point = await goods.point(planId)
    const held = (await receive(plant, goods, { quantity: 50 })).lots[0]
    const body = { version: after.version, lotId: held?.id ?? '', containerId: null, placeId: goods.places.bay.id, quantity: 5 }
    expect((await refusal((await operator()).call(run.issueComponent, { params: { id: order.id }, body })))?.code).toBe('movement_exceeds_balance')
    await retire(point)
  })
})

describe('a dispatch', () => {
  const pick = async (order: ProductionOrder, quantity: number, placeId = goods.places.store.id) =>
    (await operator()).call(run.pickDispatch, {
      body: { customerId: customer.id, orderNumber: '501', picks: [{ lotId: order.lotId ?? '', containerId: null, placeId, quantity }] },
    })
  const send = async ({ id, version }: { id: string; version: number }) =>
    (await operator()).call(run.sendDispatch, { params: { id }, body: { version } })

  it('takes released pieces from a store and nothing else, is stopped by its gate, and leaves once that is decided', async () => {
    const point = await pointAt(steps.ship.id, 'beforeDispatch', { customerId: customer.id })
    const order = await finished()
    expect((await refusal(pick(order, 101)))?.code).toBe('movement_exceeds_balance')
    expect((await refusal(pick(order, 10, goods.places.cage.id)))?.code).toBe('reference_unknown')
    const dispatch = await pick(order, 60)
    expect(dispatch).toMatchObject({ state: 'picked', picks: [{ quantity: 60, returned: 0 }], gates: [expect.stringContaining('still to do')] })
    // What stays in the store is not touched by the gate at the door.
    expect(standing(await reload(order))).toEqual({ 'STORE released': 40, 'DOOR onHold': 60 })
    expect((await refusal(send(dispatch)))?.code).toBe('gate_closed')
    await decideAll(plant, await inspect(plant, dispatch.checks[0]?.id ?? ''))
    const sent = await send(dispatch)
    expect(sent).toMatchObject({ state: 'sent', gates: [] })
    expect(standing(await reload(order))).toEqual({ 'STORE released': 40, 'OUT shipped': 60 })
    expect((await refusal(send(sent)))?.code).toBe('already_sent')
    await retire(point)
    const note = await fetch(`${plant.base}/api/v1/dispatches/${dispatch.id}/note.pdf`, { headers: { cookie: (await operator()).cookies } })
    expect([note.headers.get('content-type'), (await note.text()).slice(0, 5)]).toEqual(['application/pdf', '%PDF-'])
  })

  it('that is cancelled gives its pieces back', async () => {
    const order = await finished()
    const { id, version } = await pick(order, 60)
    await (await operator()).call(run.cancelDispatch, { params: { id }, body: { version } })
    expect(standing(await reload(order))).toEqual({ 'STORE released': 100 })
  })

  it('comes back in part: it is held whatever is asked, inspected where that is asked, and no more comes back than left', async () => {
    const point = await pointAt(steps.back.id, 'arrival', { frequency: { kind: 'everyArrival' } })
    const order = await finished()
    const dispatch = await pick(order, 60)
    const [first] = dispatch.picks
    const back = async (quantity: number) =>
      (await operator()).call(run.receiveReturn, { params: { id: dispatch.id }, body: { pickId: first?.id ?? '', quantity, reason: 'gate sticks' } })
    expect((await refusal(back(5)))?.code).toBe('not_sent')
    await send(dispatch)
    const after = await back(5)
    expect(after).toMatchObject({ returns: [{ quantity: 5, reason: 'gate sticks' }], picks: [{ returned: 5 }], checks: [{ moment: 'arrival' }] })
    expect(standing(await reload(order))).toEqual({ 'STORE released': 40, 'OUT shipped': 55, 'BAY onHold': 5 })
    expect((await refusal(back(56)))?.code).toBe('movement_exceeds_balance')
    await decideAll(plant, await inspect(plant, after.checks[0]?.id ?? '', 1), 'scrap')
    expect(standing(await reload(order))).toMatchObject({ 'SCRAP scrapped': 5 })
    await retire(point)
  })

  it('that came back and was freed can be put away again', async () => {
    const point = await pointAt(steps.back.id, 'arrival')
    const order = await finished()
    const sent = await send(await pick(order, 60))
    const body = { pickId: sent.picks[0]?.id ?? '', quantity: 5, reason: 'wrong colour' }
    const after = await (await operator()).call(run.receiveReturn, { params: { id: sent.id }, body })
    expect(after.picks[0]?.backAndFree).toEqual([])
    await decideAll(plant, await inspect(plant, after.checks[0]?.id ?? ''))
    const [spot] = (await (await operator()).call(run.getDispatch, { params: { id: sent.id } })).picks[0]?.backAndFree ?? []
    expect(spot).toMatchObject({ placeName: 'BAY', quantity: 5 })
    const to = { containerId: null, fromPlaceId: spot?.placeId ?? '', quantity: 5, toPlaceId: goods.places.store.id }
    await (await plant.as('receivingClerk')).call(run.putAway, { params: { id: order.lotId ?? '' }, body: to })
    expect(standing(await reload(order))).toEqual({ 'STORE released': 45, 'OUT shipped': 55 })
    await retire(point)
  })

  it('that nobody is to inspect waits for a decision all the same: it is taken to no store, by whatever name', async () => {
    const order = await finished()
    const sent = await send(await pick(order, 60))
    const back = { pickId: sent.picks[0]?.id ?? '', quantity: 5, reason: 'sent too many' }
    await (await operator()).call(run.receiveReturn, { params: { id: sent.id }, body: back })
    const { balances } = await reload(order)
    const { placeId = '', sublot = '' } = balances.find(({ standing: other }) => other === 'onHold') ?? {}
    const clerk = await plant.as('receivingClerk')
    const held = { containerId: null, fromPlaceId: placeId, sublot, standing: 'onHold' as const, quantity: 5, toPlaceId: goods.places.store.id }
    const lotId = order.lotId ?? ''
    const refused = [
      await refusal(clerk.call(run.putAway, { params: { id: lotId }, body: held })),
      await refusal(clerk.call(run.transfer, { body: { ...held, lotId, ruleId: null } })),
    ]
    expect(refused.map((refusal) => refusal?.code)).toEqual(['gate_closed', 'gate_closed'])
    expect(refused.map((refusal) => refusal?.message)).toEqual(Array(2).fill(expect.stringContaining('What is on hold of')))
  })

  it('lies with customers where the plant has a place for them; what was sent before there was one comes back all the same', async () => {
    const [early, late] = [await finished(), await finished()]
    const sentEarly = await send(await pick(early, 60))
    const customers = await goods.make(define.places, { code: 'CUST', name: 'With customers', purpose: 'customer', countsForPlanning: false })
    const sentLate = await send(await pick(late, 60))
    expect(standing(await reload(late))).toEqual({ 'STORE released': 40, 'With customers shipped': 60 })
    for (const [order, sent] of [
      [early, sentEarly],
      [late, sentLate],
    ] as const) {
      const body = { pickId: sent.picks[0]?.id ?? '', quantity: 5, reason: 'wrong colour' }
      await (await operator()).call(run.receiveReturn, { params: { id: sent.id }, body })
      expect(standing(await reload(order))).toMatchObject({ 'BAY onHold': 5 })
    }
    expect(standing(await reload(early))).toMatchObject({ 'OUT shipped': 55 })
    // Nobody moves what customers have.
    const held = { lotId: late.lotId ?? '', containerId: null, fromPlaceId: customers.id, quantity: 5, toPlaceId: goods.places.bay.id }
    const move = (await operator()).call(run.transfer, { body: { ...held, standing: 'shipped', ruleId: null } as never })
    expect((await refusal(move))?.code).not.toBeNull()
  })
})

describe('the stock', () => {
  it('says what is where, by standing, and points out lots that are easily mistaken', async () => {
    const list = async (query: object) => (await (await operator()).call(run.listStock, { query })).rows
    const order = await finished(30)
    expect(await list({ q: order.lotCode })).toMatchObject([{ lotCode: order.lotCode, placeName: 'STORE', standing: 'released', quantity: 30 }])
    expect(await list({ q: order.lotCode, standing: 'onHold' })).toEqual([])
    const clerk = await plant.as('receivingClerk')
    const [one, other] = (
      await clerk.call(run.receiveDelivery, {
        body: {
          supplierId: goods.supplier.id,
          orderNumber: '9',
          lines: ['A-7714', 'B-9714'].map((supplierLot) => ({ partId: goods.part.id, supplierLot, quantity: 5, containers: [] })),
        },
      })
    ).lots
    expect((await list({ q: one?.code })).map(({ looksLike }) => looksLike)).toEqual([other?.code])
  })
})

describe('what is due', () => {
  it('is found by its day, and carries who is responsible', async () => {
    const point = await goods.point(planId, { responsible: 'Lab', dueHours: 4 })
    await receive(plant, goods)
    const inspector = await plant.as('inspector')
    const late = async () => (await inspector.call(record.listInspections, { query: { state: 'open', due: 'late' } })).rows
    plant.clock.time += 3 * 3_600_000
    expect(await late()).toEqual([])
    plant.clock.time += 2 * 3_600_000
    expect(await late()).toMatchObject([{ responsible: 'Lab', operationName: 'Receiving' }])
    await retire(point)
  })
})
