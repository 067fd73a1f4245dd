import { endpoints, type Gauge } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { burr, gap, planLine, reading, receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'
import { reportCsv } from '../../trace/reports/reportCsv'
import { loadInspection } from '../../inspections/inspections'

const { define, equip, record } = endpoints
let plant: Plant
let goods: Stock
/** A line that wants a feeler gauge by name, one that a plug gauge may be named for, one that names no kind. */
let kinds: { feeler: string; plug: string }
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  const kind = async (code: string, isAsked: boolean, isWaivable: boolean) =>
    (await goods.engineer.call(define.gaugeKinds.create, { body: { code, name: code, isAsked, isWaivable, isActive: true } })).id
  kinds = { feeler: await kind('Feeler', true, true), plug: await kind('Plug', false, false) }
  const characteristic = async (code: string, gaugeKind: string | null, fields: typeof gap | typeof burr) => {
    const made = await goods.engineer.call(define.createCharacteristic, { body: { code, ...fields, details: { gaugeKind } } as never })
    return goods.engineer.call(define.releaseCharacteristic, { params: { id: made.id }, body: { version: made.version } })
  }
  const ids = [
    (await characteristic('C-1', 'Feeler', gap)).id,
    (await characteristic('C-2', 'Feeler', { ...gap, lower: '0.29', upper: '0.31', nominal: '0.3' })).id,
    (await characteristic('C-3', 'Plug', burr)).id,
    (await characteristic('C-4', null, burr)).id,
  ]
  const plan = await goods.engineer.call(define.createPlan, {
    body: { code: 'PG', name: 'Gauged', lines: ids.map((id) => planLine(id, { sampling: { kind: 'fixedNumber', sampleSize: 2, accept: 0 } })) },
  })
  await goods.engineer.call(define.releasePlan, { params: { id: plan.id }, body: { version: plan.version } })
  await goods.point(plan.id)
})
afterAll(() => plant.stop())

let counter = 0
const feeler = { kindId: '', maker: 'North', serialNumber: '7', resolution: '0.01', unit: 'mm', lower: '0', upper: '5' }
async function gauge(change: object = {}): Promise<Gauge> {
  const body = { code: `F-${++counter}`, name: 'Feeler', ...feeler, kindId: kinds.feeler, calibratedOn: '2026-01-15', intervalMonths: 12, ...change }
  return goods.engineer.call(equip.createGauge, { body })
}
/** A delivery whose inspection is on the bench. */
async function bench() {
  const inspector = await plant.as('inspector')
  const id = (await receive(plant, goods)).lots[0]?.inspections[0]?.id ?? ''
  const params = { id }
  const load = () => inspector.call(record.getInspection, { params })
  const { lines } = await load()
  const line = (at: number) => lines[at]?.id ?? ''
  return {
    id,
    line,
    load,
    choose: (at: number, code: string, reason = '') => inspector.call(record.chooseGauge, { params, body: { lineId: line(at), code, reason } }),
    answer: (at: number, gaugeId: string | null, change: object = {}) =>
      inspector.call(record.recordReadings, {
        params,
        body: { readings: [reading(line(at), 1, at < 2 ? '0.30' : 'O', { gaugeId, ...change })] },
      }),
  }
}

describe('a line that wants a gauge by name', () => {
  it('takes no value before one is chosen for it, and keeps which one measured', async () => {
    const { code, id } = await gauge()
    const other = await gauge()
    const at = await bench()
    const { wantsGauge, lines } = await at.load()
    expect(wantsGauge).toEqual(lines.slice(0, 2).map((line) => line.id))
    expect(await refusal(at.answer(0, null))).toMatchObject({ code: 'gauge_missing', facts: { gaugeKind: 'Feeler', piece: 1 } })
    expect(await refusal(at.answer(0, id))).toMatchObject({ code: 'gauge_missing' })
    // As it is typed in a hurry.
    await at.choose(0, code.toLowerCase())
    expect(await refusal(at.answer(0, other.id))).toMatchObject({ code: 'gauge_missing' })
    await at.answer(0, id)
    expect((await at.load()).readings.map(({ gaugeCode }) => gaugeCode)).toEqual([code])
    const csv = [...reportCsv(await loadInspection(plant.kernel.database.reader, at.id))].join('').split('\r\n')
    expect([csv[0]?.endsWith(',gauge'), csv[1]?.endsWith(`,${code}`), csv[2]?.endsWith(',')]).toEqual([true, true, true])
    // The other lines name none, and are answered as ever.
    await at.answer(2, null)
    await at.answer(3, null)
  })

  it('gives it to the others of its kind that it fits, and leaves those that it is too coarse for', async () => {
    const coarse = await gauge()
    const fine = await gauge({ resolution: '0.001' })
    const at = await bench()
    const chosen = async () => (await at.load()).gauges.map(({ lineId, code }) => [lineId, code])
    await at.choose(0, coarse.code)
    expect(await chosen()).toEqual([[at.line(0), coarse.code]])
    // What was chosen for one line measures no other.
    expect(await refusal(at.answer(1, coarse.id))).toMatchObject({ code: 'gauge_missing' })
    await at.choose(1, fine.code)
    expect(await chosen()).toEqual([
      [at.line(0), coarse.code],
      [at.line(1), fine.code],
    ])
    const again = await bench()
    await again.choose(0, fine.code)
    expect((await again.load()).gauges.map(({ lineId }) => lineId).sort()).toEqual([again.line(0), again.line(1)].sort())
  })

  it('withdraws an answer and corrects it with another gauge; a withdrawn one stands with none', async () => {
    const [first, second] = [await gauge(), await gauge()]
    const at = await bench()
    await at.choose(0, first.code)
    await at.choose(0, second.code)
    const { readings } = await at.answer(0, first.id)
    const withdrawn = await at.answer(0, first.id, { value: null, corrects: readings[0]?.id })
    expect((await at.load()).readings.map(({ value, gaugeCode }) => [value, gaugeCode])).toEqual([[null, null]])
    await at.answer(0, second.id, { corrects: withdrawn.readings[0]?.id })
    expect((await at.load()).readings.map(({ gaugeCode, corrections }) => [gaugeCode, corrections])).toEqual([[second.code, 2]])
  })
})

describe('a gauge that something speaks against', () => {
  it('is refused with what speaks against it; with a reason where its kind can be waived, and both are kept', async () => {
    const { code, id } = await gauge({ calibratedOn: '2020-01-31', resolution: '0.02' })
    const at = await bench()
    expect(await refusal(at.choose(0, code))).toMatchObject({
      code: 'gauge_unfit',
      facts: {
        gauge: code,
        isWaivable: true,
        objections: [
          { kind: 'tooCoarse', resolution: '0.02' },
          { kind: 'overdue', dueOn: '2021-01-31' },
        ],
      },
    })
    expect(await refusal(at.choose(0, code, 'no'))).toMatchObject({ code: 'reason_missing' })
    const { gauges } = await at.choose(0, code, 'no other one is free')
    expect(gauges).toMatchObject([
      { lineId: at.line(0), code, reason: 'no other one is free', objections: [{ kind: 'tooCoarse' }, { kind: 'overdue' }] },
    ])
    await at.answer(0, id)
    const { rows } = await goods.engineer.call(equip.listGaugeUses, { query: { gaugeId: id } })
    expect(rows).toMatchObject([{ inspectionId: at.id, values: 1, reason: 'no other one is free', characteristic: 'Gate gap' }])
    expect((await goods.engineer.call(equip.listGaugeUses, { query: { gaugeId: id, since: '2099-01-01T00:00:00.000Z' } })).rows).toEqual([])
  })

  it('is refused whatever is said where its kind cannot be waived, or it is locked, of another kind, or measures something else', async () => {
    const at = await bench()
    const plug = await gauge({ kindId: kinds.plug, calibratedOn: null, resolution: null, unit: null, lower: null, upper: null })
    const force = await gauge({ unit: 'N' })
    const locked = await gauge()
    await goods.engineer.call(equip.setGaugeState, { params: { id: locked.id }, body: { version: 1, state: 'locked', reason: 'it fell' } })
    for (const [line, code, kind] of [
      [2, plug.code, 'neverCalibrated'],
      [0, plug.code, 'wrongKind'],
      [0, force.code, 'otherQuantity'],
      [0, locked.code, 'locked'],
    ] as const)
      expect(await refusal(at.choose(line, code, 'I want it')), code).toMatchObject({
        code: 'gauge_unfit',
        facts: { isWaivable: false, objections: expect.arrayContaining([expect.objectContaining({ kind })]) },
      })
    expect(await refusal(at.choose(0, 'NONE'))).toMatchObject({ code: 'reference_unknown', facts: { field: 'code', received: 'NONE' } })
    expect((await at.load()).gauges).toEqual([])
  })

  it('takes what was typed before it was locked, and nothing that was typed after', async () => {
    const { code, id } = await gauge()
    const at = await bench()
    await at.choose(0, code)
    const { stateSince } = await goods.engineer.call(equip.setGaugeState, {
      params: { id },
      body: { version: 1, state: 'locked', reason: 'it fell' },
    })
    expect(await refusal(at.answer(0, id, { typedAt: stateSince }))).toMatchObject({ code: 'gauge_unfit', facts: { gauge: code, isWaivable: false } })
    await at.answer(0, id, { typedAt: new Date(Date.parse(stateSince) - 1).toISOString() })
    expect((await at.load()).readings).toHaveLength(1)
  })

  it('takes nothing that was typed after it went over its day, until somebody says why; what was typed on the day is taken', async () => {
    const { code, id } = await gauge({ calibratedOn: '2025-03-03', intervalMonths: 12 })
    const at = await bench()
    await at.choose(0, code)
    await plant.later('2026-03-05T08:00:00Z')
    expect(await refusal(at.answer(0, id, { typedAt: '2026-03-05T08:00:00.000Z' }))).toMatchObject({
      code: 'gauge_unfit',
      facts: { isWaivable: true, objections: [{ kind: 'overdue', dueOn: '2026-03-03' }] },
    })
    await at.answer(0, id, { typedAt: '2026-03-03T20:00:00.000Z' })
    await at.choose(0, code, 'the other one is broken')
    const [first] = (await at.load()).readings
    await at.answer(0, id, { typedAt: '2026-03-05T08:00:00.000Z', corrects: first?.id })
    expect((await at.load()).readings).toMatchObject([{ corrections: 1, gaugeCode: code }])
  })

  it('is locked by whoever measures with it, and unlocked or retired only by who answers for it', async () => {
    const { id } = await gauge()
    const inspector = await plant.as('inspector')
    const bring = (state: 'locked' | 'inUse' | 'retired', version: number) =>
      inspector.call(equip.setGaugeState, { params: { id }, body: { version, state, reason: 'it fell' } })
    await bring('locked', 1)
    for (const state of ['inUse', 'retired'] as const) expect(await refusal(bring(state, 2))).toMatchObject({ code: 'role_missing' })
    const manager = await plant.as('qualityManager')
    await manager.call(equip.setGaugeState, { params: { id }, body: { version: 2, state: 'inUse', reason: 'checked' } })
  })

  it('takes none on a finished inspection, nor for a line of another one', async () => {
    const { code } = await gauge()
    const [at, other] = [await bench(), await bench()]
    const inspector = await plant.as('inspector')
    const choose = (lineId: string) => inspector.call(record.chooseGauge, { params: { id: at.id }, body: { lineId, code, reason: '' } })
    expect((await refusal(choose(other.line(0))))?.code).toBe('not_found')
    const { version } = await at.load()
    const manager = await plant.as('qualityManager')
    await manager.call(record.cancelInspection, { params: { id: at.id }, body: { version, reason: 'not needed' } })
    expect((await refusal(choose(at.line(0))))?.code).toBe('inspection_closed')
  })
})

describe('the register', () => {
  it('says when a gauge is due, and finds those over their day, soon and later', async () => {
    const day = (days: number) => new Date(plant.clock.time + days * 86_400_000).toISOString().slice(0, 10)
    const monthsAgo = (days: number) => day(days - 365)
    const [late, soon] = [await gauge({ calibratedOn: monthsAgo(-3) }), await gauge({ calibratedOn: monthsAgo(10) })]
    // The last day that counts as soon.
    const ahead = day(30)
    const last = await gauge({ calibratedOn: `${Number(ahead.slice(0, 4)) - 1}${ahead.slice(4)}` })
    const none = await gauge({ intervalMonths: null })
    const never = await gauge({ calibratedOn: null })
    const codes = async (due: 'overdue' | 'soon' | 'due' | 'good') =>
      (await goods.engineer.call(equip.listGauges, { query: { due, limit: 200 } })).rows.map(({ code }) => code)
    expect(await codes('overdue')).toEqual(expect.arrayContaining([late.code, never.code]))
    expect(await codes('soon')).toEqual(expect.arrayContaining([soon.code, last.code]))
    expect(await codes('good')).toContain(none.code)
    expect((await codes('due')).sort()).toEqual([...(await codes('overdue')), ...(await codes('soon'))].sort())
    const all = [...(await codes('overdue')), ...(await codes('soon')), ...(await codes('good'))].sort()
    expect(all).toEqual((await goods.engineer.call(equip.listGauges, { query: { limit: 200 } })).rows.map(({ code }) => code).sort())
  })

  it('refuses numbers that are none, a range upside down, a unit that nobody keeps, numbers without a unit, and a code that is taken', async () => {
    const { code } = await gauge()
    for (const [change, expected, field] of [
      [{ resolution: 'fine' }, 'not_a_number', 'resolution'],
      [{ resolution: '0' }, 'resolution_not_positive', 'resolution'],
      [{ lower: '5', upper: '5' }, 'limits_reversed', 'lower'],
      [{ unit: 'ells' }, 'unit_unknown', 'unit'],
      [{ unit: null }, 'input_invalid', 'unit'],
      [{ calibratedOn: '2099-01-01' }, 'input_invalid', 'calibratedOn'],
      [{ code }, 'already_exists', 'code'],
      [{ kindId: '00000000-0000-7000-8000-000000000000' }, 'reference_unknown', 'kindId'],
    ] as const)
      expect(await refusal(gauge(change)), expected).toMatchObject({ code: expected, facts: { field } })
  })

  it('keeps what is retired as it is, and says who changed it meanwhile', async () => {
    const made = await gauge()
    const params = { id: made.id }
    const { version } = await goods.engineer.call(equip.setGaugeState, { params, body: { version: 1, state: 'retired', reason: 'worn' } })
    expect(await refusal(goods.engineer.call(equip.setGaugeState, { params, body: { version, state: 'inUse', reason: 'back' } }))).toMatchObject({
      code: 'already_retired',
    })
    const { state: _s, stateReason: _r, stateSince: _t, dueOn: _d, id: _i, ...fields } = made
    expect((await refusal(goods.engineer.call(equip.updateGauge, { params, body: fields })))?.code).toBe('stale_version')
    const changed = await goods.engineer.call(equip.updateGauge, {
      params,
      body: { ...fields, version, calibratedOn: '2025-08-31', intervalMonths: 6 },
    })
    expect(changed).toMatchObject({ dueOn: '2026-02-28', state: 'retired', version: 3 })
  })
})
