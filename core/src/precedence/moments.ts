import type { PointSubject, UnitKind } from '../ledger/occasions'
import type { KeptFrom } from './consequence'

/** When at an operation a control point asks, by the operation's kind; the first is the usual one. */
export const momentsOf = {
  receiving: ['arrival', 'announced', 'registered'],
  production: ['end', 'start', 'everyPieces', 'everyMinutes', 'setUp', 'lastPiece'],
  transfer: ['arrival'],
  shipping: ['beforeDispatch', 'beforePicking'],
  return: ['arrival'],
} as const
export type OperationKind = keyof typeof momentsOf
export const moments = [
  'announced',
  'registered',
  'arrival',
  'start',
  'everyPieces',
  'everyMinutes',
  'setUp',
  'lastPiece',
  'end',
  'beforePicking',
  'beforeDispatch',
] as const
export type Moment = (typeof moments)[number]

/** What comes to an operation, in a word: what is delivered or comes back arrives, what is made, moved or sent is a lot. */
export const comesAs = (kind: OperationKind): 'arrival' | 'lot' => (kind === 'receiving' || kind === 'return' ? 'arrival' : 'lot')

export function isMomentOf(kind: OperationKind, moment: Moment): boolean {
  return (momentsOf[kind] as readonly Moment[]).includes(moment)
}

/** Whether a moment comes while a step runs, so that there is something that was made since the one before. */
export const isInRun = (moment: Moment): boolean => ['everyPieces', 'everyMinutes', 'setUp', 'lastPiece'].includes(moment)

/** Before a receipt is posted, or a dispatch picked, there are no lots: what is asked then is asked of the load. */
const beforeReceipt: readonly Moment[] = ['announced', 'registered']

const isBeforeLots = (moment: Moment) => beforeReceipt.includes(moment) || moment === 'beforePicking'

/** When what comes or leaves together is looked at as one: vehicle, seal, packing. */
const loadsAt: Readonly<Partial<Record<OperationKind, readonly Moment[]>>> = {
  receiving: [...beforeReceipt, 'arrival'],
  shipping: ['beforePicking', 'beforeDispatch'],
}

/** Pieces are told apart where they come or leave, and by their serial numbers where a step has made them; while it runs, they are one. */
const trackedUnits: Readonly<Record<OperationKind, readonly UnitKind[]>> = {
  receiving: ['container', 'serial'],
  production: ['serial'],
  transfer: ['container', 'serial'],
  shipping: ['container', 'serial'],
  return: ['container', 'serial'],
}

/** What is looked at when at an operation, in the order in which it happens: a load before the lots that it brings, a lot before what is in it. */
export function looksAt(kind: OperationKind): readonly { readonly moment: Moment; readonly subject: PointSubject }[] {
  const loads = loadsAt[kind] ?? []
  const lots = momentsOf[kind].filter((moment) => !isBeforeLots(moment))
  const apart: readonly Moment[] = kind === 'production' ? ['end'] : lots
  return [
    ...loads.map((moment) => ({ moment, subject: 'load' as const })),
    ...lots.map((moment) => ({ moment, subject: 'lot' as const })),
    ...trackedUnits[kind].flatMap((subject) => apart.map((moment) => ({ moment, subject }))),
  ]
}

export const momentWords: Readonly<Record<Moment, string>> = {
  announced: 'when it is announced',
  registered: 'when the vehicle is registered at the dock',
  arrival: 'when it arrives (receipt posted)',
  start: 'when the step is started (first piece)',
  everyPieces: 'every so many pieces while it runs',
  everyMinutes: 'every so many minutes while it runs',
  setUp: 'after a set-up change',
  lastPiece: 'at the last piece',
  end: 'when the step is confirmed',
  beforePicking: 'when it is planned, before it is picked',
  beforeDispatch: 'once it is picked, before it leaves',
}

/** What the interval of a moment counts; null where it has none. */
export function intervalOf(moment: Moment): 'pieces' | 'minutes' | null {
  return moment === 'everyPieces' ? 'pieces' : moment === 'everyMinutes' ? 'minutes' : null
}

/** The moment with its interval: `every 50 pieces while it runs`. */
export function describeMoment(moment: Moment, every: number | null): string {
  const unit = intervalOf(moment)
  if (unit === null || every === null) return momentWords[moment]
  return `every ${every === 1 ? unit.slice(0, -1) : `${every} ${unit}`} while it runs`
}

/** What a gate keeps from happening: the later step that it blocks, by where and when it stands. */
export const gateSteps = ['receive', 'putAway', 'use', 'goOn', 'nextStep', 'pick', 'dispatch'] as const
export type GateStep = (typeof gateSteps)[number]

/** @param keepsFrom what it keeps goods from that lie here */
export function stepBlocked(kind: OperationKind, moment: Moment, keepsFrom: KeptFrom = 'putAway'): GateStep {
  if (kind === 'production') return moment === 'end' ? 'nextStep' : 'goOn'
  if (beforeReceipt.includes(moment)) return 'receive'
  if (kind === 'shipping') return moment === 'beforePicking' ? 'pick' : 'dispatch'
  return keepsFrom
}

export const gateWords: Readonly<Record<GateStep, string>> = {
  receive: 'the receipt cannot be posted before it is finished; what is not acceptable comes in on hold',
  putAway: 'put-away waits for its decision',
  use: 'it may be put away, on hold; issue to production, picking and sending wait for its decision',
  goOn: 'no more pieces can be reported, nor the step confirmed, before its decision',
  nextStep: 'the next step cannot start, nor the order finish, before its decision',
  pick: 'nothing can be picked before it is found acceptable',
  dispatch: 'the goods cannot leave before its decision',
}
