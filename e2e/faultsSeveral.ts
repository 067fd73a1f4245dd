/** Several servers at one plant on a database server, behind a proxy that takes them in turn: they and the database are killed while everybody writes. */
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { endpoints } from '@nemawashi/contract'
import { ApiClient, ApiError } from '@nemawashi/contract/client'
import { password } from '@nemawashi/demo'
import { Client } from 'pg'
import type { Outcome } from './faults'
import { demoFolder, Installation } from './installation'
import { RoundRobin } from './roundRobin'

const { define, people, run } = endpoints
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
/** What one of the servers does for all holds this lock of the database. */
const leadLock = 4723
const maxTakeOverMs = 5_000

/** Another system that is told of what is free, and counts how often it is told of each. */
async function receiver() {
  const received = new Map<string, number>()
  const server = createServer((request, answer) => {
    let text = ''
    request.on('data', (chunk: Buffer) => (text += chunk.toString()))
    request.on('end', () => {
      const { about } = JSON.parse(text) as { about: string }
      received.set(about, (received.get(about) ?? 0) + 1)
      answer.end('{}')
    })
  }).listen(0, '127.0.0.1')
  await new Promise((resolve) => server.once('listening', resolve))
  return { told: received, url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`, close: () => server.close() }
}

/** A question to the database itself; null while it cannot be asked. */
async function ask<T extends object>(address: string, sql: string): Promise<T[] | null> {
  const client = new Client({ connectionString: address, connectionTimeoutMillis: 2_000 })
  client.on('error', () => undefined)
  try {
    await client.connect()
    return (await client.query<T>(sql)).rows
  } catch {
    return null
  } finally {
    await client.end().catch(() => undefined)
  }
}
const leaderOf = async (address: string) =>
  (await ask<{ pid: number }>(address, `SELECT pid FROM pg_locks WHERE locktype = 'advisory' AND objid = ${leadLock} AND granted`))?.[0]?.pid ?? null

/** A part that nothing is asked of, so that each delivery of it is free at once and told of. */
async function freePart(client: ApiClient): Promise<{ partId: string; supplierId: string }> {
  const operation = (await client.call(define.operations.create, { body: { code: 'RCV-S', name: 'Side door', kind: 'receiving' } as never })) as {
    id: string
  }
  const body = {
    code: 'SEV-1',
    name: 'Rag',
    revision: 'A',
    unit: 'piece',
    tracking: 'lot',
    familyId: null,
    putAwayPlaceId: null,
    operationIds: [operation.id],
  }
  const part = (await client.call(define.parts.create, { body: body as never })) as { id: string }
  const { rows } = await client.call(define.partners.list, { query: { q: 'GWB' } })
  return { partId: part.id, supplierId: (rows as { id: string }[])[0]?.id ?? '' }
}

interface Writers {
  readonly acknowledged: string[]
  readonly tries: () => number
  stop(): Promise<void>
}

/** Clerks who book deliveries in through the proxy; each is sent again under its key until it is acknowledged. */
async function clerks(base: string, goods: { partId: string; supplierId: string }, count: number, failures: string[]): Promise<Writers> {
  const client = new ApiClient(base)
  await client.call(people.signIn, { body: { signInName: 'dario', password } })
  const acknowledged: string[] = []
  let isRunning = true
  let tries = 0
  const book = async (code: string): Promise<void> => {
    const lines = [{ partId: goods.partId, supplierLot: code, quantity: 5, containers: [] }]
    for (let again = 0; again < 400; again++) {
      tries += 1
      try {
        await client.call(
          run.receiveDelivery,
          { body: { supplierId: goods.supplierId, orderNumber: 'SEVERAL', isAnother: true, lines } as never },
          `key of ${code}`,
        )
        acknowledged.push(code)
        return
      } catch (error) {
        // Refused for what it says: it would be so again.
        if (error instanceof ApiError && error.status < 500 && error.status !== 401) return void failures.push(`${code}: ${error.message}`)
        await pause(60)
      }
    }
    failures.push(`${code} was never acknowledged`)
  }
  const all = Array.from({ length: count }, async (_, clerk) => {
    for (let i = 0; isRunning; i++) await book(`V-${clerk}-${i}`)
  })
  return {
    acknowledged,
    tries: () => tries,
    async stop() {
      isRunning = false
      await Promise.all(all)
    },
  }
}

/** A process of the database dies, and with it, for a moment, the database: every connection is cut, and what was not committed is gone. */
async function crashDatabase(address: string): Promise<void> {
  const [victim] =
    (await ask<{ pid: number }>(
      address,
      `SELECT pid FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid() LIMIT 1`,
    )) ?? []
  if (victim) process.kill(victim.pid, 'SIGKILL')
  for (let i = 0; i < 100 && (await ask(address, 'SELECT 1')) === null; i++) await pause(100)
}

/** @param rounds how often a server, or the database, is killed in turn */
export async function severalServers(rounds: number): Promise<Outcome> {
  const name = 'three servers, killed in turn with their database'
  if (!process.env['NEMAWASHI_TEST_POSTGRES']) return { name, figures: { skipped: 1 }, failures: [] }
  const other = await receiver()
  const around = () => ({ NEMAWASHI_WEBHOOK: other.url, NEMAWASHI_WEBHOOK_SECRET: 'a secret of sixteen and more' })
  const first = await Installation.start(demoFolder(), null, around)
  const servers = [first, await Installation.beside(first, around()), await Installation.beside(first, around())]
  const proxy = await RoundRobin.before(() => servers.map(({ base }) => base))
  const address = first.address ?? ''
  const failures: string[] = []
  let longestTakeOverMs = 0
  let takeOvers = 0
  let kills = 0
  try {
    const engineer = new ApiClient(proxy.base)
    await engineer.call(people.signIn, { body: { signInName: 'ilse', password } })
    const writers = await clerks(proxy.base, await freePart(engineer), 4, failures)
    for (let round = 0; round < rounds; round++) {
      await pause(700 + ((round * 137) % 400))
      const led = await leaderOf(address)
      if (round % 4 === 3) await crashDatabase(address)
      else {
        const server = servers[round % 4] as Installation
        kills += 1
        await server.end('SIGKILL')
        const beganMs = performance.now()
        for (let now = await leaderOf(address); now === null || now === led; now = await leaderOf(address)) {
          // Another one was killed: the leader goes on.
          if (now === led && now !== null && performance.now() - beganMs > 300) break
          if (performance.now() - beganMs > 2 * maxTakeOverMs) {
            failures.push(`nobody took over within ${2 * maxTakeOverMs} ms`)
            break
          }
          await pause(50)
        }
        if ((await leaderOf(address)) !== led) {
          takeOvers += 1
          longestTakeOverMs = Math.max(longestTakeOverMs, performance.now() - beganMs)
        }
        await server.begin()
      }
    }
    await writers.stop()
    if (longestTakeOverMs > maxTakeOverMs) failures.push(`taking over took ${Math.round(longestTakeOverMs)} ms`)
    if (takeOvers === 0) failures.push('the one that leads was never killed: nothing was taken over')
    const booked =
      (await ask<{ code: string; n: string }>(
        address,
        `SELECT supplier_lot AS code, COUNT(*) AS n FROM lot WHERE supplier_lot LIKE 'V-%' GROUP BY 1`,
      )) ?? []
    const known = new Map(booked.map(({ code, n }) => [code, Number(n)]))
    const lost = writers.acknowledged.filter((code) => !known.has(code))
    if (lost.length > 0) failures.push(`${lost.length} acknowledged deliveries are lost`)
    const doubled = booked.filter(({ n }) => Number(n) > 1)
    if (doubled.length > 0) failures.push(`${doubled.length} deliveries are there twice`)
    for (let i = 0; i < 1_000 && other.told.size < known.size; i++) await pause(100)
    if (other.told.size < known.size) failures.push(`the other system was told of ${other.told.size} of ${known.size} deliveries`)
    // One that was being told when its server died is told once more, under the same number: whoever is told knows it again.
    const twice = [...other.told.values()].filter((times) => times > 1).length
    if (twice > kills) failures.push(`the other system was told of ${twice} deliveries twice, and ${kills} servers were killed`)
    for (const server of servers) await server.end()
    const { status, output } = first.command('verify')
    if (status !== 0) failures.push(output)
    const figures = {
      rounds,
      acknowledged: writers.acknowledged.length,
      tries: writers.tries(),
      takeOvers,
      longestTakeOverMs: Math.round(longestTakeOverMs),
      toldTwice: twice,
    }
    return { name, figures, failures: failures.slice(0, 10) }
  } finally {
    proxy.close()
    other.close()
    for (const server of servers.toReversed()) await server.remove()
  }
}
