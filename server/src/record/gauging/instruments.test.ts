import { connect } from 'node:net'
import { endpoints, type Gauge, type SentValue } from '@nemawashi/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openInstrumentDoor } from '../../equip/instrumentDoor'
import { gap, planLine, reading, receive, refusal, startPlant, stock, type Plant, type Stock } from '../../testing/plant'

const { define, equip, record } = endpoints
let plant: Plant
let goods: Stock
let kindId = ''
beforeAll(async () => {
  plant = await startPlant({ NEMAWASHI_INSTRUMENT_PORT: '0' })
  goods = await stock(plant)
  const kind = { code: 'Feeler', name: 'Feeler', isAsked: true, isWaivable: true, isActive: true }
  kindId = (await goods.engineer.call(define.gaugeKinds.create, { body: kind })).id
  const made = await goods.engineer.call(define.createCharacteristic, { body: { code: 'C-1', ...gap, details: { gaugeKind: 'Feeler' } } as never })
  const { id } = await goods.engineer.call(define.releaseCharacteristic, { params: { id: made.id }, body: { version: made.version } })
  const plan = await goods.engineer.call(define.createPlan, {
    body: { code: 'PI', name: 'Sent', lines: [planLine(id, { sampling: { kind: 'fixedNumber', sampleSize: 5, accept: 0 } })] },
  })
  await goods.engineer.call(define.releasePlan, { params: { id: plan.id }, body: { version: plan.version } })
  await goods.point(plan.id)
})
afterAll(() => plant.stop())

let counter = 0
/** A gauge with a key, and what sends with it. */
async function instrument(unit = 'mm') {
  const body = {
    ...{ code: `F-${++counter}`, name: 'Feeler', kindId, maker: '', serialNumber: '', resolution: '0.001', unit, lower: null, upper: null },
    ...{ calibratedOn: null, intervalMonths: null },
  }
  const gauge: Gauge = await goods.engineer.call(equip.createGauge, { body })
  const give = async () => (await goods.engineer.call(equip.giveInstrumentKey, { params: { id: gauge.id } })).key
  let sent = 0
  const send = (key: string, ...values: object[]) =>
    fetch(`${plant.base}/api/v1/instrument/values`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', authorization: `Bearer ${key}` },
      body: JSON.stringify({ values: values.map((value) => ({ sendId: `s${++sent}`, unit: 'mm', ...value })) }),
    }).then(async (answer) => ({ status: answer.status, ...((await answer.json()) as { answers?: { outcome: string; code: string | null }[] }) }))
  return { gauge, give, send }
}
/** A bench that measures with a gauge and hears what it sends. */
async function bench(code: string) {
  const inspector = await plant.as('inspector')
  const params = { id: (await receive(plant, goods)).lots[0]?.inspections[0]?.id ?? '' }
  const { lines } = await inspector.call(record.getInspection, { params })
  const lineId = lines[0]?.id ?? ''
  await inspector.call(record.chooseGauge, { params, body: { lineId, code, reason: '' } })
  const leaving = new AbortController()
  const told: { event: string; data: unknown }[] = []
  const follow = async () => {
    const answer = await fetch(`${plant.base}/api/v1/inspections/${params.id}/sent-values`, {
      headers: { cookie: inspector.cookies },
      signal: leaving.signal,
    })
    expect(answer.headers.get('content-type')).toBe('text/event-stream')
    const reader = answer.body?.pipeThrough(new TextDecoderStream()).getReader()
    void (async () => {
      for (;;) {
        const { value, done } = (await reader?.read().catch(() => ({ value: '', done: true }))) ?? { value: '', done: true }
        if (done) return
        for (const [, event, data] of value.matchAll(/event: (\w+)\ndata: (.*)\n/g))
          told.push({ event: event ?? '', data: JSON.parse(data ?? 'null') })
      }
    })()
    await expect.poll(() => told.length).toBeGreaterThan(0)
  }
  const values = () => told.flatMap(({ event, data }) => (event === 'value' ? [data as SentValue] : []))
  const answer = (piece: number, value: string, gaugeId: string, sentValueId: string, { also = piece } = {}) => {
    const readings = [...new Set([piece, also])].map((each) => reading(lineId, each, value, { gaugeId, sentValueId }))
    return inspector.call(record.recordReadings, { params, body: { readings } })
  }
  const load = () => inspector.call(record.getInspection, { params })
  return { params, told, follow, values, answer, load, leave: () => leaving.abort() }
}

describe('a value that an instrument sends', () => {
  it('comes to the bench that listens, becomes one reading that says so, and is known when it comes again', async () => {
    const { gauge, give, send } = await instrument()
    const key = await give()
    const at = await bench(gauge.code)
    await at.follow()
    expect(await send(key, { value: '0,30' })).toMatchObject({ answers: [{ outcome: 'heard' }] })
    await expect.poll(at.values).toHaveLength(1)
    const [value] = at.values()
    expect(value).toMatchObject({ gaugeId: gauge.id, value: '0.30', unit: 'mm' })
    expect(await send(key, { sendId: 's1', value: '0.30' })).toMatchObject({ answers: [{ outcome: 'known', inspectionCode: null }] })
    for (const other of [{ value: '0.31' }, { value: '0.30', unit: 'in' }])
      expect(await send(key, { sendId: 's1', ...other })).toMatchObject({ answers: [{ outcome: 'refused', code: 'key_reused' }] })

    expect(await refusal(at.answer(1, '0.31', gauge.id, value?.id ?? ''))).toMatchObject({ code: 'sent_value_other', facts: { sent: '0.30' } })
    await at.answer(1, '0.30', gauge.id, value?.id ?? '')
    expect(await refusal(at.answer(2, '0.30', gauge.id, value?.id ?? ''))).toMatchObject({ code: 'sent_value_used', facts: { piece: 2 } })
    expect(at.values()).toHaveLength(1)
    expect((await at.load()).readings).toMatchObject([{ piece: 1, value: '0.30', isSent: true, gaugeCode: gauge.code }])
    expect((await goods.engineer.call(equip.listSentValues, { query: { gaugeId: gauge.id } })).rows).toMatchObject([
      { outcome: 'heard', isTaken: true },
    ])
    at.leave()
  })

  it('is converted from the unit that it was sent in, or that the register says', async () => {
    const { gauge, give, send } = await instrument('cm')
    const key = await give()
    const at = await bench(gauge.code)
    await at.follow()
    await send(key, { value: '300', unit: 'µm' }, { value: '0.031', unit: '' }, { value: '5', unit: 'furlong' })
    await expect.poll(at.values).toHaveLength(2)
    const [first, second] = at.values()
    expect([first?.unit, second?.unit]).toEqual(['µm', 'cm'])
    await at.answer(1, '300 µm', gauge.id, first?.id ?? '')
    await at.answer(2, '0.031 cm', gauge.id, second?.id ?? '')
    expect((await at.load()).readings.map(({ value, entered }) => [value, entered])).toEqual([
      ['0.3', '300 µm'],
      ['0.31', '0.031 cm'],
    ])
    // Who stands at the bench is told, too: the instrument has no words.
    await expect.poll(() => at.told.find(({ event }) => event === 'refused')?.data).toMatchObject({ gaugeId: gauge.id, code: 'unit_unknown' })
    at.leave()
  })

  it('is one press where the button bounced, and is nobody else’s', async () => {
    const [own, other] = [await instrument(), await instrument()]
    const [key, theirs] = [await own.give(), await other.give()]
    const at = await bench(own.gauge.code)
    await at.follow()
    const { answers } = await own.send(key, { value: '0.30' }, { value: '0.30', ageMs: 1 }, { value: '0.31' })
    expect(answers?.map(({ outcome }) => outcome)).toEqual(['heard', 'doubled', 'heard'])
    expect(await other.send(theirs, { value: '0.29' })).toMatchObject({ answers: [{ outcome: 'unheard' }] })
    await expect.poll(() => at.values().map(({ value }) => value)).toEqual(['0.30', '0.31'])
    const [, doubled, third] = (await goods.engineer.call(equip.listSentValues, { query: { gaugeId: own.gauge.id, sort: 'sendId' } })).rows
    expect(doubled).toMatchObject({ outcome: 'doubled', inspectionId: null, isTaken: false })
    expect(Date.parse(doubled?.receivedAt ?? '') - Date.parse(doubled?.pressedAt ?? '')).toBe(1)
    expect(await refusal(at.answer(1, '0.30', own.gauge.id, doubled?.id ?? ''))).toMatchObject({ code: 'sent_value_other' })
    // One value for two pieces in one request.
    expect(await refusal(at.answer(1, '0.31', own.gauge.id, third?.id ?? '', { also: 2 }))).toMatchObject({ code: 'sent_value_used' })
    const [foreign] = (await goods.engineer.call(equip.listSentValues, { query: { gaugeId: other.gauge.id } })).rows
    expect(await refusal(at.answer(1, '0.29', own.gauge.id, foreign?.id ?? ''))).toMatchObject({ code: 'sent_value_other' })
    at.leave()
  })

  it('goes to the bench that listened last, which the one before is told', async () => {
    const { gauge, give, send } = await instrument()
    const key = await give()
    const [first, second] = [await bench(gauge.code), await bench(gauge.code)]
    await first.follow()
    await second.follow()
    expect(first.told.at(-1)).toMatchObject({ event: 'replaced', data: { gaugeId: gauge.id, byName: 'inspector' } })
    await send(key, { value: '0.30' })
    await expect.poll(second.values).toHaveLength(1)
    expect(first.values()).toEqual([])
    second.leave()
    await expect.poll(async () => (await send(key, { value: `0.3${counter++ % 10}` })).answers?.[0]?.outcome).toBe('unheard')
    first.leave()
  })

  it('is not taken with a key that ended, of nobody, or of a gauge that is locked; what was sent before stays', async () => {
    const { gauge, give, send } = await instrument()
    const old = await give()
    const key = await give()
    expect(await send(old, { value: '0.30' })).toMatchObject({ status: 401, error: { code: 'instrument_unknown' } })
    expect(await send('not-a-key-of-anybody-here', { value: '0.30' })).toMatchObject({ status: 401 })
    await send(key, { value: '0.30' })
    const { version } = await goods.engineer.call(equip.getGauge, { params: { id: gauge.id } })
    await goods.engineer.call(equip.setGaugeState, { params: { id: gauge.id }, body: { version, state: 'locked', reason: 'it fell' } })
    expect(await send(key, { value: '0.31' })).toMatchObject({ status: 200, answers: [{ outcome: 'refused', code: 'gauge_unfit' }] })
    await goods.engineer.call(equip.endInstrumentKey, { params: { id: gauge.id } })
    expect(await send(key)).toMatchObject({ status: 401 })
    const { instrument: left, hasSent } = await goods.engineer.call(equip.getInstrument, { params: { id: gauge.id } })
    expect([left, hasSent]).toEqual([null, true])
    expect(await refusal((await plant.as('inspector')).call(equip.giveInstrumentKey, { params: { id: gauge.id } }))).toMatchObject({
      code: 'role_missing',
    })
  })
})

describe('an instrument that speaks lines', () => {
  it('says its key, sends, is answered line by line and in order, and is gone when its connection is', async () => {
    const { gauge, give } = await instrument()
    const key = await give()
    const door = await openInstrumentDoor(plant.kernel)
    const socket = connect(Number(/:(\d+)$/.exec(door?.words ?? '')?.[1]), '127.0.0.1').setEncoding('utf8')
    let said = ''
    socket.on('data', (text: Buffer | string) => void (said += String(text)))
    const lines = () => said.trim().split('\n')
    // Cut anywhere, and two in one.
    socket.write('VALUE 1 0.30 mm\nKE')
    socket.write(`Y ${key}\r\nALIVE\nVALUE 1 0.30 mm\nVALUE 1 0.30 mm AGE 4\nVALUE 2 0,3x mm\nwhat\n`)
    await expect.poll(lines).toHaveLength(7)
    expect(lines()).toEqual([
      'REFUSED - instrument_unknown Send KEY and the key of the instrument first.',
      `OK ${gauge.code}`,
      'OK',
      'UNHEARD 1',
      'KNOWN 1',
      expect.stringMatching(/^REFUSED - not_a_number Received "0,3x"/),
      expect.stringMatching(/^REFUSED - line_not_understood/),
    ])
    const heardAt = async () => (await goods.engineer.call(equip.getInstrument, { params: { id: gauge.id } })).instrument?.heardAt
    expect(await heardAt()).toMatch(/^2026/)
    // More at once than may wait: all are answered, none is lost.
    socket.write('ALIVE\n'.repeat(400))
    await expect.poll(lines).toHaveLength(407)
    // A connection outlives its key, and sends nothing more.
    await give()
    socket.write('VALUE 3 0.30 mm\n')
    await expect.poll(() => lines().at(-1)).toMatch(/^REFUSED 3 instrument_unknown/)
    socket.write('x'.repeat(300))
    await new Promise((resolve) => socket.on('close', resolve))
    expect(lines().at(-1)).toContain('at most 200 characters')
    await expect.poll(heardAt).toBeNull()
    const stranger = connect(Number(/:(\d+)$/.exec(door?.words ?? '')?.[1]), '127.0.0.1')
    stranger.write('KEY no-such-key-anywhere\n')
    await new Promise((resolve) => stranger.resume().on('close', resolve))
    door?.close()
  })
})
