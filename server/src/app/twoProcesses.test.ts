import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { endpoints, type Delivery, type Role } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { isOnServer, testPlace } from '../testing/database'
import { password, refusal, stock, type Plant } from '../testing/plant'
import { verifyPlant } from '../kernel/verify/verifyPlant'
import { schema, verifications } from './areas'

const { define, equip, people, record, run } = endpoints
let counter = 10
const main = join(import.meta.dirname, '../main.ts')

interface Served {
  readonly base: string
  readonly said: string
  readonly child: ChildProcess
}

/** A server process of its own, as `npm start` runs it. */
async function serve(folder: string, databaseServer: string): Promise<Served> {
  const child = spawn(process.execPath, ['--import', 'tsx', main], {
    env: {
      ...process.env,
      PORT: '0',
      NEMAWASHI_DATA: folder,
      NEMAWASHI_DATABASE: databaseServer,
      NEMAWASHI_CHECK_REPLIES: '1',
      NEMAWASHI_GIVEN_PASSWORDS: 'keep',
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  let said = ''
  return new Promise((resolve, reject) => {
    const take = (chunk: Buffer) => {
      said += chunk
      const base = /ready at (\S+)/.exec(said)?.[1]
      if (base) resolve({ base, said, child })
    }
    child.stdout.on('data', take)
    child.stderr.on('data', take)
    child.on('exit', (code) => reject(new Error(`The server ended with ${code}: ${said}`)))
  })
}

/** What two servers of one plant do to each other; on a database server only, as a file belongs to one process. */
describe.skipIf(!isOnServer)('two server processes on one plant', () => {
  let place: Awaited<ReturnType<typeof testPlace>>
  let folders: string[]
  let servers: Served[]
  /** Signed in once; the session is the same at every process. */
  let cookie: string
  let goods: { supplierId: string; partId: string }
  let as: (role: Role) => Promise<ApiClient>
  const at = (i: number) => servers[i] as Served

  const client = (i: number, session = cookie) => new ApiClient(at(i).base, session)
  async function signIn(i: number, signInName: string): Promise<string> {
    const fresh = client(i, '')
    await fresh.call(people.signIn, { body: { signInName, password } })
    return fresh.cookies
  }
  const whoIs = async (i: number, session: string) => (await client(i, session).call(people.getSession, {})).person?.signInName ?? null
  const deliver = (i: number, orderNumber: string, key?: string) => {
    const lines = [{ partId: goods.partId, supplierLot: orderNumber, quantity: 40, containers: [] }]
    return client(i).call(run.receiveDelivery, { body: { supplierId: goods.supplierId, isAnother: true, orderNumber, lines } }, key)
  }

  beforeAll(async () => {
    place = await testPlace()
    folders = [0, 1].map(() => mkdtempSync(join(tmpdir(), 'nemawashi-test-')))
    servers = []
    for (const folder of folders) servers.push(await serve(folder, place.databaseServer ?? ''))
    const administrator = new ApiClient(at(0).base)
    const code = /enters this code on the page: (\S+)/.exec(at(0).said)?.[1] ?? ''
    await administrator.call(people.createFirstAdministrator, { body: { code, name: 'Admin', initials: 'AD', signInName: 'admin', password } })
    const clients = new Map<string, ApiClient>()
    as = async (role: Role) => {
      if (!clients.has(role)) {
        await administrator.call(people.createPerson, { body: { name: role, initials: 'XX', signInName: role, roles: [role], password } })
        const client = new ApiClient(at(0).base)
        await client.call(people.signIn, { body: { signInName: role, password } })
        clients.set(role, client)
      }
      return clients.get(role) as ApiClient
    }
    const made = await stock({ as } as unknown as Plant)
    await made.point((await made.plan('PL-1', [{ characteristicId: made.measured.id }])).id)
    goods = { supplierId: made.supplier.id, partId: made.part.id }
    await as('receivingClerk')
    cookie = await signIn(1, 'receivingClerk')
  }, 120_000)
  afterAll(async () => {
    for (const { child } of servers) child.kill('SIGKILL')
    await place.remove()
    for (const folder of folders) rmSync(folder, { recursive: true, force: true })
  })

  it('know the sessions that the other one began and ended', async () => {
    const own = await signIn(0, 'qualityEngineer')
    expect([await whoIs(0, own), await whoIs(1, own)]).toEqual(['qualityEngineer', 'qualityEngineer'])
    await client(1, own).call(people.signOut, {})
    expect([await whoIs(0, own), await whoIs(1, own)]).toEqual([null, null])
  })

  it('count the tries at a password together', async () => {
    const codes = []
    for (const i of [0, 1, 0, 1, 0])
      codes.push((await refusal(client(i, '').call(people.signIn, { body: { signInName: 'nobody', password: 'wrong' } })))?.code)
    expect(codes).toEqual(['sign_in_failed', 'sign_in_failed', 'sign_in_failed', 'too_many_attempts', 'too_many_attempts'])
  })

  it('write one chain and one ledger, each number once, and answer a key that both were given once', async () => {
    const made = await Promise.all(Array.from({ length: 40 }, (_, i) => deliver(i % 2, `O-${i}`)))
    expect(new Set(made.map(({ code }) => code)).size).toBe(40)
    expect(new Set(made.flatMap(({ lots }) => lots.map(({ code }) => code))).size).toBe(40)
    const twice = await Promise.all([0, 1, 0, 1].map((i) => deliver(i, 'O-twice', 'one-key')))
    expect(new Set(twice.map(({ code }) => code)).size).toBe(1)
    expect((await verifyPlant(place.databaseServer ?? '', schema, { also: verifications })).breaks).toEqual([])
  })

  it('tell a bench at one what an instrument sends to the other, once, and know at both that it is there', async () => {
    const engineer = client(1, await signIn(1, 'qualityEngineer'))
    await as('inspector')
    const session = await signIn(0, 'inspector')
    const inspector = client(0, session)
    const kind = await engineer.call(define.gaugeKinds.create, {
      body: { code: 'Feeler', name: 'Feeler', isAsked: false, isWaivable: true, isActive: true },
    })
    const numbers = { resolution: null, unit: 'mm', lower: null, upper: null, calibratedOn: null, intervalMonths: null }
    const gauge = await engineer.call(equip.createGauge, {
      body: { code: 'F-1', name: 'F', kindId: kind.id, maker: '', serialNumber: '', ...numbers },
    })
    const { key } = await engineer.call(equip.giveInstrumentKey, { params: { id: gauge.id } })
    const params = { id: (await deliver(0, 'O-sent')).lots[0]?.inspections[0]?.id ?? '' }
    const { lines } = await inspector.call(record.getInspection, { params })
    await inspector.call(record.chooseGauge, { params, body: { lineId: lines[0]?.id ?? '', code: 'F-1', reason: '' } })
    const leaving = new AbortController()
    const stream = await fetch(`${at(0).base}/api/v1/inspections/${params.id}/sent-values`, { headers: { cookie: session }, signal: leaving.signal })
    let told = ''
    void stream.body
      ?.pipeThrough(new TextDecoderStream())
      .pipeTo(new WritableStream({ write: (text) => void (told += text) }))
      .catch(() => undefined)
    const send = (i: number, sendId: string) =>
      fetch(`${at(i).base}/api/v1/instrument/values`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', authorization: `Bearer ${key}` },
        body: JSON.stringify({ values: [{ sendId, value: `0.30${sendId}` }] }),
      }).then(async (answer) => ((await answer.json()) as { answers: { outcome: string }[] }).answers[0]?.outcome)
    await expect.poll(() => send(1, String(counter++))).toBe('heard')
    expect(await send(0, '9')).toBe('heard')
    await expect.poll(() => told.match(/event: value/g)?.length).toBe(2)
    expect(told).toContain('"agoMs":0')
    const { instrument } = await client(0, session).call(equip.getInstrument, { params: { id: gauge.id } })
    expect(instrument?.heardAt).toMatch(/Z$/)
    leaving.abort()
    await expect.poll(() => send(1, String(counter++))).toBe('unheard')
  })

  it('lose nothing that was acknowledged when one of them is killed, and the other one goes on', async () => {
    const acknowledged: string[] = []
    const take = ({ id }: Delivery) => {
      if (acknowledged.push(id) === 5) at(1).child.kill('SIGKILL')
    }
    await Promise.all(Array.from({ length: 30 }, (_, i) => deliver(i % 2, `K-${i}`).then(take, () => null)))
    // All that the first one was asked for, and what the other one answered before it was gone.
    expect(acknowledged.length).toBeGreaterThanOrEqual(15)
    for (const id of acknowledged) expect((await client(0).call(run.getDelivery, { params: { id } })).id).toBe(id)
    expect((await deliver(0, 'K-after')).code).toMatch(/^D-/)
    expect((await verifyPlant(place.databaseServer ?? '', schema, { also: verifications })).breaks).toEqual([])
  })
})
