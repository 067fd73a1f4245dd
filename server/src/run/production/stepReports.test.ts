import { endpoints, type ProductionOrder, type StepReportInput } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { schema } from '../../app/areas'
import { verifyPlant } from '../../kernel/verify/verifyPlant'
import { lookingAtTheClock } from './stepClock'
import { decideAll, inspect, reading, refusal, startPlant, stock, type Plant } from '../../testing/plant'

const { attach, define, record, run } = endpoints
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let steps: { mill: { id: string }; wash: { id: string } }
let part: { id: string }
const plans = new Map<string, string>()

beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  const { make } = goods
  await make(define.places, { code: 'LINE', name: 'LINE', purpose: 'production', countsForPlanning: false })
  const step = (code: string) => make(define.operations, { code, name: code, kind: 'production' })
  steps = { mill: await step('MILL'), wash: await step('WASH') }
  const milled = { code: 'M-1', name: 'Milled', revision: 'A', unit: 'piece', tracking: 'lot', familyId: null }
  part = await make(define.parts, { ...milled, putAwayPlaceId: goods.places.store.id, operationIds: [steps.mill.id, steps.wash.id] })
  plans.set('PL-M', (await goods.plan('PL-M', [{ characteristicId: goods.measured.id }])).id)
  for (const code of ['PL-A', 'PL-B']) plans.set(code, (await goods.plan(code, [{ characteristicId: goods.judged.id }])).id)
})
afterAll(async () => {
  expect((await verifyPlant(plant.kernel.database.address, schema)).breaks).toEqual([])
  await plant.stop()
})

const operator = () => plant.as('productionOperator')
async function under(points: readonly object[], work: () => Promise<void>): Promise<void> {
  const made: { id: string; version: number }[] = []
  for (const point of points)
    made.push(await goods.point(plans.get('PL-A') ?? '', { operationId: steps.mill.id, partId: part.id, holdPlaceId: null, isGate: false, ...point }))
  await work()
  for (const { id, version } of made) await goods.engineer.call(attach.retireControlPoint, { params: { id }, body: { version } })
}
async function running(quantity = 200): Promise<ProductionOrder> {
  const hand = await operator()
  let order = await hand.call(run.createOrder, { body: { partId: part.id, quantity, orderNumber: '', customerId: null } })
  for (const act of [run.releaseOrder, run.startStep]) order = await hand.call(act, { params: { id: order.id }, body: { version: order.version } })
  return order
}
const tell = async ({ id, version }: ProductionOrder, report: StepReportInput) =>
  (await operator()).call(run.reportStep, { params: { id }, body: { version, report } })
const pieces = (good: number, scrapped = 0, setAside = 0) => ({ kind: 'pieces', good, scrapped, setAside }) as const
const confirm = async ({ id, version }: ProductionOrder, good: number, scrapped = 0) =>
  (await operator()).call(run.confirmStep, { params: { id }, body: { version, good, scrapped, setAside: 0 } })
const reload = async ({ id }: ProductionOrder) => (await operator()).call(run.getOrder, { params: { id } })
const checks = (order: ProductionOrder, step = 0) =>
  (order.steps[step]?.checks ?? []).map(({ moment, after }) => `${moment}${after === null ? '' : ` ${after.pieces}`}`)
const standing = ({ balances }: ProductionOrder) => Object.fromEntries(balances.map((row) => [`${row.placeName} ${row.standing}`, row.quantity]))

describe('an interval that is rehearsed', () => {
  it('comes up as often as it will where pieces are told as they are made, and not at all in a lot that is smaller', async () => {
    await under([{ moment: 'everyPieces', every: 50 }], async () => {
      const rehearsed = async (quantity: number) => {
        const query = { operationId: steps.mill.id, partId: part.id, quantity, lots: 1 }
        const { lots } = await goods.engineer.call(attach.rehearse, { query })
        return lots[0]?.considered.map(({ opens, times }) => ({ opens, times }))
      }
      expect(await rehearsed(200)).toEqual([{ opens: true, times: 4 }])
      expect(await rehearsed(49)).toEqual([{ opens: false, times: 0 }])
      let order = await running(200)
      for (let i = 0; i < 4; i++) order = await tell(order, pieces(i < 3 ? 50 : 49))
      expect(checks(await confirm(order, 1))).toEqual(['everyPieces 50', 'everyPieces 100', 'everyPieces 150', 'everyPieces 200'])
    })
  })
})

describe('a running step', () => {
  it('takes pieces as they are made: they come to be at the first step, and what is lost leaves at once', async () => {
    let order = await tell(await running(), pieces(40, 2, 1))
    expect(standing(order)).toEqual({ 'LINE released': 40, 'SCRAP scrapped': 2, 'CAGE quarantined': 1 })
    expect(order.next).toMatchObject({ act: 'confirm', quantity: 157 })
    expect((await refusal(tell(order, pieces(158))))?.code).toBe('step_does_not_add_up')
    expect((await refusal(tell(order, pieces(0))))?.code).toBe('step_does_not_add_up')
    order = await confirm(await tell(order, pieces(100)), 50, 7)
    expect(order.steps[0]).toMatchObject({ state: 'confirmed', good: 190, scrapped: 9, setAside: 1 })
    order = await (await operator()).call(run.startStep, { params: { id: order.id }, body: { version: order.version } })
    order = await tell(order, pieces(60, 4))
    expect(order.next?.quantity).toBe(126)
    expect((await refusal(confirm(order, 125)))?.facts).toMatchObject({ together: 125, there: 126 })
    order = await confirm(order, 126)
    expect([order.steps[1]?.good, standing(order)['LINE released']]).toEqual([186, 186])
    expect(order.steps[1]?.reports).toMatchObject([{ kind: 'pieces', good: 60, scrapped: 4, done: 64 }])
  })

  it('asks every so many pieces, once for all since the last time, and with its confirmation for what was not told', async () => {
    await under([{ moment: 'everyPieces', every: 50 }, { moment: 'end' }], async () => {
      let order = await tell(await running(), pieces(30))
      expect(checks(order)).toEqual([])
      order = await tell(order, pieces(30))
      expect(checks(order)).toEqual(['everyPieces 60'])
      const inspector = await plant.as('inspector')
      const first = await inspector.call(endpoints.record.getInspection, { params: { id: order.steps[0]?.checks[0]?.id ?? '' }, query: {} })
      expect(first).toMatchObject({ lotSize: 50, lines: [{ sampleSize: 3 }] })
      order = await confirm(await tell(order, pieces(20)), 100)
      expect(checks(order)).toEqual(['everyPieces 60', 'everyPieces 180', 'end'])
    })
  })

  it('asks after a set-up change and at the last piece; what is not told of the last piece comes up with the confirmation', async () => {
    await under([{ moment: 'setUp' }, { moment: 'lastPiece', planId: plans.get('PL-B') }], async () => {
      let order = await tell(await running(), { kind: 'setUp', note: 'new cutter' })
      expect([checks(order), order.steps[0]?.reports[0]?.note]).toEqual([['setUp 0'], 'new cutter'])
      order = await tell(await tell(order, pieces(199)), { kind: 'lastPiece' })
      order = await confirm(order, 1)
      expect(checks(order)).toEqual(['setUp 0', 'lastPiece 199'])
      expect(checks(await confirm(await running(10), 10))).toEqual(['lastPiece 10'])
    })
  })

  it('goes on neither with pieces nor with its confirmation while a gate of it stands; a pause and a set-up change are taken', async () => {
    await under([{ moment: 'everyPieces', every: 50, isGate: true }], async () => {
      let order = await tell(await running(), pieces(60))
      expect(standing(order)).toEqual({ 'LINE onHold': 60 })
      expect((await refusal(tell(order, pieces(1))))?.code).toBe('gate_closed')
      expect((await refusal(confirm(order, 140)))?.code).toBe('gate_closed')
      order = await tell(await tell(await tell(order, { kind: 'setUp', note: 'looked at it' }), { kind: 'paused', note: 'gate' }), {
        kind: 'resumed',
      })
      await decideAll(plant, await inspect(plant, order.next?.gates[0]?.id ?? ''), 'release')
      order = await tell(await reload(order), pieces(30))
      expect(standing(order)).toEqual({ 'LINE released': 90 })
      order = await tell(order, pieces(20))
      // Scrapped by the decision: the step goes on with what is left.
      await decideAll(plant, await inspect(plant, order.next?.gates[0]?.id ?? '', 1), 'scrap')
      order = await confirm(await reload(order), 90)
      expect(standing(order)).toMatchObject({ 'SCRAP scrapped': 110 })
    })
  })

  it('stands still while it is paused, and is paused or resumed once', async () => {
    const order = await tell(await running(), { kind: 'paused', note: 'shift change' })
    expect(order.steps[0]?.isPaused).toBe(true)
    expect((await refusal(tell(order, pieces(1))))?.code).toBe('step_paused')
    expect((await refusal(tell(order, { kind: 'paused', note: 'again' })))?.code).toBe('step_paused')
    expect((await refusal(confirm(order, 200)))?.code).toBe('step_paused')
    const again = await tell(order, { kind: 'resumed' })
    expect((await refusal(tell(again, { kind: 'resumed' })))?.code).toBe('step_not_paused')
    expect((await refusal(tell(await confirm(again, 200), pieces(1))))?.code).toBe('order_not_so_far')
  })

  it('asks by the clock though nobody tells anything; a pause stops it, and what comes up is kept with who started the step', async () => {
    await under([{ moment: 'everyMinutes', every: 30 }], async () => {
      await plant.later('2027-08-02T06:00:00Z')
      let order = await running()
      const passed = async (time: string) => {
        await plant.later(`2027-08-02T${time}:00Z`)
        await lookingAtTheClock().run(plant.kernel.work, plant.clock.now(), plant.kernel)
        order = await reload(order)
        return checks(order).length
      }
      expect([await passed('06:20'), await passed('06:31'), await passed('06:45')]).toEqual([0, 1, 1])
      order = await tell(order, { kind: 'paused', note: 'lunch' })
      expect(await passed('07:45')).toBe(1)
      order = await tell(order, { kind: 'resumed' })
      expect([await passed('07:55'), await passed('08:01'), await passed('08:31')]).toEqual([1, 2, 3])
      expect(order.steps[0]?.checks.map(({ after }) => after?.minutes)).toEqual([30, 60, 90])
      expect(order.steps[0]?.reports.filter(({ kind }) => kind === 'timed').map(({ byName }) => byName)).not.toContain('')
    })
  })
})

it('an interval is named where a moment has one, and nowhere else', async () => {
  const point = (change: object) =>
    goods.point(plans.get('PL-A') ?? '', { operationId: steps.mill.id, partId: part.id, holdPlaceId: null, ...change })
  expect((await refusal(point({ moment: 'everyPieces' })))?.code).toBe('interval_missing')
  expect((await refusal(point({ moment: 'start', every: 5 })))?.code).toBe('interval_missing')
  expect((await refusal(point({ moment: 'everyPieces', every: 0 })))?.code).toBe('input_invalid')
})

describe('what a step asks of its operator', () => {
  const recorded = async (who: 'productionOperator' | 'receivingClerk', id: string, value = '0.30') => {
    const hand = await plant.as(who)
    const { lines } = await hand.call(record.getInspection, { params: { id } })
    const readings = lines.flatMap((line) => Array.from({ length: line.sampleSize }, (_, at) => reading(line.id, at + 1, value)))
    const { version } = await hand.call(record.recordReadings, { params: { id }, body: { readings } })
    return hand.call(record.finishInspection, { params: { id }, body: { version } })
  }
  const askedNow = async (order: ProductionOrder) => (await reload(order)).steps[0]?.checks[0]

  it('is measured by the operator, where the control point says so, and lets the step go on', async () => {
    await under([{ planId: plans.get('PL-M'), moment: 'start', isGate: true, answeredAt: 'spot', whenConforming: 'free' }], async () => {
      const order = await running()
      const check = await askedNow(order)
      expect(check).toMatchObject({ answeredAt: 'spot', state: 'toDo' })
      const id = check?.id ?? ''
      expect((await (await operator()).call(record.getInspection, { params: { id } })).spotAnswerer).toBe('productionOperator')
      // It is no quick question, and nobody's who receives goods.
      const { version, lines } = await (await operator()).call(record.getInspection, { params: { id } })
      const answers = lines.map((line) => ({ lineId: line.id, isConforming: true }))
      expect((await refusal((await operator()).call(record.answerOnSpot, { params: { id }, body: { version, answers } })))?.code).toBe('not_on_spot')
      expect(await refusal(recorded('receivingClerk', id))).toMatchObject({
        code: 'role_missing',
        facts: { needed: ['inspector', 'qualityEngineer', 'productionOperator'] },
      })
      expect(await recorded('productionOperator', id)).toMatchObject({ state: 'decided', finishedByName: 'productionOperator' })
      expect((await reload(order)).next?.gates).toEqual([])
    })
  })

  it('that is judged is answered in one go; what an inspector has taken is left to them', async () => {
    await under([{ moment: 'start', isGate: true, answeredAt: 'spot' }], async () => {
      const order = await running()
      const id = (await askedNow(order))?.id ?? ''
      await (await plant.as('inspector')).call(record.takeInspection, { params: { id }, body: {} })
      const { version, lines } = await (await operator()).call(record.getInspection, { params: { id } })
      const body = { version, answers: lines.map((line) => ({ lineId: line.id, isConforming: false })) }
      const answer = async () => (await operator()).call(record.answerOnSpot, { params: { id }, body })
      expect((await refusal(answer()))?.code).toBe('inspection_taken')
      await (await plant.as('inspector')).call(record.unassignInspection, { params: { id } })
      expect(await answer()).toMatchObject({ state: 'finished', finding: { verdict: 'notAcceptable' } })
    })
  })

  it('is asked of the bench alone where nothing else is said', async () => {
    await under([{ planId: plans.get('PL-M'), moment: 'start' }], async () => {
      const id = (await askedNow(await running()))?.id ?? ''
      expect(await refusal(recorded('productionOperator', id))).toMatchObject({
        code: 'role_missing',
        facts: { needed: ['inspector', 'qualityEngineer'] },
      })
    })
  })
})
