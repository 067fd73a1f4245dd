import type { SamplingRule } from '@nemawashi/core'
import { endpoints, type Delivery } from '@nemawashi/contract'
import { ApiClient } from '@nemawashi/contract/client'
import { password } from '@nemawashi/demo'
import { afterAll, beforeAll, onTestFinished } from 'vitest'
import { launch } from './browser'
import { Hand } from './hand'
import { demoFolder, Installation } from './installation'

const { attach, contain, define, people, record, run } = endpoints

/** Reaches something by key and presses it. */
export const press = async (hand: Hand, selector: string): Promise<void> => {
  await hand.reach(selector)
  await hand.press('Enter')
}
/** The number of the first inspection that a text names. */
export const codeIn = (text: string): string => /I-\d{6}/.exec(text)?.[0] ?? ''

const five: SamplingRule = { kind: 'fixedNumber', sampleSize: 5, accept: 0 }

/** Takes the demo's spring tester for each line that wants its gauge; gives which gauge a line has. */
export async function gaugesFor(inspector: ApiClient, id: string, lineIds: readonly string[]): Promise<ReadonlyMap<string, string>> {
  const taken = new Map<string, string>()
  for (const lineId of lineIds) {
    const { gauges } = await inspector.call(record.chooseGauge, { params: { id }, body: { lineId, code: 'SPT-1', reason: '' } })
    for (const use of gauges) taken.set(use.lineId, use.gaugeId)
  }
  return taken
}

/** The demo's plant for one file of tests: started before them, gone after them, with people who sit at it or ask it by themselves. */
export function standing(around?: (folder: string) => Record<string, string>) {
  let installation: Installation
  let chromium: Awaited<ReturnType<typeof launch>>
  const clients = new Map<string, ApiClient>()
  /** Pages that no test sits at any more. */
  const free: Hand[] = []
  beforeAll(async () => {
    installation = await Installation.start(demoFolder(), null, around)
    chromium = await launch()
  })
  afterAll(async () => {
    await chromium.close()
    await installation.remove()
  })

  async function api(signInName: string): Promise<ApiClient> {
    const client = clients.get(signInName) ?? new ApiClient(installation.base)
    if (!clients.has(signInName)) await client.call(people.signIn, { body: { signInName, password } })
    clients.set(signInName, client)
    return client
  }
  async function sit(signInName: string, path = '/'): Promise<Hand> {
    const hand = (await free.pop()?.taken()) ?? (await Hand.at(chromium.browser, installation.base))
    onTestFinished(() => void free.push(hand))
    await hand.comeIn(signInName, password, path)
    return hand
  }
  async function partId(code: string): Promise<string> {
    return (await (await api('ilse')).call(define.parts.list, { query: { q: code } })).rows[0]?.id ?? ''
  }
  /** Answers what a check asks for: the bench has tests of its own. */
  async function answer(code: string, isGood = true): Promise<void> {
    const inspector = await api('rosa')
    const [row] = (await inspector.call(record.listInspections, { query: { q: code } })).rows
    const params = { id: row?.id ?? '' }
    const { lines, wantsGauge } = await inspector.call(record.getInspection, { params })
    const gauges = await gaugesFor(inspector, params.id, wantsGauge)
    const readings = lines.flatMap((line) =>
      Array.from({ length: line.sampleSize }, (_, i) => ({
        id: crypto.randomUUID(),
        lineId: line.id,
        piece: i + 1,
        value: line.kind === 'measured' ? (line.nominal ?? line.lower) : line.kind === 'judged' ? (isGood ? 'O' : 'X') : '0',
        typedAt: new Date().toISOString(),
        isConfirmedOutside: false,
        corrects: null,
        gaugeId: gauges.get(line.id) ?? null,
      })),
    )
    const { version } = await inspector.call(record.recordReadings, { params, body: { readings } })
    await inspector.call(record.finishInspection, { params, body: { version } })
  }
  /** Lets go what a finished check holds, lot by lot: the decision has tests of its own. */
  async function decide(code: string): Promise<void> {
    const manager = await api('anja')
    const [row] = (await manager.call(record.listInspections, { query: { q: code } })).rows
    const params = { id: row?.id ?? '' }
    const { lotId, toDecide, finding } = await manager.call(record.getInspection, { params })
    for (const page of lotId === null ? toDecide.map(({ id }) => id) : [lotId]) {
      const finished = await manager.call(record.getInspection, { params, query: { lotId: page } })
      const disposition = finding.verdict === 'acceptable' ? ('release' as const) : ('concession' as const)
      const rows = finished.balances
        .filter(({ standing: where }) => where === 'onHold')
        .map(({ containerId, quantity }) => ({ containerId, quantity, disposition, reason: 'looked at, good' }))
      await manager.call(contain.decide, { params, body: { version: finished.version, password, lotId: page, rows } })
    }
  }
  async function settle(code: string, isGood = true): Promise<void> {
    await answer(code, isGood)
    await decide(code)
  }
  /** A plan of one judged line, hung at the receiving of a part; gives what takes it off again. */
  async function hang(code: string, name: string, part: string, change: object, sampling: SamplingRule = five): Promise<() => Promise<unknown>> {
    const engineer = await api('ilse')
    const { rows } = await engineer.call(define.listCharacteristics, { query: { q: 'C-TURN' } })
    const lines = [{ characteristicId: rows[0]?.id ?? '', sampling, isRequired: true, isDecisive: false }]
    const plan = await engineer.call(define.createPlan, { body: { code, name, lines } })
    await engineer.call(define.releasePlan, { params: { id: plan.id }, body: { version: plan.version } })
    const flow = await engineer.call(attach.getFlow, { params: { id: await partId(part) }, query: {} })
    const operationId = flow.stops.find(({ kind }) => kind === 'receiving')?.operationId ?? ''
    const reach = { partId: await partId(part), familyId: null, supplierId: null, holdPlaceId: null }
    const made = await engineer.call(attach.createControlPoint, {
      body: { operationId, planId: plan.id, isGate: true, ...reach, ...change },
    })
    return async () => {
      // As it is by then: a test may have changed it.
      const { rows } = await engineer.call(attach.listControlPoints, { query: { q: made.code } })
      const { id, version } = rows.find((row) => row.id === made.id) ?? made
      await engineer.call(attach.retireControlPoint, { params: { id }, body: { version } })
    }
  }
  /** A delivery of one lot. */
  async function arrive(supplier: string, part: string, supplierLot: string, quantity = 100): Promise<Delivery> {
    const clerk = await api('dario')
    const { rows } = await clerk.call(define.partners.list, { query: { q: supplier } })
    const lines = [{ partId: await partId(part), supplierLot, quantity, containers: [] }]
    return clerk.call(run.receiveDelivery, { body: { supplierId: rows[0]?.id ?? '', orderNumber: supplierLot, lines } })
  }
  return { api, sit, answer, settle, decide, partId, hang, arrive, plant: () => installation, chromium: () => chromium }
}
