import { endpoints } from '@nemawashi/contract'
import { spawn, type ChildProcess } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { objections } from './accessibility'
import { lineToInspect } from './mainViews'
import { standing } from './stand'

const { equip, record } = endpoints
const plant = standing(() => ({ NEMAWASHI_INSTRUMENT_PORT: '0' }))
let standIns: ChildProcess | null = null
let page = ''

/** The instruments that ship with the plant, beside it: pressed and misled over their own page. */
async function beside(): Promise<void> {
  const { folder, instrumentPort } = plant.plant()
  const child = spawn('node', [join(import.meta.dirname, '../standins/instruments.mjs')], {
    env: {
      ...process.env,
      INSTRUMENTS: readFileSync(join(folder, 'instruments.json'), 'utf8'),
      INSTRUMENT_PORT: String(instrumentPort),
      INSTRUMENTS_PAGE_PORT: '0',
    },
  })
  standIns = child
  page = await new Promise((resolve) => child.stdout.on('data', (said: Buffer) => resolve(/at (http:\S+)/.exec(said.toString())?.[1] ?? '')))
}
afterAll(() => void standIns?.kill())
const tell = (path: 'press' | 'set', body: object) => fetch(`${page}/${path}`, { method: 'POST', body: JSON.stringify({ code: 'SPT-1', ...body }) })

it('a press goes into the open cell; a wrong unit, a bounce, a late press and what is being typed are told apart, and nothing is lost', async () => {
  await beside()
  const inspector = await plant.api('rosa')
  const { id, line, at } = await lineToInspect(inspector, ({ details, sampleSize }) => details.gaugeKind === 'Spring tester' && sampleSize > 5)
  const hand = await plant.sit('rosa', `/record/${id}`)
  await hand.page.waitForSelector('.bench')
  for (let i = 0; i < at; i++) await hand.press('PageDown')
  await hand.getsCursor('[data-field=gauge]')
  await hand.type('SPT-1')
  await hand.press('Enter')
  await hand.sees('Connected: press it, and its value is the next one.')
  expect(await objections(hand)).toEqual([])
  const nominal = line.nominal ?? ''

  await tell('press', { value: nominal })
  await hand.sees(`${line.name} · piece 2 of`)
  // The button bounces: one piece.
  await tell('set', { doublePress: true })
  await tell('press', { value: '5.1' })
  await hand.sees(`${line.name} · piece 3 of`)
  await tell('set', { doublePress: false, wrongUnit: true })
  await tell('press', { value: '5.2' })
  await hand.sees('5.2 kg from SPT-1: it does not convert to what the line is measured in')
  await hand.take('[data-test=leave-sent-0]')
  await tell('set', { wrongUnit: false })

  // What is being typed stays; the value waits, and is taken by key when the cell is free.
  await hand.type('4')
  await tell('press', { value: '4.9' })
  await hand.sees('4.9 N from SPT-1: something is being typed')
  expect(await hand.valueOf('input.big')).toBe('4')
  await hand.press('Backspace')
  await hand.chord('Shift', 'T')
  await hand.sees(`${line.name} · piece 4 of`)

  // Outside the limits it is asked about, as what is typed is.
  await tell('press', { value: '9.9' })
  await hand.sees('Is that what you measured?')
  await hand.press('N')

  // Pressed while its connection was broken: it comes late, and goes into no cell by itself.
  await tell('set', { disconnected: true })
  await hand.sees('It sends its values, and is not connected.')
  await tell('press', { value: '5.3' })
  await new Promise((resolve) => setTimeout(resolve, 5_200))
  await tell('set', { disconnected: false })
  await hand.sees('5.3 N from SPT-1: it was pressed earlier and came late')
  expect(await objections(hand)).toEqual([])
  await hand.take('[data-test=take-sent]')
  await hand.sees(`${line.name} · piece 5 of`)
  await hand.sees('Everything typed is stored.')
  const own = (await inspector.call(record.getInspection, { params: { id } })).readings.filter(({ lineId }) => lineId === line.id)
  expect(own.map(({ piece, value, isSent, gaugeCode }) => [piece, Number(value), isSent, gaugeCode])).toEqual([
    [1, Number(nominal), true, 'SPT-1'],
    [2, 5.1, true, 'SPT-1'],
    [3, 4.9, true, 'SPT-1'],
    [4, 5.3, true, 'SPT-1'],
  ])

  // Another bench takes it; this one says so, and takes it back.
  const second = await plant.sit('rosa', `/record/${id}`)
  await second.page.waitForSelector('.bench')
  await hand.sees('Heard elsewhere now (Rosa Lindqvist')
  await hand.take('[data-test=listen-again]')
  await hand.sees('Connected: press it')
  await tell('press', { value: '5' })
  await hand.sees(`${line.name} · piece 6 of`)
  await hand.sees('Everything typed is stored.')
  const [last] = (await inspector.call(equip.listSentValues, { query: { limit: 1 } })).rows
  expect(last).toMatchObject({ value: '5', outcome: 'heard', isTaken: true })
})

it('the register gives an instrument its key once, shows what it sent, and ends the key', async () => {
  const engineer = await plant.api('ilse')
  const [gauge] = (await engineer.call(equip.listGauges, { query: { q: 'MIC-04' } })).rows
  const hand = await plant.sit('ilse', `/equip/gauges/${gauge?.id}`)
  await hand.page.waitForSelector('[data-test=give-key]')
  await hand.take('[data-test=give-key]')
  await hand.confirm()
  await hand.page.waitForSelector('[data-test=instrument-key] code')
  const key = await hand.textOf('[data-test=instrument-key] code')
  const send = (values: object[], secret = key) =>
    fetch(`${plant.plant().base}/api/v1/instrument/values`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', authorization: `Bearer ${secret}` },
      body: JSON.stringify({ values }),
    })
  const answer = await (await send([{ sendId: '1', value: '5,991', unit: 'mm' }])).json()
  expect(answer).toMatchObject({ gauge: 'MIC-04', answers: [{ sendId: '1', outcome: 'unheard' }] })
  await hand.open(`/equip/gauges/${gauge?.id}`)
  await hand.sees('no bench listened')
  expect(await objections(hand)).toEqual([])
  await hand.take('[data-test=end-key]')
  await hand.confirm()
  await hand.sees('MIC-04 sends nothing more.')
  expect((await send([])).status).toBe(401)
})
