import { endpoints, type Dispatch, type Passport, type ProductionOrder } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { schema } from '../app/areas'
import { verifyPlant } from '../kernel/verify/verifyPlant'
import { verifyLedger } from '../stock/ledger/ledgerRepository'
import { decideAll, inspect, password, receive, refusal, startPlant, stock, type Plant, type Stock } from '../testing/plant'

const { define, run, contain, record, trace } = endpoints
let plant: Plant
let goods: Stock
let made: { id: string }
let customerId = ''
let planId = ''
let moving: { id: string }
let steps: { forge: { id: string }; prove: { id: string }; ship: { id: string }; back: { id: string } }
let line = ''
let door = ''

beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  const { make } = goods
  const place = async (code: string, purpose: string) => (await make(define.places, { code, name: code, purpose, countsForPlanning: false })).id
  line = await place('LINE', 'production')
  door = await place('DOOR', 'shipping')
  customerId = (await make(define.partners, { code: 'CUS', name: 'Customer', kind: 'customer', isActive: true })).id
  const step = (code: string, kind: string) => make(define.operations, { code, name: code, kind })
  steps = {
    forge: await step('FORGE', 'production'),
    prove: await step('PROVE', 'production'),
    ship: await step('SHIP', 'shipping'),
    back: await step('BACK', 'return'),
  }
  moving = await step('MOVE', 'transfer')
  made = await make(define.parts, {
    code: 'M-1',
    name: 'Made part',
    revision: 'A',
    unit: 'piece',
    tracking: 'lot',
    familyId: null,
    putAwayPlaceId: goods.places.store.id,
    operationIds: [steps.forge.id, steps.prove.id, moving.id, steps.ship.id, steps.back.id],
  })
  planId = (await goods.plan('PL-ID', [{ characteristicId: goods.judged.id }])).id
})
afterAll(async () => {
  expect(await verifyLedger(plant.kernel.database.writer.connection)).toEqual([])
  expect((await verifyPlant(plant.kernel.database.address, schema)).breaks).toEqual([])
  await plant.stop()
})

const clerk = () => plant.as('receivingClerk')
const operator = () => plant.as('productionOperator')
const manager = () => plant.as('qualityManager')
const at = (operationId: string, moment: string, change: object = {}) => ({
  planId,
  change: { operationId, moment, partId: made.id, holdPlaceId: null, ...change },
})
async function act(order: ProductionOrder, verb: 'releaseOrder' | 'startStep' | 'finishOrder'): Promise<ProductionOrder> {
  return (await operator()).call(run[verb], { params: { id: order.id }, body: { version: order.version } })
}
async function confirm(order: ProductionOrder, good: number, scrapped = 0, setAside = 0): Promise<ProductionOrder> {
  return (await operator()).call(run.confirmStep, { params: { id: order.id }, body: { version: order.version, good, scrapped, setAside } })
}
async function released(quantity: number): Promise<ProductionOrder> {
  const body = { partId: made.id, quantity, orderNumber: '88', customerId: null }
  return act(await (await operator()).call(run.createOrder, { body }), 'releaseOrder')
}
async function stored(quantity: number): Promise<{ id: string; code: string }> {
  let order = await released(quantity)
  for (let i = 0; i < 2; i++) order = await confirm(await act(order, 'startStep'), quantity)
  const { lotId, lotCode } = await act(order, 'finishOrder')
  return { id: lotId ?? '', code: lotCode ?? '' }
}
const passport = async (id: string): Promise<Passport> => (await plant.as('auditor')).call(trace.getPassport, { params: { id } })
const lying = async (id: string) =>
  (await passport(id)).balances.map(({ quantity, standing, placeName }) => `${quantity} ${standing} ${placeName}`).sort()
const pick = async (lotId: string, quantity: number): Promise<Dispatch> =>
  (await clerk()).call(run.pickDispatch, {
    body: { customerId, orderNumber: '9', picks: [{ lotId, containerId: null, placeId: goods.places.store.id, quantity }] },
  })
const send = async ({ id }: Dispatch): Promise<Dispatch> => {
  const { version } = await dispatchNow(id)
  return (await clerk()).call(run.sendDispatch, { params: { id }, body: { version } })
}
const dispatchNow = async (id: string): Promise<Dispatch> => (await clerk()).call(run.getDispatch, { params: { id } })
const takeBack = async (dispatch: Dispatch, quantity: number): Promise<Dispatch> =>
  (await clerk()).call(run.receiveReturn, {
    params: { id: dispatch.id },
    body: { pickId: dispatch.picks[0]?.id ?? '', quantity, reason: 'does not fit' },
  })
const moveTo = async (lotId: string, quantity: number, fromPlaceId: string, toPlaceId: string) =>
  (await clerk()).call(run.transfer, { body: { lotId, containerId: null, fromPlaceId, standing: 'released', quantity, toPlaceId } })
const decideOn = async (id: string, rows: { quantity: number; disposition: 'release' | 'scrap' | 'quarantine' | 'concession' }[]) => {
  const { version, lotId } = await (await manager()).call(record.getInspection, { params: { id } })
  const said = rows.map((row) => ({ ...row, containerId: null, reason: 'said in a test' }))
  return (await manager()).call(contain.decide, { params: { id }, body: { version, password, lotId, rows: said } })
}
const checkOf = (dispatch: Dispatch, n = 0) => dispatch.checks[n]?.id ?? ''

describe('a return', () => {
  it('is decided by itself: what it scraps are the pieces that came back, and what was picked meanwhile is not its own', async () => {
    const lot = await stored(20)
    await goods.under([at(steps.back.id, 'arrival', { isGate: true })], async () => {
      const first = await send(await pick(lot.id, 10))
      const back = await takeBack(first, 4)
      const second = await pick(lot.id, 6)
      const failed = await inspect(plant, checkOf(back), 1)
      expect(failed.held).toEqual([{ containerId: null, containerLabel: null, quantity: 4 }])
      expect((await refusal(decideOn(failed.id, [{ quantity: 10, disposition: 'scrap' }])))?.code).toBe('split_does_not_add_up')
      await decideOn(failed.id, [{ quantity: 4, disposition: 'scrap' }])
      expect(await lying(lot.id)).toEqual(['4 released STORE', '4 scrapped SCRAP', '6 released DOOR', '6 shipped OUT'])
      expect((await send(second)).state).toBe('sent')
    })
  })

  it('brings back no more than left with what was picked, however often', async () => {
    const lot = await stored(20)
    const first = await send(await pick(lot.id, 5))
    await send(await pick(lot.id, 10))
    expect((await refusal(takeBack(first, 8)))?.code).toBe('movement_exceeds_balance')
    await takeBack(first, 3)
    expect((await refusal(takeBack(first, 3)))?.code).toBe('movement_exceeds_balance')
    const back = await takeBack(first, 2)
    expect(back.picks[0]).toMatchObject({ quantity: 5, leaving: 5, returned: 5 })
  })

  it('without a check is decided on all the same, as are pieces in any standing', async () => {
    const lot = await stored(9)
    await takeBack(await send(await pick(lot.id, 9)), 4)
    const [held] = (await passport(lot.id)).balances.filter(({ standing }) => standing === 'onHold')
    const row = { ...held, containerId: null, placeId: held?.placeId ?? '', sublot: held?.sublot ?? '', standing: 'onHold' as const }
    const { containerId, placeId, sublot, standing } = row
    const rows = [{ containerId, placeId, sublot, standing, quantity: 4, disposition: 'release' as const, reason: 'nothing wrong with them' }]
    await (await manager()).call(contain.decideAgain, { params: { id: lot.id }, body: { followsId: null, password, rows } })
    expect(await lying(lot.id)).toEqual(['4 released BAY', '5 shipped OUT'])
    // A second first one is a decision that came in between.
    const again = (await manager()).call(contain.decideAgain, { params: { id: lot.id }, body: { followsId: null, password, rows } })
    expect((await refusal(again))?.code).toBe('decision_superseded')
  })
})

describe('two dispatches of one lot', () => {
  it('each wait for their own pieces, and leave with them alone', async () => {
    const lot = await stored(30)
    await goods.under([at(steps.ship.id, 'beforeDispatch', { isGate: true })], async () => {
      const [first, second] = [await pick(lot.id, 10), await pick(lot.id, 12)]
      const failed = await inspect(plant, checkOf(first), 1)
      expect(failed.held).toMatchObject([{ quantity: 10 }])
      await decideOn(failed.id, [{ quantity: 10, disposition: 'scrap' }])
      // What the first one lost, it does not take from the second.
      expect(await refusal(send(first))).toMatchObject({ code: 'nothing_there' })
      await decideAll(plant, await inspect(plant, checkOf(second)))
      expect((await send(second)).picks[0]).toMatchObject({ leaving: 12 })
      expect(await lying(lot.id)).toEqual(['10 scrapped SCRAP', '12 shipped OUT', '8 released STORE'])
    })
  })

  it('leave with what a decision left of them, and what was taken out stays behind', async () => {
    const lot = await stored(10)
    await goods.under([at(steps.ship.id, 'beforeDispatch', { isGate: true })], async () => {
      const dispatch = await pick(lot.id, 10)
      const failed = await inspect(plant, checkOf(dispatch), 1)
      await decideOn(failed.id, [
        { quantity: 3, disposition: 'scrap' },
        { quantity: 7, disposition: 'concession' },
      ])
      expect((await dispatchNow(dispatch.id)).picks[0]).toMatchObject({ quantity: 10, leaving: 7, onHold: 0 })
      expect((await send(dispatch)).picks[0]).toMatchObject({ quantity: 10, leaving: 7 })
    })
  })

  it('put back what is still free of their own when one is cancelled, told apart no longer', async () => {
    const lot = await stored(20)
    const [first] = [await pick(lot.id, 8), await pick(lot.id, 6)]
    const { version } = await dispatchNow(first?.id ?? '')
    await (await clerk()).call(run.cancelDispatch, { params: { id: first?.id ?? '' }, body: { version } })
    expect((await passport(lot.id)).balances.map(({ quantity, sublot }) => [quantity, sublot === ''])).toEqual([
      [14, true],
      [6, false],
    ])
  })

  it('do not leave while pieces of theirs are on hold, gate or not', async () => {
    const lot = await stored(10)
    await goods.under([at(steps.ship.id, 'beforeDispatch', { isGate: false, onFailure: 'hold' })], async () => {
      const [first, second] = [await pick(lot.id, 4), await pick(lot.id, 5)]
      await inspect(plant, checkOf(first), 1)
      expect(await refusal(send(first))).toMatchObject({ code: 'gate_closed', message: expect.stringContaining('4 of its pieces are on hold') })
      expect((await send(second)).state).toBe('sent')
    })
  })
})

describe('pieces of an order that is being made', () => {
  it('are put away, picked, issued and finished from the line alone, and only by their order', async () => {
    let order = await confirm(await act(await released(50), 'startStep'), 50)
    const lotId = order.lotId ?? ''
    const away = { containerId: null, fromPlaceId: line, quantity: 10, toPlaceId: goods.places.store.id }
    expect(await refusal((await clerk()).call(run.putAway, { params: { id: lotId }, body: away }))).toMatchObject({
      code: 'place_not_for',
      message: expect.stringContaining('being made'),
    })
    expect((await refusal(moveTo(lotId, 10, line, goods.places.dock.id)))?.code).toBe('place_not_for')
    // Another order cannot take them from the line either.
    const other = await released(5)
    const issue = (placeId: string, from: string) => ({
      params: { id: other.id },
      body: { version: other.version, lotId: from, containerId: null, placeId, quantity: 5 },
    })
    expect((await refusal((await operator()).call(run.issueComponent, issue(line, lotId))))?.code).toBe('place_not_for')
    order = await act(await confirm(await act(order, 'startStep'), 45, 2, 3), 'finishOrder')
    expect(await lying(lotId)).toEqual(['2 scrapped SCRAP', '3 quarantined CAGE', '45 released STORE'])
    const waiting = await pick(lotId, 5)
    expect((await refusal((await operator()).call(run.issueComponent, issue(door, lotId))))?.code).toBe('place_not_for')
    expect((await dispatchNow(waiting.id)).picks[0]?.leaving).toBe(5)
  })

  it('leave the cage and the door where they are when the order is finished', async () => {
    const order = await confirm(await act(await released(20), 'startStep'), 15, 0, 5)
    const [aside] = (await passport(order.lotId ?? '')).balances.filter(({ standing }) => standing === 'quarantined')
    const rows = [
      {
        containerId: null,
        placeId: aside?.placeId ?? '',
        sublot: aside?.sublot ?? '',
        standing: 'quarantined' as const,
        quantity: 5,
        disposition: 'release' as const,
        reason: 'looked at again',
      },
    ]
    await (await manager()).call(contain.decideAgain, { params: { id: order.lotId ?? '' }, body: { followsId: null, password, rows } })
    const next = await (await operator()).call(run.getOrder, { params: { id: order.id } })
    expect(next.next).toMatchObject({ act: 'start', quantity: 15 })
    await act(await confirm(await act(next, 'startStep'), 15), 'finishOrder')
    expect(await lying(order.lotId ?? '')).toEqual(['15 released STORE', '5 released CAGE'])
  })

  it('go into no lot that they are made from', async () => {
    const component = await stored(10)
    const order = await released(10)
    const issued = await (
      await operator()
    ).call(run.issueComponent, {
      params: { id: order.id },
      body: { version: order.version, lotId: component.id, containerId: null, placeId: goods.places.store.id, quantity: 2 },
    })
    let first = issued
    for (let i = 0; i < 2; i++) first = await confirm(await act(first, 'startStep'), 10)
    await act(first, 'finishOrder')
    const { rows } = await (await operator()).call(run.listOrders, { query: { q: component.code } })
    const before = await (await operator()).call(run.getOrder, { params: { id: rows[0]?.id ?? '' } })
    expect(before.state).toBe('finished')
    // An order whose lot is in another one takes nothing of that.
    const open = await released(4)
    const into = await released(4)
    const give = async (to: ProductionOrder, lotId: string) => {
      const { version } = await (await operator()).call(run.getOrder, { params: { id: to.id } })
      const body = { version, lotId, containerId: null, placeId: goods.places.store.id, quantity: 1 }
      return (await operator()).call(run.issueComponent, { params: { id: to.id }, body })
    }
    await give(open, component.id)
    expect(await refusal(give(into, open.lotId ?? ''))).toMatchObject({ code: 'movement_exceeds_balance' })
  })
})

describe('an order', () => {
  it('that makes nothing is cancelled, and asks for nothing any more; one that has made pieces is finished, with 0 where none is left', async () => {
    await goods.under([at(steps.forge.id, 'start', { isGate: true })], async () => {
      const order = await act(await released(10), 'startStep')
      const off = { params: { id: order.id }, body: { version: order.version, reason: 'the customer withdrew it' } }
      const gone = await (await operator()).call(run.cancelOrder, off)
      expect(gone).toMatchObject({ state: 'cancelled', next: null })
      expect(gone.steps[0]?.checks.map(({ state }) => state)).toEqual(['cancelled'])
      expect((await refusal((await operator()).call(run.cancelOrder, { ...off, body: { ...off.body, version: gone.version } })))?.code).toBe(
        'order_not_so_far',
      )
    })
    const lost = await confirm(await act(await released(10), 'startStep'), 0, 10)
    const off = { params: { id: lost.id }, body: { version: lost.version, reason: 'all of it is scrap' } }
    expect((await refusal((await operator()).call(run.cancelOrder, off)))?.code).toBe('order_not_so_far')
    expect(lost.next).toMatchObject({ act: 'finish', quantity: 0 })
    expect((await act(lost, 'finishOrder')).state).toBe('finished')
  })
})

describe('a transfer with a gate', () => {
  it('holds, and looks at, the pieces that were moved, and not those that lay there', async () => {
    const lot = await stored(20)
    await moveTo(lot.id, 5, goods.places.store.id, goods.places.dock.id)
    await goods.under([at(moving.id, 'arrival', { isGate: true })], async () => {
      const { opened } = await moveTo(lot.id, 5, goods.places.store.id, goods.places.dock.id)
      const inspection = await (await clerk()).call(record.getInspection, { params: { id: opened[0]?.id ?? '' } })
      expect(inspection).toMatchObject({ lotSize: 5, held: [{ quantity: 5 }] })
      expect(await lying(lot.id)).toEqual(['10 released STORE', '5 onHold DOCK', '5 released DOCK'])
      // Those that lay there go on; these wait.
      const away = { containerId: null, fromPlaceId: goods.places.dock.id, toPlaceId: goods.places.store.id }
      const put = async (quantity: number) => (await clerk()).call(run.putAway, { params: { id: lot.id }, body: { ...away, quantity } })
      await put(5)
      expect((await refusal(put(1)))?.code).toBe('movement_exceeds_balance')
      await decideAll(plant, await inspect(plant, inspection.id))
    })
    // What is decided is told apart no longer, once it lies with the others.
    await moveTo(lot.id, 5, goods.places.dock.id, goods.places.store.id)
    expect((await passport(lot.id)).balances).toMatchObject([{ quantity: 20, sublot: '' }])
  })

  it('stay told apart in a store while something is still open of them, so that a failure finds them', async () => {
    const lot = await stored(20)
    await goods.under([at(moving.id, 'arrival', { isGate: false, onFailure: 'hold' })], async () => {
      const { opened } = await moveTo(lot.id, 5, goods.places.store.id, goods.places.dock.id)
      await moveTo(lot.id, 5, goods.places.dock.id, goods.places.store.id)
      const dispatch = await pick(lot.id, 15)
      await inspect(plant, opened[0]?.id ?? '', 1)
      // The oldest lie in front: they were picked, and the five that failed are held in the store.
      expect(await lying(lot.id)).toEqual(['15 released DOOR', '5 onHold STORE'])
      expect((await send(dispatch)).state).toBe('sent')
    })
  })
})

describe('what was looked at piece by piece', () => {
  it('is released, but for what was found: a concession is for what does not conform', async () => {
    const all = await stock(await startPlantOfItsOwn(), { kind: 'everyPiece', accept: 0 })
    await all.point((await all.plan('PL-ALL', [{ characteristicId: all.judged.id }])).id)
    const own = sorting
    const delivery = await receive(own, all, { quantity: 10 })
    const failed = await inspect(own, delivery.lots[0]?.inspections[0]?.id ?? '', 2)
    expect(failed).toMatchObject({ sorted: 2, finding: { verdict: 'notAcceptable' } })
    const by = await own.as('qualityManager')
    const decideSo = (release: number) =>
      by.call(contain.decide, {
        params: { id: failed.id },
        body: {
          version: failed.version,
          password,
          lotId: failed.lotId,
          rows: [
            { containerId: null, quantity: release, disposition: 'release', reason: '' },
            { containerId: null, quantity: 10 - release, disposition: 'scrap', reason: 'found nonconforming' },
          ],
        },
      })
    expect((await refusal(decideSo(9)))?.code).toBe('set_aside')
    await decideSo(8)
    const { balances, movements } = await (await own.as('auditor')).call(trace.getPassport, { params: { id: failed.lotId ?? '' } })
    expect(balances.map(({ quantity, standing }) => `${quantity} ${standing}`).sort()).toEqual(['2 scrapped', '8 released'])
    expect(movements.map(({ kind }) => kind)).not.toContain('concession')
    await own.stop()
  })
})

let sorting: Plant
async function startPlantOfItsOwn(): Promise<Plant> {
  sorting = await startPlant()
  return sorting
}
