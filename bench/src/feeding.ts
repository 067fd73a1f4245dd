import { endpoints } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import Database from 'better-sqlite3'
import { Agent, request } from 'node:http'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { password, preparePlant } from './fill'
import type { Row } from './measure'
import { startServer, stopped } from './processes'

const { people } = endpoints
const perSecond = 200
const seconds = Number(process.env['BENCH_FEED_SECONDS'] ?? 60)

/** Events of another system at a steady rate, each in a request of its own; every tenth is sent twice. */
export async function benchFeeding(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'nemawashi-bench-'))
  await preparePlant(folder, 100)
  const { base, child } = await startServer(folder)
  const client = new ApiClient(base)
  await client.call(people.signIn, { body: { signInName: 'bench', password } })
  const system = await client.call(people.createPerson, {
    body: { name: 'Orders', initials: 'O', signInName: 'orders', roles: ['orderFeed'], password },
  })
  const { token } = await client.call(people.giveToken, { params: { id: system.id }, body: { version: system.version } })
  const agent = new Agent({ keepAlive: true, maxSockets: 32 })
  const taken: number[] = []
  /** What was answered to those that were not taken. */
  const failures: string[] = []
  const send = (key: string) =>
    new Promise<void>((resolve) => {
      const body = { supplier: 'S', orderNumber: key, lines: [{ part: 'P', supplierLot: key, quantity: 5 }] }
      const text = JSON.stringify({ events: [{ key, kind: 'delivery', body }] })
      const began = performance.now()
      const headers = { authorization: `Bearer ${token}`, 'content-type': 'application/json', 'content-length': Buffer.byteLength(text) }
      const sent = request(`${base}/api/v1/feed/events`, { method: 'POST', agent, headers }, (response) => {
        const chunks: Buffer[] = []
        response.on('data', (chunk: Buffer) => chunks.push(chunk))
        response.on('end', () => {
          taken.push(performance.now() - began)
          if (response.statusCode !== 200) failures.push(`${response.statusCode} ${Buffer.concat(chunks).toString().slice(0, 200)}`)
          resolve()
        })
      })
      sent.on('error', (error) => {
        failures.push(String(error))
        resolve()
      })
      sent.end(text)
    })
  const began = performance.now()
  const all: Promise<void>[] = []
  let count = 0
  while (count < perSecond * seconds) {
    const due = Math.min(perSecond * seconds, Math.floor(((performance.now() - began) / 1000) * perSecond))
    for (; count < due; count++) all.push(send(`K-${count % 10 === 9 ? count - 1 : count}`))
    await new Promise((resolve) => setTimeout(resolve, 5))
  }
  await Promise.all(all)
  const tookSeconds = (performance.now() - began) / 1000
  agent.destroy()
  await stopped(child)
  const database = new Database(join(folder, 'nemawashi.sqlite'), { readonly: true })
  const { n } = database.prepare(`SELECT COUNT(*) AS n FROM feed_event WHERE state = 'taken'`).get() as { n: number }
  const { n: deliveries } = database.prepare('SELECT COUNT(*) AS n FROM delivery').get() as { n: number }
  database.close()
  rmSync(folder, { recursive: true, force: true })
  const wanted = perSecond * seconds - Math.floor((perSecond * seconds) / 10)
  const p95 = [...taken].sort((a, b) => a - b)[Math.floor(taken.length * 0.95)] ?? NaN
  for (const failure of failures.slice(0, 5)) console.log(`not taken: ${failure}`)
  const isWhole = failures.length === 0 && n === wanted && deliveries === wanted + 1
  return [
    {
      what: `feed, ${perSecond} events a second for ${seconds} s, p95 of an answer`,
      ours: `${p95.toFixed(0)} ms, in ${tookSeconds.toFixed(0)} s`,
      bare: `${(1000 / perSecond).toFixed(0)} ms, between two`,
      ratio: `${(p95 / (1000 / perSecond)).toFixed(1)} ×`,
      target: '< 60 ms',
      isMet: p95 < 60,
    },
    {
      what: 'feed, nothing lost or doubled',
      ours: `${n} taken, ${failures.length} failed`,
      bare: `${wanted} sent`,
      ratio: '–',
      target: 'all, once',
      isMet: isWhole,
    },
  ]
}
