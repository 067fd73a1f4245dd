import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { endpoints, type FeedAnswer, type FeedEventInput } from '@nemawashi/contract'
import type { ApiClient } from '@nemawashi/contract/client'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { decideAll, inspect, password, receive, refusal, startPlant, stock, type Plant } from '../../testing/plant'
import { verifyLedger } from '../../stock/ledger/ledgerRepository'
import { signatureOf, sendingWebhooks, waitMs } from './webhooks'

const { define, people, run } = endpoints
const secret = 'a-secret-of-the-test'
let plant: Plant
let goods: Awaited<ReturnType<typeof stock>>
let token = ''
let other: Server
/** What the other system was told, and what it answers. */
const told: { text: string; signature: string }[] = []
let answers = 200
beforeAll(async () => {
  other = createServer((request, response) => {
    let text = ''
    request.on('data', (chunk: Buffer) => (text += chunk.toString()))
    request.on('end', () => {
      if (answers === 200) told.push({ text, signature: String(request.headers['x-signature']) })
      response.writeHead(answers).end()
    })
  }).listen(0, '127.0.0.1')
  await new Promise((resolve) => other.once('listening', resolve))
  const url = `http://127.0.0.1:${(other.address() as AddressInfo).port}/told`
  plant = await startPlant({ NEMAWASHI_WEBHOOK: url, NEMAWASHI_WEBHOOK_SECRET: secret })
  goods = await stock(plant)
  await goods.point((await goods.plan('PL-1', [{ characteristicId: goods.judged.id }])).id)
  const line = { code: 'LINE', name: 'Line', purpose: 'production', countsForPlanning: false } as const
  await goods.make(define.places, line)
  const system = await plant.administrator.call(people.createPerson, {
    body: { name: 'Order system', initials: 'OS', signInName: 'orders', roles: ['orderFeed'], password },
  })
  token = (await plant.administrator.call(people.giveToken, { params: { id: system.id }, body: { version: system.version } })).token
})
afterAll(async () => {
  other.close()
  await plant.stop()
})

async function post(events: readonly unknown[], with_ = token): Promise<{ status: number; answers: FeedAnswer[] }> {
  const headers = { 'Content-Type': 'application/json', Authorization: `Bearer ${with_}` }
  const response = await fetch(`${plant.base}/api/v1/feed/events`, { method: 'POST', headers, body: JSON.stringify({ events }) })
  return { status: response.status, ...((await response.json()) as { answers: FeedAnswer[] }) }
}
let keys = 0
const delivery = (change: object = {}, key = `D-${++keys}`): FeedEventInput => ({
  key,
  kind: 'delivery',
  body: { supplier: 'SUP', orderNumber: '77', lines: [{ part: 'P-1', supplierLot: key, quantity: 20, ...change }] },
})
const count = async (table: string) =>
  Number(((await plant.kernel.database.reader.query(`SELECT COUNT(*) AS n FROM ${table}`)) as { n: number }[])[0]?.n)
const clerk = () => plant.as('receivingClerk')

describe('the key of another system', () => {
  it('lets it send and do nothing else; the next key ends it, and nobody but a feed gets one', async () => {
    expect((await post([delivery()])).answers).toMatchObject([{ state: 'taken', subjectCode: 'D-000001' }])
    expect(await post([delivery()], 'no-such-key-no-such-key')).toMatchObject({ status: 401 })
    const parts = await fetch(`${plant.base}/api/v1/deliveries`, {
      method: 'POST',
      headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
      body: '{}',
    })
    expect(parts.status).toBe(403)
    // Nor does it look at anything: people, lots, plans.
    for (const path of ['people', 'lots', 'plans', 'parts', 'today', 'feed/events'])
      expect([path, (await fetch(`${plant.base}/api/v1/${path}`, { headers: { Authorization: `Bearer ${token}` } })).status]).toEqual([path, 403])
    const inspector = await plant.as('inspector')
    expect((await refusal(inspector.call(run.sendEvents, { body: { events: [delivery()] } })))?.code).toBe('role_missing')
    const { rows } = await plant.administrator.call(people.listPeople, { query: { q: 'Order system' } })
    const [system] = rows
    const renew = { params: { id: system?.id ?? '' }, body: { version: system?.version ?? 0 } }
    const before = token
    token = (await plant.administrator.call(people.giveToken, renew)).token
    expect((await post([delivery()], before)).status).toBe(401)
    const person = (await plant.administrator.call(people.listPeople, { query: { q: 'inspector' } })).rows[0]
    const wrong = { params: { id: person?.id ?? '' }, body: { version: person?.version ?? 0 } }
    expect((await refusal(plant.administrator.call(people.giveToken, wrong)))?.code).toBe('not_a_feed')
    // Asked for under a key, it is answered once, and kept in no clear form.
    const again = { params: renew.params, body: { version: (await plant.administrator.call(people.getPerson, { params: renew.params })).version } }
    token = (await plant.administrator.call(people.giveToken, again, 'give-once')).token
    const kept = (await plant.kernel.database.reader.query('SELECT reply FROM request_key')) as { reply: string }[]
    expect(kept.filter(({ reply }) => reply.includes(token))).toEqual([])
    expect((await refusal(plant.administrator.call(people.giveToken, again, 'give-once')))?.code).toBe('key_reused')
  })
})

describe('what is ordered and announced', () => {
  it('comes by the feed, too; a delivery names the event that announced it, and is that delivery', async () => {
    const lines = [{ part: 'P-1', quantity: 20 }]
    const ordered = { key: 'PO-1', kind: 'purchaseOrder', body: { supplier: 'SUP', number: '900', lines } }
    const announced = { key: 'A-1', kind: 'announcement', body: { supplier: 'SUP', orderNumber: '900', expectedOn: '2026-03-05', lines } }
    const { answers } = await post([ordered, announced])
    expect(answers).toMatchObject([
      { state: 'taken', subjectCode: '900' },
      { state: 'taken', subjectCode: expect.stringMatching(/^D-/) },
    ])
    const came = delivery()
    const event = { ...came, body: { ...came.body, orderNumber: '900', announcedAs: 'A-1' } }
    expect((await post([event])).answers).toMatchObject([{ state: 'taken', subjectCode: answers[1]?.subjectCode }])
    const { rows } = await (await clerk()).call(run.listPurchaseOrders, { query: { q: '900' } })
    expect(rows).toMatchObject([{ ordered: 20, received: 20 }])
    const other = delivery()
    expect((await post([{ ...other, body: { ...other.body, announcedAs: 'A-2' } }])).answers).toMatchObject([
      { state: 'aside', code: 'reference_unknown' },
    ])
  })
})

describe('events', () => {
  it('are taken in their order: an order, its confirmations, and what they open', async () => {
    const confirmation = (good: number): FeedEventInput => ({
      key: `C-${++keys}`,
      kind: 'confirmation',
      body: { order: 'A-1', operation: 'ASM', good },
    })
    const early = confirmation(8)
    const order: FeedEventInput = { key: 'O-1', kind: 'order', body: { number: 'A-1', part: 'P-1', quantity: 10 } }
    // Out of order: confirmed before it is known. It is kept, and taken when it is sent again.
    expect((await post([early, order])).answers.map(({ state, code }) => [state, code])).toEqual([
      ['aside', 'reference_unknown'],
      ['taken', null],
    ])
    expect((await post([early])).answers).toMatchObject([{ state: 'taken', subjectCode: 'W-000001' }])
    expect((await post([confirmation(1)])).answers).toMatchObject([{ state: 'aside', code: 'order_not_so_far' }])
    expect((await post([{ ...order, key: 'O-2' }])).answers).toMatchObject([{ state: 'aside', code: 'already_exists' }])
  })

  it('name the pieces that are traced one by one: those that come, and those that a step loses', async () => {
    const step = await goods.make(define.operations, { code: 'TST', name: 'Test', kind: 'production' })
    const numbered = {
      code: 'SER',
      name: 'Numbered',
      revision: 'A',
      unit: 'piece',
      tracking: 'serial',
      familyId: null,
      putAwayPlaceId: goods.places.store.id,
    }
    await goods.make(define.parts, { ...numbered, operationIds: [goods.receiving.id, step.id] })
    const came = (serials: string[]) => delivery({ part: 'SER', quantity: 2, serials })
    expect((await post([came(['1', '2']), came(['3'])])).answers).toMatchObject([{ state: 'taken' }, { state: 'aside', code: 'serials_missing' }])
    const order: FeedEventInput = { key: 'SO-1', kind: 'order', body: { number: 'SO-1', part: 'SER', quantity: 2, customer: null } }
    await post([order])
    const { rows } = await (await clerk()).call(run.listOrders, { query: { q: 'SO-1' } })
    const made = await (await clerk()).call(run.getOrder, { params: { id: rows[0]?.id ?? '' } })
    const confirmed = (key: string, more: object): FeedEventInput => ({
      key,
      kind: 'confirmation',
      body: { order: 'SO-1', operation: 'TST', good: 1, scrapped: 1, setAside: 0, ...more },
    })
    const lost = { scrappedSerials: [made.next?.serials[1] ?? ''] }
    expect((await post([confirmed('SO-2', {}), confirmed('SO-3', lost)])).answers).toMatchObject([
      { state: 'aside', code: 'serials_missing' },
      { state: 'taken' },
    ])
  })

  it('of an unknown part are kept aside, shown, and played again after mending; what was sent first stays', async () => {
    const strange = delivery({ part: 'P-9' })
    const good = delivery()
    const { answers: both } = await post([strange, good])
    expect(both).toMatchObject([{ state: 'aside', code: 'reference_unknown', message: 'There is no part P-9.' }, { state: 'taken' }])
    const [row] = (await (await clerk()).call(run.listFeedEvents, { query: { state: 'aside', q: strange.key } })).rows
    const params = { id: row?.id ?? '' }
    const event = await (await clerk()).call(run.getFeedEvent, { params })
    expect(event).toMatchObject({ code: 'reference_unknown', facts: { field: 'lines.0.part', received: 'P-9' }, sent: null })
    const still = await (await clerk()).call(run.playAgain, { params, body: { version: event.version } })
    expect(still).toMatchObject({ state: 'aside', code: 'reference_unknown', version: event.version + 1 })
    const body = { ...strange.body, lines: [{ part: 'P-1', supplierLot: 'S', quantity: 5 }] }
    const mended = await (await clerk()).call(run.playAgain, { params, body: { version: still.version, body } })
    expect(mended).toMatchObject({ state: 'taken', subjectKind: 'delivery', sent: strange.body, body })
    expect((await refusal((await clerk()).call(run.playAgain, { params, body: { version: mended.version } })))?.code).toBe('event_not_aside')
    expect((await post([strange])).answers).toMatchObject([{ state: 'known', subjectCode: mended.subjectCode }])
  })

  it('that are not understood, or leave nothing, say what is wrong; one can be left out with a reason', async () => {
    const odd: FeedEventInput = { key: 'ODD', kind: 'delivery', body: { supplier: 'SUP', lines: [] } }
    const { answers: replies } = await post([odd, delivery({ quantity: 0 })])
    expect(replies.map(({ state, code }) => [state, code])).toEqual([
      ['aside', 'input_invalid'],
      ['aside', 'quantity_invalid'],
    ])
    expect(replies[0]?.message).toMatch(/order number/)
    const [row] = (await (await clerk()).call(run.listFeedEvents, { query: { q: 'ODD' } })).rows
    const params = { id: row?.id ?? '' }
    const left = await (await clerk()).call(run.dismissEvent, { params, body: { version: row?.version ?? 0, reason: 'a test of theirs' } })
    expect(left).toMatchObject({ state: 'dismissed', reason: 'a test of theirs' })
    expect((await post([odd])).answers).toMatchObject([{ state: 'known' }])
    expect((await post([{ key: 'x', kind: 'unheard of', body: {} }])).status).toBe(400)
  })

  it('picked for a customer name what is not there', async () => {
    const pick = { lot: 'L-999999', place: 'STORE', quantity: 1 }
    const event: FeedEventInput = { key: 'P-1', kind: 'dispatch', body: { customer: 'SUP', orderNumber: '1', picks: [pick] } }
    expect((await post([event])).answers).toMatchObject([{ state: 'aside', code: 'reference_unknown', message: 'There is no lot L-999999.' }])
  })

  it('plan a dispatch, and pick it by the key of its plan', async () => {
    await goods.make(define.partners, { code: 'CUS', name: 'Customer', kind: 'customer', isActive: true })
    await goods.make(define.places, { code: 'DOOR', name: 'DOOR', purpose: 'shipping', countsForPlanning: false })
    const { lots } = await receive(plant, goods, { quantity: 60 })
    const [lot] = lots
    await decideAll(plant, await inspect(plant, lot?.inspections[0]?.id ?? ''))
    const away = { containerId: null, fromPlaceId: goods.places.bay.id, toPlaceId: goods.places.store.id, quantity: 60 }
    await (await clerk()).call(run.putAway, { params: { id: lot?.id ?? '' }, body: away })
    const plan = {
      key: 'PD-1',
      kind: 'plannedDispatch' as const,
      body: { customer: 'CUS', orderNumber: '9', lines: [{ part: 'P-1', quantity: 40 }] },
    }
    const picked = (key: string, quantity: number, plannedAs: string): FeedEventInput => ({
      key,
      kind: 'dispatch',
      body: { customer: 'CUS', orderNumber: '9', plannedAs, picks: [{ lot: lot?.code, place: 'STORE', quantity }] },
    })
    const { answers } = await post([plan, picked('PK-1', 50, 'PD-1'), picked('PK-2', 40, 'PD-0'), picked('PK-3', 40, 'PD-1')])
    const code = answers[0]?.subjectCode
    expect(answers).toMatchObject([
      { state: 'taken', subjectCode: expect.stringMatching(/^S-/) },
      { state: 'aside', code: 'not_planned' },
      { state: 'aside', code: 'reference_unknown' },
      { state: 'taken', subjectCode: code },
    ])
  })

  it('sent again in any order, twice or cut off in the middle, change nothing more', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ part: fc.constantFrom('P-1', 'P-1', 'P-8'), quantity: fc.integer({ min: 0, max: 9 }) }), { minLength: 1, maxLength: 6 }),
        fc.nat(),
        async (lines, cut) => {
          const events = lines.map((line) => delivery(line))
          await post(events)
          const tables = ['delivery', 'lot', 'movement', 'inspection', 'hold', 'feed_event']
          const before = await Promise.all(tables.map(count))
          const good = (await plant.kernel.database.reader.query(`SELECT COUNT(*) AS n FROM feed_event WHERE state = 'taken'`)) as { n: number }[]
          await post([...events].reverse())
          await post(events.slice(0, 1 + (cut % events.length)))
          await Promise.all([post(events), post(events)])
          expect(await Promise.all(tables.map(count))).toEqual(before)
          expect(await plant.kernel.database.reader.query(`SELECT COUNT(*) AS n FROM feed_event WHERE state = 'taken'`)).toEqual(good)
        },
      ),
      { numRuns: 12 },
    )
    expect(await verifyLedger(plant.kernel.database.writer.connection)).toEqual([])
  }, 60_000)
})

describe('the other system', () => {
  const tell = sendingWebhooks()
  let work: Plant['kernel']['work']
  beforeAll(() => ({ work } = plant.kernel))
  const round = () => tell.run(work, plant.clock.now(), plant.kernel)
  /** Lets a lot go of which the other system has to be told twice; everything before it was told, and nothing while it was looked at. */
  async function release(supplierLot: string): Promise<void> {
    const asked = answers
    answers = 200
    while ((await count('notice WHERE next_at IS NOT NULL')) > 0) await round()
    told.length = 0
    answers = asked
    const { answers: replies } = await post([delivery({ supplierLot })])
    const [row] = (await (await clerk()).call(run.listDeliveries, { query: { q: replies[0]?.subjectCode ?? '' } })).rows
    const { lots } = await (await clerk()).call(run.getDelivery, { params: { id: row?.id ?? '' } })
    await round()
    expect(told).toEqual([])
    await decideAll(plant, await inspect(plant, lots[0]?.inspections[0]?.id ?? ''), 'release')
  }

  it('is told of standings and of invoices, signed, and again until it has said that it knows', async () => {
    answers = 500
    await release('TELL')
    const client: ApiClient = await clerk()
    for (let i = 0; i < 3; i++) await round()
    const { rows } = await client.call(run.listNotices, { query: { limit: 2 } })
    expect(rows.map(({ kind, tries, lastAnswer, deliveredAt }) => [kind, tries, lastAnswer, deliveredAt]).sort()).toEqual([
      ['invoiceReleased', 1, '500', null],
      ['standing', 1, '500', null],
    ])
    // It answers 500 for an hour, and nothing is lost.
    plant.clock.time += 3_600_000
    answers = 200
    for (let i = 0; i < 3; i++) await round()
    expect(told.map(({ text }) => (JSON.parse(text) as { kind: string }).kind).sort()).toEqual(['invoiceReleased', 'standing'])
    for (const { text, signature } of told) expect(signature).toBe(signatureOf(secret, text))
    expect(told.map(({ text }) => (JSON.parse(text) as { body: { standings?: object } }).body.standings).filter(Boolean)).toEqual([{ released: 20 }])
    await round()
    expect(told).toHaveLength(2)
  })

  it('is told once by two servers of one plant, and again by the other one where the first has ended before it could say so', async () => {
    await release('TWO')
    const servers = [sendingWebhooks(), sendingWebhooks()]
    await Promise.all(servers.map((server) => server.run(work, plant.clock.now(), plant.kernel)))
    expect(told.map(({ text }) => (JSON.parse(text) as { kind: string }).kind).sort()).toEqual(['invoiceReleased', 'standing'])
    await release('GONE')
    let changes = 0
    const ended = { run: (...given: Parameters<typeof work.run>) => (changes++ === 0 ? work.run(...given) : Promise.reject(new Error('gone'))) }
    await expect(sendingWebhooks().run(ended as typeof work, plant.clock.now(), plant.kernel)).rejects.toThrow('gone')
    await round()
    const ids = () => told.map(({ text }) => (JSON.parse(text) as { id: string }).id)
    const [first, second] = ids()
    expect(ids()).toEqual([first, second])
    plant.clock.time += 60_000
    await round()
    expect(ids()).toEqual([first, second, first])
  })

  it('is asked again after a minute, twice as long each time, at most every hour', () => {
    expect([1, 2, 3, 6, 7, 50].map((tries) => waitMs(tries) / 60_000)).toEqual([1, 2, 4, 32, 60, 60])
  })
})
