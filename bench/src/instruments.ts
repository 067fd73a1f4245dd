import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { get } from 'node:http'
import { connect, type Socket } from 'node:net'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { password, preparePlant } from './fill'
import type { Row } from './measure'
import { startProcess, stopped } from './processes'

const { define, equip, people, record, run } = endpoints
const instruments = 50
const perSecond = 4
const seconds = Number(process.env['BENCH_INSTRUMENT_SECONDS'] ?? 60)
const wanted = instruments * perSecond * seconds

interface Line {
  /** What the instrument says first. */
  readonly key: string
  /** Where its page listens. */
  readonly path: string
  readonly cookie: string
}
interface Measured {
  readonly p95: number
  readonly seen: number
  readonly doubled: number
  readonly answered: number
}

const portOf = (said: string) => Number(/Instruments connect at \S+:(\d+)/.exec(said)?.[1])

/** Each instrument sends at its own beat; when its page sees a value is looked at by that value, which no other one of it has. */
async function play(base: string, port: number, lines: readonly Line[]): Promise<Measured> {
  const sentAt = new Map<string, number>()
  const seen = new Map<string, number>()
  const times: number[] = []
  let answered = 0
  const sockets: Socket[] = []
  for (const [i, { key, path, cookie }] of lines.entries()) {
    await new Promise<void>((resolve) => {
      get(`${base}${path}`, { headers: { cookie }, agent: false }, (response) => {
        response.setEncoding('utf8')
        let rest = ''
        response.on('data', (text: string) => {
          const events = (rest + text).split('\n\n')
          rest = events.pop() ?? ''
          for (const event of events) {
            const value = /event: value\ndata: .*"value":"([\d.]+)"/.exec(event)?.[1]
            const name = `${i} ${value}`
            if (value === undefined || !sentAt.has(name)) continue
            if (!seen.has(name)) times.push(performance.now() - (sentAt.get(name) ?? 0))
            seen.set(name, (seen.get(name) ?? 0) + 1)
          }
        })
        resolve()
      })
    })
    const socket = connect(port, '127.0.0.1').setEncoding('utf8').setNoDelay()
    socket.on('data', (text: Buffer | string) => (answered += String(text).match(/HEARD/g)?.length ?? 0))
    socket.write(`KEY ${key}\n`)
    sockets.push(socket)
  }
  await new Promise((resolve) => setTimeout(resolve, 500))
  const began = performance.now()
  let count = 0
  while (count < wanted) {
    const due = Math.min(wanted, Math.floor(((performance.now() - began) / 1000) * instruments * perSecond))
    for (; count < due; count++) {
      const i = count % instruments
      const n = Math.floor(count / instruments)
      const value = `0.30${String(n).padStart(6, '0')}1`
      sentAt.set(`${i} ${value}`, performance.now())
      sockets[i]?.write(`VALUE ${n} ${value} mm\n`)
    }
    await new Promise((resolve) => setTimeout(resolve, 2))
  }
  for (let waited = 0; seen.size < wanted && waited < 100; waited++) await new Promise((resolve) => setTimeout(resolve, 100))
  for (const socket of sockets) socket.destroy()
  const p95 = times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? NaN
  return { p95, seen: seen.size, doubled: [...seen.values()].filter((often) => often > 1).length, answered }
}

async function ours(): Promise<Measured & { kept: number }> {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  await preparePlant(folder, 5)
  const environment = { NEMAWASHI_DATA: folder, PORT: '0', NEMAWASHI_LOG: 'error', NEMAWASHI_INSTRUMENT_PORT: '0' }
  const { base, child, output } = await startProcess('node', ['server/dist/main.js'], environment)
  const client = new ApiClient(base)
  await client.call(people.signIn, { body: { signInName: 'bench', password } })
  const kind = await client.call(define.gaugeKinds.create, {
    body: { code: 'Caliper', name: 'Caliper', isAsked: false, isWaivable: true, isActive: true },
  })
  const [part] = (await client.call(define.parts.list, { query: {} })).rows as { id: string }[]
  const [supplier] = (await client.call(define.partners.list, { query: {} })).rows as { id: string }[]
  const lines: Line[] = []
  for (let i = 0; i < instruments; i++) {
    const gauge = await client.call(equip.createGauge, {
      body: {
        ...{ code: `CAL-${i}`, name: 'Caliper', kindId: kind.id, maker: '', serialNumber: '', resolution: '0.001', unit: 'mm' },
        ...{ lower: null, upper: null, calibratedOn: null, intervalMonths: null },
      },
    })
    const { key } = await client.call(equip.giveInstrumentKey, { params: { id: gauge.id } })
    const goods = { partId: part?.id ?? '', supplierLot: `L-${i}`, quantity: 50, containers: [] }
    const delivery = await client.call(run.receiveDelivery, { body: { supplierId: supplier?.id ?? '', orderNumber: `${i}`, lines: [goods] } })
    const params = { id: delivery.lots[0]?.inspections[0]?.id ?? '' }
    const inspection = await client.call(record.getInspection, { params })
    await client.call(record.chooseGauge, { params, body: { lineId: inspection.lines[0]?.id ?? '', code: gauge.code, reason: '' } })
    lines.push({ key, path: `/api/v1/inspections/${params.id}/sent-values`, cookie: client.cookies })
  }
  const measured = await play(base, portOf(output()), lines)
  const { total: kept } = await client.call(equip.listSentValues, { query: { limit: 1 } })
  await stopped(child)
  rmSync(folder, { recursive: true, force: true })
  return { ...measured, kept }
}

async function bare(): Promise<Measured> {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  const { base, child, output } = await startProcess('node_modules/.bin/tsx', ['bench/src/bareRelay.ts', join(folder, 'bare.db')], {})
  const lines = Array.from({ length: instruments }, (_, i) => ({ key: `k${i}`, path: `/k${i}`, cookie: '' }))
  const measured = await play(base, portOf(output()), lines)
  await stopped(child)
  rmSync(folder, { recursive: true, force: true })
  return measured
}

/** Instruments on lines of their own, each heard by a bench of its own: from the write to the event at the page's connection. */
export async function benchInstruments(): Promise<Row[]> {
  const [plain, plant] = [await bare(), await ours()]
  const isWhole = plant.seen === wanted && plant.doubled === 0 && plant.kept === wanted && plant.answered === wanted
  return [
    {
      what: `${instruments} instruments, ${perSecond} values a second each, ${seconds} s: p95`,
      ours: `${plant.p95.toFixed(1)} ms`,
      bare: `${plain.p95.toFixed(1)} ms`,
      ratio: `${(plant.p95 / plain.p95).toFixed(1)} ×`,
      target: '< 250 ms',
      isMet: plant.p95 < 250,
    },
    {
      what: '… nothing lost or doubled',
      ours: `${plant.seen} seen, ${plant.kept} kept`,
      bare: `${wanted} sent`,
      ratio: '–',
      target: 'all, once',
      isMet: isWhole,
    },
  ]
}
