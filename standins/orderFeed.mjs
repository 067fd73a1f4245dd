// Stands in for another system: sends deliveries, orders and confirmations to the plant, and is told what became of them.
// It can be told to misbehave. Its page shows what went both ways. Nothing of the plant is imported: it speaks HTTP only.
import { createHmac, timingSafeEqual } from 'node:crypto'
import { request as send } from 'node:http'
import { json, serve, textOf } from './page.mjs'

const { PLANT = 'http://127.0.0.1:4720', FEED_KEY = '', FEED_SECRET = '', FEED_PORT = '4721' } = process.env
const most = 200
/** How it can misbehave, and whether it does now. */
const misbehaves = { twice: false, outOfOrder: false, wrongPart: false, cutOff: false, answers500: false }
/** Events a minute; 0: only when somebody asks for one. */
let perMinute = 0
/** What is not answered yet, in order; what was answered; and what the plant told. */
const waiting = []
const sent = []
const told = []
let orders = 0

const goods = [
  ['MVM', 'BS-7075-12', 60],
  ['TFS', 'SP-31', 400],
  ['QUF', 'PN-06', 250],
  ['SMP', 'BX-02', 300],
  ['EBS', 'SD-26', 100],
]
const day = new Date().toISOString().slice(2, 10).replaceAll('-', '')

/** What was announced and has not arrived. */
let coming = null

/** The next thing that happens in the other system: a delivery, one that is announced, an order with the confirmation of its first step, or what is to leave. */
function next() {
  orders += 1
  if (coming !== null) {
    const { key, supplier, number, line } = coming
    coming = null
    return [{ key: `arrived ${number}`, kind: 'delivery', body: { supplier, orderNumber: number, announcedAs: key, lines: [line] } }]
  }
  const number = `${day}-${orders}`
  if (orders % 4 === 0) {
    const order = { key: `order ${number}`, kind: 'order', body: { number, part: 'RC-40', quantity: 100 } }
    const confirmed = { key: `forged ${number}`, kind: 'confirmation', body: { order: number, operation: 'FRG', good: 97, scrapped: 3 } }
    return misbehaves.outOfOrder ? [confirmed, order] : [order, confirmed]
  }
  if (orders % 7 === 0) {
    const body = { customer: 'NFR', orderNumber: number, lines: [{ part: 'RC-40', quantity: 60 }] }
    return [{ key: `to leave ${number}`, kind: 'plannedDispatch', body }]
  }
  const [supplier, part, quantity] = goods[orders % goods.length]
  const line = { part: misbehaves.wrongPart ? 'NO-SUCH-PART' : part, supplierLot: `${supplier}-${number}`, quantity }
  if (orders % 6 === 0) {
    // It is on its way, and arrives with the next event.
    coming = { key: `announced ${number}`, supplier, number, line }
    const body = { supplier, orderNumber: number, lines: [line] }
    return [{ key: coming.key, kind: 'announcement', body }]
  }
  const event = { key: `delivery ${number}`, kind: 'delivery', body: { supplier, orderNumber: number, lines: [line] } }
  return misbehaves.twice ? [event, event] : [event]
}

/** Sends everything that waits; what is not answered stays, and is sent again: the keys see to it that nothing happens twice. */
let isSending = false
async function sendAll() {
  if (isSending || waiting.length === 0) return
  isSending = true
  const events = waiting.slice(0, 50)
  try {
    const answers = await post({ events })
    waiting.splice(0, events.length)
    for (const [i, answer] of answers.entries()) sent.unshift({ at: new Date().toISOString(), kind: events[i].kind, ...answer })
  } catch (error) {
    sent.unshift({
      at: new Date().toISOString(),
      kind: '',
      key: events.map(({ key }) => key).join(', '),
      state: 'not answered',
      message: error.message,
    })
  } finally {
    sent.splice(most)
    isSending = false
  }
}

function post(body) {
  const text = JSON.stringify(body)
  const headers = { 'Content-Type': 'application/json', 'Content-Length': Buffer.byteLength(text), Authorization: `Bearer ${FEED_KEY}` }
  return new Promise((resolve, reject) => {
    const asking = send(`${PLANT}/api/v1/feed/events`, { method: 'POST', headers, timeout: 10_000 }, (response) => {
      let reply = ''
      response.on('data', (chunk) => (reply += chunk))
      response.on('end', () => {
        if (response.statusCode !== 200) return reject(new Error(`${response.statusCode} ${reply.slice(0, 200)}`))
        resolve(JSON.parse(reply).answers)
      })
    })
    asking.on('timeout', () => asking.destroy(new Error('no answer in time')))
    asking.on('error', reject)
    if (!misbehaves.cutOff) return asking.end(text)
    asking.write(text.slice(0, text.length / 2))
    asking.destroy(new Error('cut off in the middle'))
  })
}

function isSigned(text, signature) {
  const wanted = Buffer.from(`sha256=${createHmac('sha256', FEED_SECRET).update(text).digest('hex')}`)
  const shown = Buffer.from(String(signature))
  return wanted.length === shown.length && timingSafeEqual(wanted, shown)
}

const state = () => ({ perMinute, misbehaves, waiting: waiting.length, sent, told })

const pages = {
  'GET /state': (_request, response) => json(response, 200, state()),
  'POST /next': async (_request, response) => {
    waiting.push(...next())
    await sendAll()
    json(response, 200, state())
  },
  'POST /again': async (_request, response) => {
    await sendAll()
    json(response, 200, state())
  },
  'POST /set': async (request, response) => {
    const wanted = JSON.parse(await textOf(request))
    if (Number.isFinite(wanted.perMinute)) perMinute = Math.min(12_000, Math.max(0, wanted.perMinute))
    for (const name of Object.keys(misbehaves)) if (typeof wanted[name] === 'boolean') misbehaves[name] = wanted[name]
    json(response, 200, state())
  },
  'POST /told': async (request, response) => {
    const text = await textOf(request)
    if (misbehaves.answers500) return response.writeHead(500).end()
    if (!isSigned(text, request.headers['x-signature'])) return response.writeHead(401).end()
    const notice = JSON.parse(text)
    // Told again because the answer was lost: known already.
    if (!told.some(({ id }) => id === notice.id)) told.unshift(notice)
    told.splice(most)
    response.writeHead(204).end()
  },
}

serve(pages, { file: 'orderFeed.html', port: FEED_PORT, words: 'The stand-in for another system is' })

let owed = 0
setInterval(() => {
  owed += perMinute / 600
  for (; owed >= 1; owed -= 1) waiting.push(...next())
  if (perMinute > 0) void sendAll()
}, 100)
