import { endpoints, type ProductionOrder, type StepReportInput } from '@nemawashi/contract'
import type { Trouble } from './inspecting'
import { decideOn, finishOnly } from './judging'
import { day, hour, type Happening, type Stage } from './stage'

const { run } = endpoints

/** Orders of the past weeks: days ago, what, how many, from which bars; what goes wrong at proof load; how far it has come. */
interface OrderSeed {
  readonly daysAgo: number
  readonly part: string
  readonly quantity: number
  readonly bars: string | null
  readonly trouble?: Trouble
  /** Confirmed steps; all of them where nothing is said. */
  readonly steps?: number
  readonly shipTo?: string
  /** Pieces that the customer sends back. */
  readonly back?: number
  /** Picked this morning, and still at the door. */
  readonly waits?: boolean
}
const orders: readonly OrderSeed[] = [
  { daysAgo: 88, part: 'RC-40', quantity: 400, bars: 'BS-7075-12', shipTo: 'NFR' },
  { daysAgo: 80, part: 'DS-10', quantity: 120, bars: 'BS-7075-20', shipTo: 'HMC' },
  { daysAgo: 71, part: 'RC-44', quantity: 300, bars: 'BS-7075-14', shipTo: 'HMC', back: 3 },
  { daysAgo: 62, part: 'RC-40', quantity: 600, bars: 'BS-7075-16', shipTo: 'NFR' },
  { daysAgo: 50, part: 'RC-44', quantity: 300, bars: 'BS-7075-14', shipTo: 'HMC' },
  // Made from a bar lot that was too soft: the proof load finds it.
  { daysAgo: 38, part: 'RC-40', quantity: 500, bars: 'BS-7075-16', trouble: { code: 'C-PROOF', share: 0.5 } },
  { daysAgo: 27, part: 'DS-12', quantity: 90, bars: 'BS-7075-20', shipTo: 'NFR' },
  { daysAgo: 16, part: 'RC-40', quantity: 600, bars: 'BS-7075-12', shipTo: 'NFR' },
  { daysAgo: 6, part: 'RC-44', quantity: 240, bars: 'BS-7075-14', shipTo: 'NFR', waits: true },
  // Made for stock: what is planned to leave is picked from it.
  { daysAgo: 4, part: 'DS-12', quantity: 90, bars: 'BS-7075-20' },
  { daysAgo: 1, part: 'RC-40', quantity: 600, bars: 'BS-7075-12', steps: 2 },
  { daysAgo: 0, part: 'DS-10', quantity: 100, bars: null, steps: -1 },
]

/** Everything that an order goes through, some hours apart. */
export function planMaking(stage: Stage, agenda: Happening[]): void {
  for (const [i, seed] of orders.entries()) {
    const at = stage.morning - seed.daysAgo * day + (seed.daysAgo === 0 ? 0.4 : 1 + (i % 5)) * hour
    agenda.push({ at: Math.min(at, stage.until), do: () => make(stage, agenda, seed, i) })
  }
}

const reload = (stage: Stage, id: string) => stage.by('hana').call(run.getOrder, { params: { id } })

/** Answers and decides what has opened on an order. */
async function settle(stage: Stage, order: ProductionOrder, trouble: Trouble | null): Promise<void> {
  for (const { id, state } of order.steps.flatMap(({ checks }) => checks)) {
    if (state !== 'toDo') continue
    await finishOnly(stage, id, trouble)
    await decideOn(stage, id)
  }
}

async function make(stage: Stage, agenda: Happening[], seed: OrderSeed, index: number): Promise<void> {
  const hana = stage.by('hana')
  const body = { partId: stage.master.id(seed.part), quantity: seed.quantity, orderNumber: seed.shipTo ? `${3300 + index}` : '', customerId: null }
  const planned = await hana.call(run.createOrder, { body })
  if (seed.steps === -1) return
  const order = await hana.call(run.releaseOrder, { params: { id: planned.id }, body: { version: planned.version } })
  await issueBars(stage, order, seed)
  agenda.push({ at: stage.now() + hour, do: () => goOn(stage, agenda, seed, order.id) })
}

/** Bars go into it where any are free in the store. */
async function issueBars(stage: Stage, order: ProductionOrder, { bars, quantity }: OrderSeed): Promise<void> {
  if (bars === null) return
  const { rows } = await stage.by('hana').call(run.listPickable, { query: { q: bars, limit: 1 } })
  const [lot] = rows
  if (!lot) return
  const { lotId, containerId, placeId } = lot
  const needed = Math.min(lot.quantity, Math.ceil(quantity / 20))
  await stage.by('hana').call(run.issueComponent, {
    params: { id: order.id },
    body: { version: order.version, lotId, containerId, placeId, quantity: needed },
  })
}

/** The next act on an order, and what it asks for; then the one after it, some hours later. */
async function goOn(stage: Stage, agenda: Happening[], seed: OrderSeed, id: string): Promise<void> {
  const hana = stage.by('hana')
  let order = await reload(stage, id)
  const { next, version } = order
  if (next === null) return void (await ship(stage, agenda, seed, order))
  const confirmed = order.steps.filter(({ state }) => state === 'confirmed').length
  // The last step of an order that is on its way is started this morning.
  if (seed.steps === confirmed && stage.now() < stage.morning + hour)
    return void agenda.push({ at: stage.morning + hour, do: () => goOn(stage, agenda, seed, id) })
  if (next.act === 'start') order = await hana.call(run.startStep, { params: { id }, body: { version } })
  if (next.act === 'finish') order = await hana.call(run.finishOrder, { params: { id }, body: { version } })
  if (next.act === 'confirm' && stepOf(order)?.operationName === 'Machine' && stepOf(order)?.reports.length === 0)
    return void (await runAMachine(stage, agenda, seed, order))
  if (next.act === 'confirm') {
    const scrapped = Math.min(next.quantity, stage.chance.whole(0, Math.ceil(seed.quantity / 100)))
    const body = { version, good: next.quantity - scrapped, scrapped, setAside: 0 }
    order = await hana.call(run.confirmStep, { params: { id }, body })
  }
  await settle(stage, order, seed.trouble ?? null)
  agenda.push({ at: stage.now() + hour * stage.chance.whole(1, 5), do: () => goOn(stage, agenda, seed, id) })
}

const stepOf = ({ steps, next }: ProductionOrder) => steps.find(({ id }) => id === next?.stepId)

/** A step that is told of while it runs: pieces in portions, for some a change of the set-up; what comes up is looked at. */
async function runAMachine(stage: Stage, agenda: Happening[], seed: OrderSeed, order: ProductionOrder): Promise<void> {
  const hana = stage.by('hana')
  const tell = async (report: StepReportInput) => {
    const { version } = await reload(stage, order.id)
    return hana.call(run.reportStep, { params: { id: order.id }, body: { version, report } })
  }
  const part = Math.floor((order.next?.quantity ?? 0) * 0.35)
  const scrapped = stage.chance.whole(0, 3)
  const told = await tell({ kind: 'pieces', good: part - scrapped, scrapped, setAside: 0 })
  // The check of an order that is still on its way is left for whoever comes to the machine.
  if (seed.steps !== undefined) return
  await settle(stage, told, null)
  if (stage.chance.next() < 0.4) await settle(stage, await tell({ kind: 'setUp', note: 'cutter changed' }), null)
  stage.advance(stage.now() + hour)
  await settle(stage, await tell({ kind: 'pieces', good: part, scrapped: 0, setAside: 0 }), null)
  agenda.push({ at: stage.now() + hour, do: () => goOn(stage, agenda, seed, order.id) })
}

async function ship(stage: Stage, agenda: Happening[], seed: OrderSeed, order: ProductionOrder): Promise<void> {
  const { shipTo, back = 0 } = seed
  const dario = stage.by('dario')
  if (shipTo === undefined || order.lotId === null) return
  if (seed.waits && stage.now() < stage.morning + 2 * hour)
    return void agenda.push({ at: stage.morning + 2 * hour, do: () => ship(stage, agenda, seed, order) })
  const free = order.balances.filter(({ standing }) => standing === 'released')
  if (free.length === 0) return
  const { lotId } = order
  const picks = free.map(({ containerId, placeId, quantity }) => ({ lotId, containerId, placeId, quantity }))
  const picked = await dario.call(run.pickDispatch, { body: { customerId: stage.master.id(shipTo), orderNumber: order.orderNumber, picks } })
  if (seed.waits) return
  for (const { id } of picked.checks) {
    await finishOnly(stage, id, null)
    await decideOn(stage, id)
  }
  // What a check kept back does not leave.
  const { balances } = await dario.call(run.getOrder, { params: { id: order.id } })
  const kept = balances.some(({ standing }) => standing === 'quarantined' || standing === 'onHold')
  if (kept && !balances.some(({ standing }) => standing === 'released'))
    return void (await dario.call(run.cancelDispatch, { params: { id: picked.id }, body: { version: picked.version } }))
  const sent = await dario.call(run.sendDispatch, { params: { id: picked.id }, body: { version: picked.version } })
  const [pick] = sent.picks
  if (back === 0 || !pick) return
  agenda.push({
    at: stage.now() + 9 * day,
    do: async () => {
      const body = { pickId: pick.id, quantity: back, reason: 'gate does not close by itself in the cold' }
      const after = await dario.call(run.receiveReturn, { params: { id: sent.id }, body })
      const [check] = after.checks.filter(({ moment }) => moment === 'arrival')
      if (check) await finishOnly(stage, check.id, { code: 'C-GATEOPEN', share: 0.7 })
    },
  })
}
