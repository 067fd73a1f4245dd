import { spawn, type ChildProcess } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { endpoints } from '@nemawashi/contract'
import { press, standing } from './stand'

const { run } = endpoints
const { api, sit, plant } = standing()
let standIn: ChildProcess
let base = ''
beforeAll(async () => {
  const { key } = JSON.parse(readFileSync(join(plant().folder, 'order-feed.json'), 'utf8')) as { key: string }
  standIn = spawn('node', [join(import.meta.dirname, '../standins/orderFeed.mjs')], {
    env: { ...process.env, PLANT: plant().base, FEED_KEY: key, FEED_SECRET: 'a-secret-of-the-test', FEED_PORT: '0' },
  })
  const said = await new Promise<string>((resolve) => standIn.stdout?.once('data', (chunk: Buffer) => resolve(chunk.toString())))
  base = /http:\S+/.exec(said)?.[0] ?? ''
})
afterAll(() => standIn.kill())

type Sent = { key: string; state: string; subjectCode: string | null }
async function ask(path: string, body: object = {}): Promise<{ sent: Sent[]; waiting: number }> {
  return (await (await fetch(`${base}/${path}`, { method: 'POST', body: JSON.stringify(body) })).json()) as { sent: Sent[]; waiting: number }
}

it('an event of a part that nobody knows is kept aside, mended on its page and played again; what was sent stays to be read', async () => {
  expect((await ask('next')).sent[0]).toMatchObject({ state: 'taken' })
  await ask('set', { wrongPart: true })
  const [strange] = (await ask('next')).sent
  expect(strange).toMatchObject({ state: 'aside' })
  await ask('set', { wrongPart: false })
  const hand = await sit('dario', '/run/feed?state=aside')
  await hand.sees(strange?.key ?? '')
  await press(hand, 'tbody tr a')
  await hand.sees(/Kept aside\. Line 1, part: NO-SUCH-PART is not known here\./)
  await press(hand, '[data-test=again]')
  await hand.sees('It is still kept aside.')
  const body = { supplier: 'SMP', orderNumber: '8800', lines: [{ part: 'BX-02', supplierLot: 'MENDED', quantity: 5 }] }
  await hand.fill('[data-field=body] textarea', JSON.stringify(body))
  await hand.sees('Play it again, mended')
  await press(hand, '[data-test=again]')
  await hand.sees(/Taken: D-\d{6}\./)
  await hand.sees('As it was sent')
})

it('a feed that sends twice, breaks off in the middle and sends again does nothing twice', async () => {
  const clerk = await api('dario')
  const total = async () => (await clerk.call(run.listDeliveries, { query: { limit: 1 } })).total
  const before = await total()
  await ask('set', { twice: true })
  // The fourth event is an order; up to there every one is a delivery.
  const { sent } = await ask('next')
  expect(sent.slice(0, 2).map(({ state }) => state)).toEqual(['known', 'taken'])
  expect(await total()).toBe(before + 1)
  await ask('set', { twice: false, cutOff: true })
  expect((await ask('next')).sent[0]).toMatchObject({ state: 'not answered' })
  await ask('set', { cutOff: false })
  const after = await ask('again')
  expect(after.waiting).toBe(0)
  expect(after.sent.slice(0, 2).map(({ state }) => state)).toEqual(['taken', 'taken'])
  expect(after.sent.some(({ subjectCode }) => subjectCode?.startsWith('W-'))).toBe(true)
})
