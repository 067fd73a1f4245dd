import { randomBytes } from 'node:crypto'
import { writeFileSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { endpoints, type Delivery } from '@nemawashi/contract'
import { buildApp, startApp, type Config } from '@nemawashi/server'
import { v7 } from 'uuid'
import { ApiClient } from '@nemawashi/contract/client'
import { Chance } from './chance'
import { expectThings } from './expecting'
import { tellApart } from './toldApart'
import { connectInstruments, seedGauges } from './gauging'
import { Bench, type Trouble } from './inspecting'
import { parts, partners, password, people } from './plant'
import { decideOn, finishOnly, startOnly } from './judging'
import { planMaking } from './making'
import { putAway } from './puttingAway'
import { seedMaster } from './seedMaster'
import { placeThings } from './placing'
import { planTheBench } from './planning'
import { planShipping } from './shipping'
import { planSprings } from './springs'
import { day, hour, type Happening, type Stage } from './stage'

const { people: gate, record, run } = endpoints
const pastDeliveries = 72
const firstDay = 126

/** Lots that the story needs: which arrival, what is wrong with it, and what is decided. */
const troubles: Readonly<Record<number, { part: string; supplier: string; trouble: Trouble }>> = {
  9: { part: 'SP-31', supplier: 'TFS', trouble: { code: 'C-FORCE', shift: -4.2 } },
  21: { part: 'SD-18', supplier: 'EBS', trouble: { code: 'C-FLASH', share: 0.3 } },
  34: { part: 'PN-06', supplier: 'QUF', trouble: { code: 'C-PIND', shift: 3 } },
  47: { part: 'AN-22', supplier: 'BWC', trouble: { code: 'C-COAT', shift: -3.4, share: 0.5 } },
  58: { part: 'BS-7075-16', supplier: 'MVM', trouble: { code: 'C-HARD', shift: -13, share: 0.5 } },
  66: { part: 'SD-26', supplier: 'EBS', trouble: { code: 'C-HOLE', shift: 3.6 } },
}

/**
 * Makes the plant and its history through the server's own services: every line of it went in by a signed-in person's request,
 * on a clock that is set back. The seed is fixed, the days are relative to `today`.
 */
export async function seedDemo(config: Config, today: Date, progress: (share: number, words: string) => void): Promise<void> {
  const chance = new Chance(20_261)
  const morning = new Date(today)
  morning.setHours(6, 0, 0, 0)
  // Started at night or early: the shift began four hours ago all the same.
  morning.setTime(Math.min(morning.getTime(), today.getTime() - 4 * hour))
  let now = morning.getTime() - firstDay * day
  const clock = { now: () => new Date(now) }
  // Ids have a chance of their own, so that one more definition does not change every reading after it.
  const idChance = new Chance(20)
  const newId = () => v7({ msecs: now, random: idChance.bytes(16) })
  const kernel = await startApp({ ...config, logLevel: 'silent', sessionHours: 24 * 400 }, { clock, newId })
  const server = buildApp(kernel, null).listen(0, '127.0.0.1')
  await new Promise((resolve) => server.once('listening', resolve))
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  try {
    const clients = await hire(base, kernel.setupCode)
    const by = (signInName: string) => clients.get(signInName) as ApiClient
    progress(0.05, 'people')
    await seedGauges(by('ilse'), clock.now())
    const master = await seedMaster(by('ilse'))
    progress(0.2, 'parts, characteristics, plans and control points')
    await history(
      {
        by,
        master,
        chance,
        bench: new Bench(chance, clock.now, newId),
        now: () => now,
        advance: (to) => void (now = Math.max(now + 1, Math.min(to, today.getTime()))),
        morning: morning.getTime(),
        until: today.getTime(),
      },
      // What is made, and the springs, have chances of their own, so that they change nothing of the rest.
      [
        { chance: new Chance(77), bench: new Bench(new Chance(78), clock.now, newId) },
        { chance: new Chance(91), bench: new Bench(new Chance(92), clock.now, newId) },
      ],
      progress,
    )
    writeFileSync(join(config.dataFolder, 'instruments.json'), JSON.stringify(await connectInstruments(by('ilse'))))
    await giveKey(by('mirela'), base, config.dataFolder)
    for (const client of clients.values()) await client.call(gate.signOut, {})
    writeFileSync(
      join(config.dataFolder, 'demo-people.json'),
      JSON.stringify(people.map(({ name, signInName, roles }) => ({ name, signInName, roles, password }))),
    )
  } finally {
    server.close()
    server.closeAllConnections()
    await kernel.close()
  }
}

async function hire(base: string, code: string): Promise<Map<string, ApiClient>> {
  const clients = new Map<string, ApiClient>()
  const first = people.find((person) => person.roles.includes('administrator'))
  if (!first) throw new Error('The demo has no administrator.')
  const { name, initials, signInName } = first
  const administrator = new ApiClient(base)
  await administrator.call(gate.createFirstAdministrator, { body: { code, name, initials, signInName, password } })
  clients.set(signInName, administrator)
  for (const person of people) {
    if (person === first) continue
    const given = randomBytes(24).toString('hex')
    await administrator.call(gate.createPerson, { body: { ...person, password: given } })
    const client = new ApiClient(base)
    await client.call(gate.signIn, { body: { signInName: person.signInName, password: given } })
    // As everybody does who was given one.
    await client.call(gate.changePassword, { body: { current: given, next: password } })
    clients.set(person.signInName, client)
  }
  return clients
}

/** Another system with its key, for the stand-in that is started beside the demo plant. */
async function giveKey(administrator: ApiClient, base: string, folder: string): Promise<void> {
  const body = {
    name: 'Order system',
    initials: 'OS',
    signInName: 'orders',
    roles: ['orderFeed' as const],
    password: randomBytes(24).toString('hex'),
  }
  // The year has passed since they came in: keys are given by somebody who has just signed in.
  await administrator.call(gate.signIn, { body: { signInName: 'mirela', password } })
  const { id, version } = await administrator.call(gate.createPerson, { body })
  const { token } = await administrator.call(gate.giveToken, { params: { id }, body: { version } })
  writeFileSync(join(folder, 'order-feed.json'), JSON.stringify({ key: token }))
  // It has told of two deliveries so far; the plant does not know the part of the second one.
  const delivery = (key: string, supplier: string, part: string, quantity: number) => ({
    key,
    kind: 'delivery' as const,
    body: { supplier, orderNumber: key, lines: [{ part, supplierLot: `${supplier}-${key}`, quantity }] },
  })
  const events = [delivery('9101', 'SMP', 'BX-02', 300), delivery('9102', 'TFS', 'SP-60', 400)]
  const headers = { 'Content-Type': 'application/json', Authorization: `Bearer ${token}` }
  const answer = await fetch(`${base}/api/v1/feed/events`, { method: 'POST', headers, body: JSON.stringify({ events }) })
  if (!answer.ok) throw new Error(`The feed answered ${answer.status}.`)
}

type Side = Pick<Stage, 'chance' | 'bench'>

/** Plays what happens in the order in which it happens; what happens plans what follows from it. */
async function history(stage: Stage, [shop, springs]: readonly [Side, Side], progress: (share: number, words: string) => void): Promise<void> {
  const { chance, morning, until } = stage
  const agenda: Happening[] = []
  for (let i = 0; i < pastDeliveries; i++) {
    const at = morning - firstDay * day + ((i + 0.5) / pastDeliveries) * (firstDay - 2) * day + chance.next() * day * 0.8
    agenda.push({ at: onShift(at, chance), do: () => deliver(stage, agenda, i, 'past') })
  }
  const dayLength = Math.max(hour, until - morning)
  for (let i = 0; i < 14; i++)
    agenda.push({ at: morning + (dayLength * (i + 1)) / 18, do: () => deliver(stage, agenda, pastDeliveries + i, 'today') })
  planMaking({ ...stage, ...shop }, agenda)
  planSprings({ ...stage, ...springs }, agenda)
  let done = 0
  while (agenda.length > 0) {
    agenda.sort((a, b) => a.at - b.at)
    const next = agenda.shift() as Happening
    stage.advance(next.at)
    await next.do()
    done += 1
    if (done % 20 === 0) progress(0.2 + 0.8 * Math.min(1, done / (done + agenda.length)), 'deliveries, readings, decisions')
  }
  await expectThings(stage)
  await tellApart(stage)
  await planShipping(stage)
  await planTheBench(stage)
  await placeThings(stage)
}

/** Receiving and inspecting happen between 6 and 20 o'clock. */
function onShift(at: number, chance: Chance): number {
  const moment = new Date(at)
  moment.setHours(6 + chance.whole(0, 8), chance.whole(0, 59), chance.whole(0, 59))
  return moment.getTime()
}

/** What comes by chance; twin springs have a story of their own. */
const boughtParts = parts.filter(([code, , family]) => code !== 'SP-50' && !['CONNECTORS', 'PULLEYS', 'DESCENDERS'].includes(family))

async function deliver(stage: Stage, agenda: Happening[], index: number, when: 'past' | 'today'): Promise<void> {
  const { chance, master } = stage
  const story = troubles[index]
  const part = story?.part ?? chance.pick(boughtParts)[0]
  const family = master.familyOf(part)
  const able = partners.filter((partner) => partner.supplies.includes(family)).map((partner) => partner.code)
  const supplier = story?.supplier ?? (part === 'BS-STEEL-10' ? 'HBS' : chance.pick(able))
  // The story's lots come in several containers, so that they can be decided on in parts.
  const count = Math.max(family === 'BARS' ? chance.whole(1, 4) : chance.whole(1, 3), story ? 3 : 0)
  const size =
    family === 'BARS'
      ? chance.pick([60, 90, 120])
      : family === 'PLATES' || family === 'COATED'
        ? chance.pick([100, 150, 200])
        : chance.pick([250, 400, 500])
  const containers = Array.from({ length: count }, (_, i) => ({
    label: null,
    quantity: i === count - 1 && count > 1 ? size - chance.whole(0, 12) : size,
  }))
  const quantity = containers.reduce((sum, container) => sum + container.quantity, 0)
  const delivery = await stage.by('dario').call(run.receiveDelivery, {
    body: {
      supplierId: master.id(supplier),
      orderNumber: `${4100 + index}`,
      lines: [{ partId: master.id(part), supplierLot: `${supplier}-${chance.whole(10_000, 99_999)}`, quantity, containers }],
    },
  })
  if (when === 'past') await answerOnSpot(stage, delivery)
  const inspections = delivery.lots.flatMap((lot) => lot.inspections)
  const trouble = when === 'today' ? (index % 10 === 4 ? { code: 'C-BURR', share: 0.4 } : null) : (story?.trouble ?? null)
  if (inspections.length === 0) {
    agenda.push({ at: stage.now() + hour, do: () => putAway(stage, delivery.id) })
    return
  }
  if (when === 'past') {
    agenda.push({ at: stage.now() + hour * chance.whole(2, 7), do: () => inspectAll(stage, agenda, delivery, trouble) })
  } else if (index % 3 === 0) {
    agenda.push({ at: stage.now() + hour / 2, do: () => startOnly(stage, inspections[0]?.id ?? '', trouble) })
  } else if (index % 10 === 4 || index % 10 === 7) {
    agenda.push({ at: stage.now() + hour / 2, do: async () => void (await finishOnly(stage, inspections[0]?.id ?? '', trouble)) })
  }
}

/** Quick questions, answered by the clerk beside the goods. */
async function answerOnSpot({ by }: Stage, { load }: Delivery): Promise<void> {
  for (const { id } of load.inspections.filter(({ answeredAt }) => answeredAt === 'spot')) {
    const { version, lines } = await by('dario').call(record.getInspection, { params: { id } })
    const answers = lines.map((line) => ({ lineId: line.id, isConforming: true }))
    await by('dario').call(record.answerOnSpot, { params: { id }, body: { version, answers } })
  }
}

async function inspectAll(stage: Stage, agenda: Happening[], delivery: Delivery, trouble: Trouble | null): Promise<void> {
  for (const { id } of delivery.lots.flatMap((lot) => lot.inspections)) await finishOnly(stage, id, trouble)
  agenda.push({ at: stage.now() + hour * stage.chance.whole(1, 5), do: () => decideAll(stage, agenda, delivery) })
}

async function decideAll(stage: Stage, agenda: Happening[], delivery: Delivery): Promise<void> {
  for (const { id } of delivery.lots.flatMap((lot) => lot.inspections)) {
    await decideOn(stage, id)
  }
  agenda.push({ at: stage.now() + hour, do: () => putAway(stage, delivery.id) })
}
