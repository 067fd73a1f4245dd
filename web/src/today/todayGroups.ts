import { calibrationFault, expectedStateWords } from '@nemawashi/core'
import {
  type AcceptanceStop,
  type DeliveryRow,
  type DispatchRow,
  type ExpectedRow,
  type GaugeRow,
  type HeldRow,
  type InspectionRow,
  type LotRow,
  type ProductionOrderRow,
  type Role,
  type NotificationRow,
  contain,
  define,
  equip,
  record,
  run,
  trace,
  upperFirst,
} from '@nemawashi/contract'
import { call } from '../shell/api'
import { plantDay, startOfPlantDay } from '../shell/plantTime'
import { dispatchState } from '../format/dispatchState'
import { amount, count, dayWords, figureOf, lookedAt, momentOf, sampleWords, since, verdictMark, verdictWords } from '../format/format'

/** One thing to look at, and where it is done. */
export interface TodayEntry {
  readonly id: string
  readonly to: string
  readonly when: string
  readonly title: string
  readonly about: string
  readonly detail: string
  readonly state: string
  readonly mark: 'conforming' | 'nonconforming' | 'notJudged' | null
  readonly tone: string
  /** Share that is done, 0–1; null where nothing is being filled in. */
  readonly done: number | null
  /** What going there does, where it does something. */
  readonly follow?: () => Promise<unknown>
}
export interface TodayGroup {
  readonly title: string
  readonly entries: readonly TodayEntry[]
  readonly total: number
  readonly empty: string
  readonly all: string
}

type Load = () => Promise<TodayGroup>
const plain = { detail: '', state: '', mark: null, tone: 'soft', done: null } as const

function inspections(
  title: string,
  query: object,
  limit: number,
  empty: string,
  all: string,
  order: { sort: 'openedAt' | 'finishedAt' | 'dueAt'; dir: 'asc' } = { sort: 'openedAt', dir: 'asc' },
): Load {
  return async () => {
    const page = await call(record.listInspections, { query: { ...query, ...order, limit } })
    const entries = (page.rows as InspectionRow[]).map((row) => ({
      ...plain,
      id: row.id,
      to: row.state === 'finished' ? `/contain/${row.id}` : `/record/${row.id}`,
      // Where the most urgent stands first, the time is that by which it is to be done.
      when: order.sort === 'dueAt' ? (row.dueAt === null ? '' : `due ${momentOf(row.dueAt)}`) : momentOf(row.openedAt),
      title: row.planName,
      about: row.partName,
      detail: [lookedAt(row), row.supplierName || row.operationName, row.isGate ? '' : 'no gate'].filter(Boolean).join(' · '),
      state: row.verdict ? (verdictWords[row.verdict] ?? '') : sampleWords(row),
      mark: row.verdict ? verdictMark(row.verdict) : null,
      tone: row.verdict ? verdictMark(row.verdict) : 'soft',
      done: row.state === 'started' ? row.answered / Math.max(1, row.asked) : null,
    }))
    return { title, entries, total: page.total, empty, all }
  }
}

const deliveries: Load = async () => {
  const page = await call(run.listDeliveries, { query: { limit: 10 } })
  const entries = (page.rows as DeliveryRow[]).map((row) => ({
    ...plain,
    id: row.id,
    to: `/run/${row.id}`,
    when: momentOf(row.receivedAt),
    title: row.partCodes,
    about: row.supplierName,
    detail: `${row.code} · order ${row.orderNumber}`,
    state: row.openInspections > 0 ? `${count(row.openInspections, 'inspection')} open` : 'free: may be put away',
    tone: row.openInspections > 0 ? 'hold' : 'conforming',
  }))
  return { title: 'What has arrived', entries, total: page.total, empty: 'Nothing has arrived yet.', all: '/run' }
}

const expected: Load = async () => {
  const page = await call(run.listExpected, { query: { state: 'toCome', sort: 'expectedOn', dir: 'asc', limit: 6 } })
  const entries = (page.rows as ExpectedRow[]).map((row) => ({
    ...plain,
    id: row.id,
    to: `/run/expected/${row.id}`,
    when: row.expectedOn === null ? '' : dayWords(row.expectedOn),
    title: row.partCodes,
    about: row.supplierName,
    detail: `${row.code} · order ${row.orderNumber}`,
    state: `${expectedStateWords[row.state]}${row.openInspections > 0 ? `, ${count(row.openInspections, 'inspection')} open` : ''}`,
    tone: row.openInspections > 0 ? 'hold' : 'soft',
  }))
  return { title: 'To come, and at the dock', entries, total: page.total, empty: 'Nothing is announced.', all: '/run/expected' }
}

const onTheLine: Load = async () => {
  const page = await call(run.listOrders, { query: { state: 'released', sort: 'openChecks', dir: 'desc', limit: 10 } })
  const entries = (page.rows as ProductionOrderRow[]).map((row) => ({
    ...plain,
    id: row.id,
    to: `/run/orders/${row.id}`,
    when: row.code,
    title: row.partCode,
    about: row.partName,
    detail: `${figureOf(row.quantity, row.unit)} · ${row.stepName || 'to finish'}`,
    state: row.openChecks > 0 ? `${count(row.openChecks, 'check')} open` : row.failedChecks > 0 ? 'a check failed' : 'can go on',
    tone: row.openChecks > 0 ? 'hold' : row.failedChecks > 0 ? 'nonconforming' : 'conforming',
  }))
  return { title: 'On the line', entries, total: page.total, empty: 'No order is released.', all: '/run/orders?state=released' }
}

function stateOf(row: DispatchRow): Pick<TodayEntry, 'state' | 'tone'> {
  const { words, tone } = dispatchState(row)
  return { state: words, tone }
}

const toBePicked: Load = async () => {
  const page = await call(run.listDispatches, { query: { state: 'planned', sort: 'leavesOn', dir: 'asc', limit: 6 } })
  const entries = (page.rows as DispatchRow[]).map((row) => ({
    ...plain,
    id: row.id,
    to: `/run/dispatches/${row.id}`,
    when: row.leavesOn === null ? '' : dayWords(row.leavesOn),
    title: row.code,
    about: row.customerName,
    detail: `order ${row.orderNumber} · ${row.pieces}`,
    ...stateOf(row),
  }))
  return { title: 'To be picked', entries, total: page.total, empty: 'No dispatch is planned.', all: '/run/dispatches?state=planned' }
}

const atTheDoor: Load = async () => {
  const page = await call(run.listDispatches, { query: { state: 'picked', limit: 8 } })
  const entries = (page.rows as DispatchRow[]).map((row) => ({
    ...plain,
    id: row.id,
    to: `/run/dispatches/${row.id}`,
    when: momentOf(row.pickedAt ?? row.at),
    title: row.code,
    about: row.customerName,
    detail: `order ${row.orderNumber} · ${row.pieces}`,
    ...stateOf(row),
  }))
  return { title: 'At the door', entries, total: page.total, empty: 'Nothing is picked and waits.', all: '/run/dispatches?state=picked' }
}

const held: Load = async () => {
  const page = await call(contain.listHeld, { query: { limit: 8 } })
  const entries = (page.rows as HeldRow[]).map((row) => ({
    ...plain,
    id: row.id,
    to: row.waitsFor === 'decisionAnew' || row.inspectionId === null ? `/contain/lot/${row.lotId}` : `/contain/${row.inspectionId}?lot=${row.lotId}`,
    when: since(row.heldSince),
    title: row.lotCode,
    about: row.partName,
    detail: row.supplierName,
    state: row.onHold > 0 ? `${amount(row.onHold, row.unit)} on hold` : `${amount(row.quarantined, row.unit)} quarantined`,
    tone: 'hold',
  }))
  return { title: 'Held longest', entries, total: page.total, empty: 'Nothing is held.', all: '/contain' }
}

const stops: Load = async () => {
  const page = await call(contain.listStops, { query: { state: 'standing', limit: 6 } })
  const entries = (page.rows as AcceptanceStop[]).map((row) => ({
    ...plain,
    id: row.id,
    to: `/contain/stops/${row.id}`,
    when: since(row.at),
    title: row.characteristicName,
    about: row.partName,
    detail: [row.partnerName || row.operationName, row.planName].join(' · '),
    state: 'wants an answer',
    mark: 'nonconforming' as const,
    tone: 'nonconforming',
  }))
  return { title: 'Inspection discontinued', entries, total: page.total, empty: 'Inspection is discontinued nowhere.', all: '/contain/stops' }
}

/** What somebody was told: gone from here once they have looked at it. */
const notifications: Load = async () => {
  const page = await call(record.listNotifications, { query: { limit: 10 } })
  const entries = (page.rows as NotificationRow[]).map((row) => ({
    ...plain,
    id: row.id,
    to: `/record/${row.inspectionId}`,
    when: momentOf(row.at),
    title: row.planName,
    about: row.partName,
    detail: [row.code, row.lotCode, row.advice].filter(Boolean).join(' · '),
    state: 'not acceptable',
    mark: 'nonconforming' as const,
    tone: 'nonconforming',
    follow: () => call(record.markNotificationRead, { params: { id: row.id } }),
  }))
  return { title: 'You are told', entries, total: page.total, empty: '', all: '/today' }
}

/** Gauges that nobody should trust any more, then those that are due within a month. */
const gaugesDue: Load = async () => {
  const page = await call(equip.listGauges, { query: { due: 'due', state: 'inUse', sort: 'dueOn', dir: 'asc', limit: 6 } })
  const entries = page.rows.map((row: GaugeRow) => {
    const fault = calibrationFault(row, plantDay(new Date()))
    return {
      ...plain,
      id: row.id,
      to: `/equip/gauges/${row.id}`,
      when: row.dueOn === null ? '' : dayWords(row.dueOn),
      title: row.code,
      about: row.name,
      detail: row.kind,
      state: fault === null ? 'due soon' : { neverCalibrated: 'never calibrated', overdue: 'overdue' }[fault],
      tone: fault === null ? 'marginal' : 'nonconforming',
    }
  })
  return { title: 'Gauges due for calibration', entries, total: page.total, empty: '', all: '/equip/gauges?due=due' }
}

/** What a list of definitions has as drafts. */
const drafts =
  (endpoint: typeof define.listPlans | typeof define.listCharacteristics, what: 'plan' | 'characteristic'): Load =>
  async () => {
    const page = await call(endpoint as typeof define.listPlans, { query: { state: 'draft', limit: 5 } })
    const entries = page.rows.map(({ id, code, name }) => ({
      ...plain,
      id,
      to: `/define/${what}s/${id}`,
      when: '',
      title: code,
      about: name,
      state: what,
      tone: 'marginal' as const,
    }))
    const title = `${upperFirst(what)}s that are not released`
    return { title, entries, total: page.total, empty: `Every ${what} is released.`, all: `/define/${what}s?state=draft` }
  }
const draftPlans = drafts(define.listPlans, 'plan')
const draftCharacteristics = drafts(define.listCharacteristics, 'characteristic')

const lots: Load = async () => {
  const page = await call(trace.listLots, { query: { limit: 8 } })
  const entries = (page.rows as LotRow[]).map((row) => ({
    ...plain,
    id: row.id,
    to: `/trace/${row.id}`,
    when: momentOf(row.receivedAt),
    title: row.code,
    about: row.partName,
    detail: `${row.supplierName} ${row.supplierLot}`,
    state: amount(row.quantity, row.unit),
  }))
  return { title: 'The latest lots', entries, total: page.total, empty: 'Lots appear here when deliveries are booked in.', all: '/trace' }
}

const waiting = inspections('Waits for a decision', { state: 'deciding' }, 8, 'Nothing waits for a decision.', '/record?tab=deciding', {
  sort: 'finishedAt',
  dir: 'asc',
})
const started = inspections('Started', { state: 'started' }, 6, 'Nothing is started and left.', '/record?tab=started')
const toDo = inspections('To do', { state: 'toDo' }, 8, 'Nothing waits for the bench.', '/record?tab=todo')
/** The own day of whoever works at the bench: what they are at, what is planned for them, and what nobody has yet. */
const begun = inspections('Taken or begun by you', { own: 'begun' }, 6, 'You have taken nothing yet.', '/record?tab=open&own=begun')
const planned = inspections('Planned for you', { own: 'planned' }, 6, 'Nothing is planned for you today.', '/record?tab=open&own=planned')
const free = inspections(
  'Nobody has these yet',
  { own: 'free' },
  8,
  'Everything that waits for the bench has somebody.',
  '/record?tab=open&own=free',
  {
    sort: 'dueAt',
    dir: 'asc',
  },
)
const doneToday: Load = () =>
  inspections('Done today', { finishedSince: startOfPlantDay(plantDay(new Date())) }, 6, 'Nothing yet.', '/record?tab=done')()

const late: Load = () =>
  inspections('Late', { state: 'open', due: 'late' }, 6, 'Nothing is late.', '/record?tab=late', {
    sort: 'dueAt',
    dir: 'asc',
  })()

/** What each role looks at first; somebody with several roles sees those of the first that is named here. */
const byRole: readonly (readonly [Role, readonly Load[]])[] = [
  ['qualityManager', [stops, waiting, late, held, started]],
  ['qualityEngineer', [stops, late, gaugesDue, draftPlans, draftCharacteristics, waiting, started, toDo]],
  ['receivingClerk', [expected, deliveries, toBePicked, atTheDoor, toDo]],
  ['inspector', [late, begun, planned, free, doneToday]],
  ['productionOperator', [onTheLine, late]],
  ['auditor', [lots, waiting]],
]

export async function groupsFor(roles: readonly Role[]): Promise<TodayGroup[]> {
  const found = byRole.find(([role]) => roles.includes(role))
  // Acceptance that goes on everywhere is no news, nor are gauges that are good.
  const groups = await Promise.all([notifications, ...(found?.[1] ?? [started, toDo, doneToday])].map((load) => load()))
  return groups.filter(({ all, total }) => total > 0 || !['/contain/stops', '/today', '/equip/gauges?due=due'].includes(all))
}
