import { endpoints, type InspectionLine } from '@nemawashi/contract'
import type { ApiClient } from '@nemawashi/contract/client'
import type { Hand } from './hand'

/** A main view: its name, who looks at it, where it is in the demo plant, and what shows that it is there. */
export interface MainView {
  readonly name: string
  readonly who: string
  readonly path: (api: ApiClient) => Promise<string>
  readonly ready: string
  /** Also used on a tablet held upright, 800 × 1280. */
  readonly isForTablet?: boolean
  /** Looked at by the tests, and not among the pictures. */
  readonly isUnpictured?: boolean
  /** What the browser keeps of an earlier visit. */
  readonly kept?: Readonly<Record<string, string>>
}

const { define, run, record, equip } = endpoints
const every = { kind: 'everyArrival' } as const
const points = { goodPercent: 1, producersRisk: 0.05, poorPercent: 5, consumersRisk: 0.1 }
const rules = [
  { sampling: { kind: 'attributesScheme', level: 'II', aqlPercent: 1 }, frequency: every },
  { sampling: { kind: 'variablesTwoPoints', method: 's', sigma: null, ...points }, frequency: every },
  { sampling: { kind: 'fixedNumber', sampleSize: 5, accept: 0 }, frequency: { kind: 'oneIn', k: 3 } },
] as const
const at = (path: string) => async () => path

async function inspection(api: ApiClient, query: object): Promise<string> {
  const { rows } = await api.call(record.listInspections, { query: query as never })
  return rows[0]?.id ?? ''
}
async function first(api: ApiClient, list: typeof define.families.list, q: string): Promise<string> {
  const { rows } = await api.call(list, { query: { q } })
  return (rows as { id: string }[])[0]?.id ?? ''
}

/** Goes to a view, and waits until it is there. */
export async function openView(hand: Hand, { kept = {}, path, ready }: MainView, api: ApiClient): Promise<void> {
  await hand.page.evaluate((entries) => entries.forEach(([key, value]) => localStorage.setItem(key, value)), Object.entries(kept))
  await hand.open(await path(api))
  await hand.page.waitForSelector(ready)
}

type IsWanted = (line: InspectionLine) => boolean | Promise<boolean>

async function amongOf(api: ApiClient, state: 'toDo' | 'decided', isWanted: IsWanted) {
  for (const { id } of (await api.call(record.listInspections, { query: { state, limit: 200 } })).rows) {
    const inspection = await api.call(record.getInspection, { params: { id } })
    for (const [at, line] of inspection.lines.entries()) if (await isWanted(line)) return { id, line, at, inspection }
  }
  return null
}

/**
 * A line of something to inspect that is as wanted, and its place among the lines. What waits in the demo depends on the hour: where
 * nothing waiting has such a line, a lot that was inspected by such a plan before is inspected by hand once more.
 */
export async function lineToInspect(api: ApiClient, isWanted: IsWanted) {
  const waiting = await amongOf(api, 'toDo', isWanted)
  if (waiting) return waiting
  const before = (await amongOf(api, 'decided', isWanted))?.inspection
  if (!before?.lotId) throw new Error('The demo has inspected nothing that is as wanted.')
  const [plan] = (await api.call(define.listPlans, { query: { q: before.planCode } })).rows
  const operations = (await api.call(define.operations.list, { query: { limit: 200 } })).rows as { id: string; name: string }[]
  const operationId = operations.find(({ name }) => name === before.operationName)?.id ?? ''
  const body = { planId: plan?.id ?? '', operationId, containerId: null, isHolding: false, reason: 'Looked at once more' }
  const { id, lines } = await api.call(record.openByHand, { params: { id: before.lotId }, body })
  for (const [at, line] of lines.entries()) if (await isWanted(line)) return { id, line, at }
  throw new Error('The plan asks something else by now.')
}

/** The same for a line that was measured at least so often before, with what was measured. */
export async function measuredOften(api: ApiClient, samples = 8) {
  const seriesOf = async ({ id }: InspectionLine) => (await api.call(record.getLineSeries, { params: { id } })).values
  const found = await lineToInspect(api, async (line) => new Set((await seriesOf(line)).map(({ inspectionId }) => inspectionId)).size >= samples)
  return { ...found, values: await seriesOf(found.line) }
}

/** Takes the demo's gauge in hand where the line on the bench wants one first. */
export async function takeGauge(hand: Hand): Promise<void> {
  await hand.page.waitForSelector('[aria-label=Gauge]')
  if (!(await hand.page.$('[data-field=gauge]'))) return
  await hand.fill('[data-field=gauge]', 'SPT-1')
  await hand.press('Enter')
  await hand.page.waitForSelector('[data-test=gauge]')
}

/** The lot of the story: bars that were too soft. */
export async function softBars(api: ApiClient): Promise<{ lotId: string; lotCode: string }> {
  const id = await inspection(api, { q: 'Bar stock, metal', state: 'decided', sort: 'verdict', dir: 'desc' })
  const { lotId, lotCode } = await api.call(record.getInspection, { params: { id } })
  return { lotId: lotId ?? '', lotCode }
}

export const mainViews: readonly MainView[] = [
  { name: 'sign-in', who: '', path: at('/sign-in'), ready: '[data-person]' },
  { name: 'today', who: 'ilse', path: at('/today'), ready: '.entry', isForTablet: true },
  {
    name: 'define-characteristic',
    who: 'ilse',
    path: async (api) => `/define/characteristics/${await first(api, define.listCharacteristics as never, 'C-FORCE')}`,
    ready: '.live svg',
  },
  { name: 'define-plan', who: 'ilse', path: async (api) => `/define/plans/${await first(api, define.listPlans as never, 'RP-31')}`, ready: 'canvas' },
  {
    name: 'define-sampling',
    who: 'ilse',
    path: async (api) =>
      `/define/sampling?rules=${encodeURIComponent(JSON.stringify(rules))}&characteristic=${await first(api, define.listCharacteristics as never, 'C-FREE')}`,
    ready: '.compare td',
  },
  {
    name: 'define-past',
    who: 'ilse',
    path: async (api) =>
      `/define/sampling?tab=past&rules=${encodeURIComponent(JSON.stringify(rules.slice(2)))}&characteristic=${await first(api, define.listCharacteristics as never, 'C-FORCE')}`,
    ready: '[data-test=replayed]',
  },
  { name: 'define-import', who: 'ilse', path: at('/define/import'), ready: '[data-field=file]' },
  {
    name: 'define-answers',
    who: 'ilse',
    path: async (api) => `/define/answer-lists/${await first(api, define.answerLists.list as never, 'AL-LOOK')}`,
    ready: '.answers td input',
    isUnpictured: true,
  },
  {
    name: 'define-part',
    who: 'ilse',
    path: async (api) => `/define/parts/${await first(api, define.parts.list as never, 'BS-7075-16')}`,
    ready: 'form li',
  },
  { name: 'attach', who: 'ilse', path: async (api) => `/attach/${await first(api, define.parts.list as never, 'RC-40')}`, ready: '.tag' },
  {
    name: 'run',
    who: 'dario',
    path: async (api) =>
      `/run/${(await api.call(run.listDeliveries, { query: { q: 'BS-7075-16', sort: 'openInspections', dir: 'desc' } })).rows[0]?.id}`,
    ready: '.lot .bar',
  },
  {
    name: 'run-expected',
    who: 'dario',
    path: async (api) => `/run/expected/${(await api.call(run.listExpected, { query: { state: 'registered' } })).rows[0]?.id}`,
    ready: '[data-test=gate]',
    isUnpictured: true,
  },
  { name: 'run-expected-new', who: 'dario', path: at('/run/expected/new'), ready: '[data-field=supplierId]', isUnpictured: true },
  {
    name: 'run-purchase-order',
    who: 'dario',
    path: async (api) => `/run/purchase-orders/${(await api.call(run.listPurchaseOrders, { query: { q: 'K-26-04' } })).rows[0]?.id}`,
    ready: '[data-test=deliveries]',
    isUnpictured: true,
  },
  {
    name: 'equip-gauges',
    who: 'ilse',
    path: async (api) => `/equip/gauges/${await first(api, equip.listGauges as never, 'SPT-1')}`,
    ready: '.uses td',
    isForTablet: true,
    isUnpictured: true,
  },
  { name: 'run-new', who: 'dario', path: at('/run/new'), ready: '[data-field=supplierId]' },
  {
    name: 'run-order',
    who: 'hana',
    path: async (api) =>
      `/run/orders/${(await api.call(run.listOrders, { query: { state: 'released', sort: 'openChecks', dir: 'desc' } })).rows[0]?.id}`,
    ready: '[data-test=next]',
    isForTablet: true,
  },
  {
    name: 'run-dispatch',
    who: 'dario',
    path: async (api) => `/run/dispatches/${(await api.call(run.listDispatches, { query: { sort: 'returned', dir: 'desc' } })).rows[0]?.id}`,
    ready: '[data-test=returns]',
  },
  {
    name: 'run-planned',
    who: 'dario',
    path: async (api) => `/run/dispatches/${(await api.call(run.listDispatches, { query: { state: 'planned' } })).rows[0]?.id}`,
    ready: '[data-test=lines]',
    isUnpictured: true,
  },
  { name: 'run-plan', who: 'dario', path: at('/run/dispatches/plan'), ready: '[data-field=leavesOn]', isUnpictured: true },
  { name: 'run-transfers', who: 'dario', path: at('/run/transfers'), ready: '[data-test=move]', isUnpictured: true },
  { name: 'run-places', who: 'ilse', path: at('/run/places'), ready: '[data-rule]', isUnpictured: true },
  { name: 'run-stock', who: 'dario', path: at('/run/stock'), ready: 'tbody tr', isUnpictured: true, isForTablet: true },
  {
    name: 'run-feed',
    who: 'dario',
    path: async (api) => `/run/feed/${(await api.call(run.listFeedEvents, { query: { state: 'aside' } })).rows[0]?.id}`,
    ready: '[data-test=wrong]',
    isUnpictured: true,
  },
  { name: 'record-queue', who: 'rosa', path: at('/record'), ready: 'tbody tr' },
  { name: 'record-day', who: 'rosa', path: at('/record/day'), ready: '[data-test=take]', isUnpictured: true },
  { name: 'record-planning', who: 'ilse', path: at('/record/planning'), ready: '[data-card]' },
  {
    name: 'record',
    who: 'rosa',
    path: async (api) => `/record/${await inspection(api, { state: 'started', sort: 'asked', dir: 'asc' })}`,
    ready: '.bench .grid td',
    isForTablet: true,
    isUnpictured: true,
  },
  {
    name: 'record-chart',
    who: 'rosa',
    path: async (api) => `/record/${(await measuredOften(api)).id}`,
    ready: '.bench figure canvas',
    isForTablet: true,
    kept: { 'bench chart': 'open' },
  },
  {
    name: 'contain',
    who: 'anja',
    path: async (api) => `/contain/${await inspection(api, { state: 'deciding', sort: 'verdict', dir: 'desc' })}`,
    ready: '[data-test=decide]',
  },
  {
    name: 'contain-stops',
    who: 'anja',
    path: async (api) => `/contain/stops/${(await api.call(endpoints.contain.listStops, { query: {} })).rows[0]?.id}`,
    ready: '[data-test=lots]',
    isUnpictured: true,
  },
  {
    name: 'trace',
    who: 'jun',
    path: async (api) => `/trace/${(await softBars(api)).lotId}`,
    ready: '.spine .seal',
  },
  {
    name: 'people',
    who: 'mirela',
    path: async (api) => `/people/${(await api.call(endpoints.people.listPeople, { query: { q: 'Rosa' } })).rows[0]?.id}`,
    ready: 'form fieldset',
    isUnpictured: true,
  },
  { name: 'audit', who: 'jun', path: at('/people/audit'), ready: 'tbody tr' },
]
