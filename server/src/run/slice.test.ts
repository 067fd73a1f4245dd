import { endpoints, type DecisionRowInput, type Inspection } from '@nemawashi/contract'
import { describeFinding } from '@nemawashi/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { v7 } from 'uuid'
import { burr, decideAll, gap, inspect, password, reading, receive, refusal, startPlant, stock, type Plant, type Stock } from '../testing/plant'

const { define, run, record, contain, trace } = endpoints
let plant: Plant
let goods: Stock
beforeAll(async () => {
  plant = await startPlant()
  goods = await stock(plant)
  const plan = await goods.plan('PL-1', [{ characteristicId: goods.measured.id }, { characteristicId: goods.judged.id, isDecisive: true }])
  await goods.point(plan.id)
})
afterAll(() => plant.stop())

async function arrive(quantity = 100, containers: { label: string; quantity: number }[] = []) {
  const delivery = await receive(plant, goods, { quantity, containers })
  const lot = delivery.lots[0]
  const id = lot?.inspections[0]?.id ?? ''
  return { delivery, lotId: lot?.id ?? '', id }
}
const load = async (id: string) => (await plant.as('inspector')).call(record.getInspection, { params: { id } })
const post = async (id: string, readings: ReturnType<typeof reading>[], key?: string) =>
  (await plant.as('inspector')).call(record.recordReadings, { params: { id }, body: { readings } }, key)
const putAway = async (lotId: string, fromPlaceId: string, quantity: number, containerId: string | null = null) =>
  (await plant.as('receivingClerk')).call(run.putAway, {
    params: { id: lotId },
    body: { containerId, fromPlaceId, quantity, toPlaceId: goods.places.store.id },
  })
const decide = async (inspection: Inspection, rows: DecisionRowInput[], who: 'qualityManager' | 'inspector' = 'qualityManager', word = password) =>
  (await plant.as(who)).call(contain.decide, { params: { id: inspection.id }, body: { version: inspection.version, password: word, rows } })
const row = (
  quantity: number,
  disposition: DecisionRowInput['disposition'],
  reason = 'because',
  containerId: string | null = null,
): DecisionRowInput => ({ containerId, quantity, disposition, reason })

describe('a delivery', () => {
  it('opens its inspection by itself, with the sample worked out, and goes on hold where the gate says', async () => {
    const { delivery } = await arrive(100, [
      { label: 'K-01', quantity: 60 },
      { label: 'K-02', quantity: 40 },
    ])
    const [lot] = delivery.lots
    expect(lot?.balances.map(({ containerLabel, standing, placeName, quantity }) => [containerLabel, standing, placeName, quantity])).toEqual([
      ['K-01', 'onHold', 'BAY', 60],
      ['K-02', 'onHold', 'BAY', 40],
    ])
    expect(lot?.inspections[0]?.lines[0]).toMatchObject({ name: 'Gate gap', sampleSize: 3, accept: 0, reasoning: 'always 3 pieces, Ac 0' })
    expect(lot?.gateReasons[0]).toMatch(/Plan PL-1 \(I-\d+\) is still to do/)
    expect(delivery.isFree).toBe(false)
  })

  it.each([
    [{ quantity: 0 }, 'quantity_invalid'],
    [{ quantity: 1.5 }, 'quantity_invalid'],
    [{ quantity: 1e12 }, 'quantity_invalid'],
    [{ quantity: 10, containers: [{ label: 'A', quantity: 4 }] }, 'containers_do_not_add_up'],
    [
      {
        quantity: 8,
        containers: [
          { label: 'A', quantity: 4 },
          { label: 'A', quantity: 4 },
        ],
      },
      'already_exists',
    ],
    [{ supplierId: v7() }, 'reference_unknown'],
  ])('with %j is refused and leaves nothing behind', async (change, code) => {
    const before = (await (await plant.as('auditor')).call(run.listDeliveries, {})).total
    expect(await refusal(receive(plant, goods, change))).toMatchObject({ code })
    expect((await (await plant.as('auditor')).call(run.listDeliveries, {})).total).toBe(before)
  })

  it('of one piece is inspected piece by piece', async () => {
    const { delivery } = await arrive(1)
    expect(delivery.lots[0]?.inspections[0]?.lines[0]).toMatchObject({ sampleSize: 1, accept: 0 })
  })

  it('is refused while the plan of its control point has no released revision: a gate never opens by omission', async () => {
    await plant.kernel.database.writer.query(`UPDATE plan_revision SET state = 'retired'`)
    expect(await refusal(receive(plant, goods))).toMatchObject({ code: 'nothing_released', facts: { plan: 'PL-1' } })
    await plant.kernel.database.writer.query(`UPDATE plan_revision SET state = 'released'`)
  })

  it('of two lots is free when both are decided, and not before', async () => {
    const clerk = await plant.as('receivingClerk')
    const line = (supplierLot: string) => ({ partId: goods.part.id, supplierLot, quantity: 5, containers: [] })
    const delivery = await clerk.call(run.receiveDelivery, {
      body: { supplierId: goods.supplier.id, orderNumber: 'TWO', isAnother: false, lines: [line('ONE'), line('OTHER')] },
    })
    const isFree = async () => (await clerk.call(run.getDelivery, { params: { id: delivery.id } })).isFree
    const seen = [await isFree()]
    for (const lot of delivery.lots) {
      for (const { id } of lot.inspections) await decideAll(plant, await inspect(plant, id))
      seen.push(await isFree())
    }
    expect(seen).toEqual([false, false, true])
  })

  it('sent twice under one key is booked in once', async () => {
    const clerk = await plant.as('receivingClerk')
    const body = {
      supplierId: goods.supplier.id,
      orderNumber: '1',
      lines: [{ partId: goods.part.id, supplierLot: 'S', quantity: 5, containers: [] }],
    }
    const [first, second] = [await clerk.call(run.receiveDelivery, { body }, 'key-1'), await clerk.call(run.receiveDelivery, { body }, 'key-1')]
    expect(second.id).toBe(first.id)
    expect((await refusal(clerk.call(run.receiveDelivery, { body: { ...body, orderNumber: '2' } }, 'key-1')))?.code).toBe('key_reused')
  })
})

describe('the bench', () => {
  it('judges each reading as it comes, limits included', async () => {
    const { id } = await arrive()
    const [line] = (await load(id)).lines
    const stored = await post(id, [reading(line?.id ?? '', 1, '0.35'), reading(line?.id ?? '', 2, '0,25')])
    expect(stored).toMatchObject({
      state: 'started',
      readings: [
        { value: '0.35', mark: 'conforming' },
        { value: '0.25', mark: 'conforming' },
      ],
    })
  })

  it.each([
    ['1e400', 'not_a_number'],
    ['NaN', 'not_a_number'],
    ['12.5 kg', 'unit_mismatch'],
    ['0.301', 'too_many_decimals'],
    ['0.36', 'outside_not_confirmed'],
    ['9'.repeat(150), 'number_too_long'],
    ['9'.repeat(3_000_000), 'body_too_large'],
  ])('refuses the reading %.20s as %s', async (value, code) => {
    const { id } = await arrive()
    const [line] = (await load(id)).lines
    expect((await refusal(post(id, [reading(line?.id ?? '', 1, value)])))?.code).toBe(code)
    expect((await load(id)).readings).toEqual([])
  })

  it('refuses a whole batch with one bad reading, names it, and stores nothing', async () => {
    const { id } = await arrive()
    const [line, judged] = (await load(id)).lines
    const bad = reading(judged?.id ?? '', 1, 'maybe')
    expect(await refusal(post(id, [reading(line?.id ?? '', 1, '0.30'), bad]))).toMatchObject({ code: 'answer_invalid', facts: { readingId: bad.id } })
    expect(await refusal(post(id, [reading(line?.id ?? '', 4, '0.30')]))).toMatchObject({ code: 'piece_unknown' })
    expect((await load(id)).readings).toEqual([])
  })

  it('takes a reading outside the limits once it was said that this is what was measured', async () => {
    const { id } = await arrive()
    const [line] = (await load(id)).lines
    const stored = await post(id, [reading(line?.id ?? '', 1, '0.36', { isConfirmedOutside: true })])
    expect(stored.readings[0]?.mark).toBe('nonconforming')
  })

  it('keeps what was typed first when an answer is corrected or withdrawn, and never overwrites by accident', async () => {
    const { id } = await arrive()
    const lineId = (await load(id)).lines[0]?.id ?? ''
    const first = reading(lineId, 1, '0.30')
    await post(id, [first])
    expect(await refusal(post(id, [reading(lineId, 1, '0.31')]))).toMatchObject({
      code: 'cell_already_answered',
      facts: { current: '0.30', currentId: first.id },
    })
    const second = reading(lineId, 1, '0.31', { corrects: first.id })
    await post(id, [second])
    await post(id, [reading(lineId, 1, null, { corrects: second.id })])
    expect((await load(id)).readings).toMatchObject([{ value: null, mark: 'notJudged', corrections: 2 }])
    const kept = (await plant.kernel.database.reader.query('SELECT value FROM reading WHERE inspection_id = ? ORDER BY correction', [id])) as {
      value: string | null
    }[]
    expect(kept.map((entry) => entry.value)).toEqual(['0.30', '0.31', null])
  })

  it('stores a reading that is sent again only once, whatever the key', async () => {
    const { id } = await arrive()
    const lineId = (await load(id)).lines[0]?.id ?? ''
    const sent = [reading(lineId, 1, '0.30'), reading(lineId, 2, '0.31')]
    await post(id, sent, 'k1')
    await post(id, sent, 'k1')
    const again = await post(id, [...sent, reading(lineId, 3, '0.29')], 'k2')
    expect(again.readings.map((entry) => entry.value)).toEqual(['0.30', '0.31', '0.29'])
    expect((await load(id)).readings).toHaveLength(3)
  })

  it('does not judge while there are blanks, and takes nothing more once it is finished, unless reopened with a reason', async () => {
    const { id } = await arrive()
    const inspector = await plant.as('inspector')
    const { lines, version } = await load(id)
    expect(await refusal(inspector.call(record.finishInspection, { params: { id }, body: { version } }))).toMatchObject({
      code: 'answers_missing',
      facts: { missing: [{ blank: 3 }, { blank: 3 }] },
    })
    const finished = await inspect(plant, id)
    expect(finished.finding.verdict).toBe('acceptable')
    expect(describeFinding(finished.finding)).toBe('2 lines judged, all acceptable → lot acceptable')
    const late = reading(lines[0]?.id ?? '', 1, '0.31', { corrects: finished.readings[0]?.id ?? null })
    expect((await refusal(post(id, [late])))?.code).toBe('inspection_closed')
    const reopened = await inspector.call(record.reopenInspection, {
      params: { id },
      body: { version: finished.version, reason: 'wrong feeler used' },
    })
    expect(reopened.state).toBe('started')
  })

  it('keeps the revisions that the inspection was made from', async () => {
    const { id } = await arrive()
    const { measured } = goods
    const current = await goods.engineer.call(define.getCharacteristic, { params: { id: measured.id } })
    const drafted = await goods.engineer.call(define.reviseCharacteristic, { params: { id: measured.id }, body: { version: current.version } })
    const changed = await goods.engineer.call(define.updateCharacteristic, {
      params: { id: measured.id },
      body: { ...gap, upper: '0.30', version: drafted.version },
    })
    await goods.engineer.call(define.releaseCharacteristic, { params: { id: measured.id }, body: { version: changed.version } })
    expect((await load(id)).lines[0]).toMatchObject({ revision: 1, upper: '0.35' })
    expect((await load((await arrive()).id)).lines[0]).toMatchObject({ revision: 2, upper: '0.30' })
  })
})

describe('a decision', () => {
  it('splits what is held, posts the movements, sets the seal, and the quantity adds up', async () => {
    const { id, lotId } = await arrive(100)
    const inspection = await inspect(plant, id, 1)
    expect(describeFinding(inspection.finding)).toBe('Gate gap: 1 nonconforming of 3, Ac 0 → lot not acceptable')
    const { decision } = await decide(inspection, [row(60, 'concession'), row(20, 'quarantine'), row(15, 'returnToSupplier'), row(5, 'scrap')])
    expect(decision).toMatchObject({ meaning: 'split', initials: 'XX' })
    const passport = await (await plant.as('auditor')).call(trace.getPassport, { params: { id: lotId } })
    expect(passport.balances.map(({ standing, placeName, quantity }) => [standing, placeName, quantity]).sort()).toEqual([
      ['quarantined', 'CAGE', 20],
      ['released', 'BAY', 60],
      ['returned', 'OUT', 15],
      ['scrapped', 'SCRAP', 5],
    ])
    expect(passport.events.map((event) => event.kind)).toEqual(['received', 'inspectionOpened', 'inspectionStarted', 'inspectionFinished', 'decided'])
    for (const event of passport.events) expect(Object.values(event.standingsAfter).reduce((sum, quantity) => sum + quantity, 0)).toBe(100)
  })

  it('has to add up, needs reasons, and needs the right password', async () => {
    const inspection = await inspect(plant, (await arrive(100)).id, 1)
    expect(await refusal(decide(inspection, [row(99, 'scrap')]))).toMatchObject({
      code: 'split_does_not_add_up',
      message: expect.stringMatching(/100 are on hold, 99 were decided on/),
    })
    expect((await refusal(decide(inspection, [row(150, 'scrap'), row(-50, 'scrap')])))?.code).toBe('quantity_invalid')
    expect((await refusal(decide(inspection, [row(100, 'concession', '')])))?.code).toBe('reason_missing')
    expect((await refusal(decide(inspection, [row(100, 'scrap')], 'qualityManager', 'not the password')))?.code).toBe('password_wrong')
    expect((await load(inspection.id)).state).toBe('finished')
  })

  it('is made once: a second one, and one of two at the same time, is refused with who was first', async () => {
    const inspection = await inspect(plant, (await arrive(100)).id)
    const outcomes = await Promise.all([refusal(decide(inspection, [row(100, 'release')])), refusal(decide(inspection, [row(100, 'scrap')]))])
    expect(outcomes.filter((outcome) => outcome === null)).toHaveLength(1)
    expect(outcomes.find((outcome) => outcome !== null)).toMatchObject({
      status: 409,
      code: 'already_decided',
      facts: { signedByName: 'qualityManager' },
    })
    expect((await refusal(decide(await load(inspection.id), [row(100, 'release')])))?.code).toBe('already_decided')
  })

  it('by an inspector is a release of an acceptable lot and nothing else', async () => {
    const bad = await inspect(plant, (await arrive(100)).id, 1)
    expect((await refusal(decide(bad, [row(100, 'release')], 'inspector')))?.code).toBe('decision_beyond_role')
    const good = await inspect(plant, (await arrive(100)).id)
    expect((await refusal(decide(good, [row(100, 'scrap')], 'inspector')))?.code).toBe('decision_beyond_role')
    expect(await refusal(decide(good, [row(100, 'release', '')], 'inspector'))).toBeNull()
  })

  it('is not possible before there is a finding', async () => {
    expect((await refusal(decide(await load((await arrive()).id), [row(100, 'release')])))?.code).toBe('inspection_not_finished')
  })
})

describe('put-away', () => {
  it('is refused with the reason while the gate is closed, and moves no more than there is afterwards', async () => {
    const { id, lotId, delivery: arrived } = await arrive(100)
    expect(await refusal(putAway(lotId, goods.places.bay.id, 100))).toMatchObject({
      status: 409,
      code: 'gate_closed',
      facts: { reasons: [expect.stringContaining('still to do')] },
    })
    const inspection = await inspect(plant, id)
    expect((await refusal(putAway(lotId, goods.places.bay.id, 100)))?.facts['reasons']).toEqual([expect.stringContaining('waits for a decision')])
    await decideAll(plant, inspection)
    expect((await refusal(putAway(lotId, goods.places.bay.id, 101)))?.code).toBe('movement_exceeds_balance')
    expect((await putAway(lotId, goods.places.bay.id, 100)).balances).toMatchObject([{ placeName: 'STORE', quantity: 100 }])
    const delivery = await (await plant.as('receivingClerk')).call(run.getDelivery, { params: { id: arrived.id } })
    expect(delivery).toMatchObject({ isFree: true, lots: [{ balances: [{ placeName: 'STORE', standing: 'released', quantity: 100 }] }] })
  })

  it('never takes quarantined pieces', async () => {
    const { id, lotId } = await arrive(100)
    await decideAll(plant, await inspect(plant, id, 1), 'quarantine')
    expect((await refusal(putAway(lotId, goods.places.cage.id, 100)))?.code).toBe('movement_exceeds_balance')
  })

  it('waits for every gate of the lot: the first release keeps the pieces on hold, the last one frees them', async () => {
    const scratch = await goods.characteristic('C-SCRATCH', burr)
    const second = await goods.point((await goods.plan('PL-2', [{ characteristicId: scratch.id }])).id)
    const { delivery, lotId } = await arrive(100)
    const [one, two] = delivery.lots[0]?.inspections ?? []
    await decideAll(plant, await inspect(plant, one?.id ?? ''))
    expect((await load(two?.id ?? '')).balances).toMatchObject([{ standing: 'onHold', quantity: 100 }])
    expect((await refusal(putAway(lotId, goods.places.bay.id, 100)))?.code).toBe('gate_closed')
    await decideAll(plant, await inspect(plant, two?.id ?? ''))
    expect(await refusal(putAway(lotId, goods.places.bay.id, 100))).toBeNull()
    await goods.engineer.call(endpoints.attach.retireControlPoint, { params: { id: second.id }, body: { version: second.version } })
  })
})

describe('the report of an inspection', () => {
  it('is a PDF with embedded fonts, and the same data as JSON and CSV', async () => {
    const { id } = await arrive(100)
    await decideAll(plant, await inspect(plant, id, 1), 'scrap')
    const response = await fetch(`${plant.base}/api/v1/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ signInName: 'admin', password }),
    })
    const cookie = response.headers.get('set-cookie')?.split(';')[0] ?? ''
    const get = (ending: string) => fetch(`${plant.base}/api/v1/inspections/${id}/report.${ending}`, { headers: { cookie } })
    const pdf = Buffer.from(await (await get('pdf')).arrayBuffer()).toString('latin1')
    expect(pdf.startsWith('%PDF-')).toBe(true)
    expect(pdf).toContain('/FontFile2')
    expect(pdf.trimEnd().endsWith('%%EOF')).toBe(true)
    const json = (await (await get('json')).json()) as { inspection: Inspection }
    expect(json.inspection.finding.verdict).toBe('notAcceptable')
    const csv = (await (await get('csv')).text()).trim().split('\r\n')
    expect(csv).toHaveLength(1 + 6)
    expect(csv[1]).toContain('0.40,mm,0.25')
  })
})

describe('what is held', () => {
  it('is listed with what it waits for, and leaves the list when it is free', async () => {
    const { id, delivery } = await arrive(77)
    const manager = await plant.as('qualityManager')
    const code = delivery.lots[0]?.code ?? ''
    const held = async () => (await manager.call(contain.listHeld, { query: { q: code } })).rows
    expect(await held()).toMatchObject([{ onHold: 77, waitsFor: 'bench' }])
    const inspection = await inspect(plant, id, 1)
    expect(await held()).toMatchObject([{ waitsFor: 'decisionNotAcceptable' }])
    await decide(inspection, [row(7, 'quarantine'), row(70, 'concession')])
    expect(await held()).toMatchObject([{ onHold: 0, quarantined: 7, waitsFor: 'decisionAnew' }])
    expect((await manager.call(trace.getToday, {})).finishedToday).toBeGreaterThan(0)
  })
})
