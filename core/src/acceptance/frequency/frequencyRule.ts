import { CoreError } from '../../errors'
import { mondayOf } from '../../numeric/calendar'
import type { FrequencyHistory } from './frequencyHistory'

/** Which arrivals, runs or intervals are looked at at all; how many pieces then is the sampling rule's matter. */
export type FrequencyRule = { readonly fullAfterFailure?: number | undefined } & (
  | { readonly kind: 'everyArrival' }
  | { readonly kind: 'oneIn'; readonly k: number }
  | { readonly kind: 'randomShare'; readonly percent: number }
  | { readonly kind: 'oncePer'; readonly period: 'day' | 'week' | 'month' }
  | { readonly kind: 'oncePerOrder' }
  | { readonly kind: 'perPieces'; readonly pieces: number }
  | { readonly kind: 'perHours'; readonly hours: number }
  | { readonly kind: 'certificateOnly'; readonly clearance: number }
  | { readonly kind: 'earnedSkipping'; readonly clearance: number; readonly k: number }
)
export type FrequencyKind = FrequencyRule['kind']

export interface Arrival {
  readonly id: string
  /** Calendar day where the plant is, `2026-03-31`, and hours since any fixed instant. */
  readonly day: string
  readonly atHours: number
  readonly quantity: number
  /** The order that it belongs to, as it is called there; empty or left out where there is none. */
  readonly order?: string | undefined
}

/** An arrival of the past; accepted is null where it was not inspected or is not judged yet. */
export interface PastArrival extends Arrival {
  readonly isInspected: boolean
  readonly isAccepted: boolean | null
}

/** What a rule rests on; `describeDue` puts it into words. */
export type DueReason =
  | { readonly kind: 'every' }
  | { readonly kind: 'first' }
  | { readonly kind: 'afterFailure'; readonly lots: number }
  | { readonly kind: 'interval'; readonly since: number; readonly k: number }
  | { readonly kind: 'drawn'; readonly percent: number }
  | { readonly kind: 'period'; readonly period: 'day' | 'week' | 'month' }
  | { readonly kind: 'order'; readonly order: string }
  | { readonly kind: 'pieces'; readonly since: number; readonly pieces: number }
  | { readonly kind: 'hours'; readonly since: number; readonly hours: number }
  | { readonly kind: 'standing'; readonly row: number; readonly clearance: number }
  | {
      readonly kind: 'earned'
      readonly row: number
      readonly clearance: number
      readonly interval: { readonly since: number; readonly k: number } | null
    }

export interface Due {
  readonly isDue: boolean
  readonly because: DueReason
}

const whole: Partial<Record<string, string>> = {
  k: 'One in k',
  pieces: 'Pieces',
  clearance: 'Accepted lots in a row',
  fullAfterFailure: 'Lots after a failure',
}

/**
 * Refuses a rule that could never be carried out.
 * @throws {CoreError} `frequency_invalid` (names the field), `percent_invalid`.
 */
export function checkFrequencyRule(rule: FrequencyRule): void {
  for (const [field, value] of Object.entries(rule)) {
    const name = whole[field]
    const least = field === 'fullAfterFailure' ? 0 : 1
    if (name && typeof value === 'number' && (!Number.isSafeInteger(value) || value < least)) {
      throw new CoreError('frequency_invalid', `${name}: received ${value}. It is a whole number, ${least} or more.`, { received: value, field })
    }
  }
  if (rule.kind === 'randomShare' && !(rule.percent > 0 && rule.percent <= 100)) {
    throw new CoreError('percent_invalid', `Received ${rule.percent} %. It is more than 0 and at most 100.`, {
      received: rule.percent,
      field: 'percent',
    })
  }
  if (rule.kind === 'perHours' && !(rule.hours > 0)) {
    throw new CoreError('frequency_invalid', `Received an interval of ${rule.hours} hours. It is more than 0.`, {
      received: rule.hours,
      field: 'hours',
    })
  }
}

const inMs = (hours: number) => Math.round(hours * 3_600_000)

/** Whether what came before bears on the rule at all: every arrival and a random share ask nothing of it, unless failures bring back all. */
export function looksBack({ kind, fullAfterFailure = 0 }: FrequencyRule): boolean {
  return fullAfterFailure > 0 || (kind !== 'everyArrival' && kind !== 'randomShare')
}

/** A draw that anybody can repeat: FNV-1a of the identity, mixed, as a fraction 0..1. */
function draw(id: string): number {
  let hash = 0x811c9dc5
  for (let i = 0; i < id.length; i++) hash = Math.imul(hash ^ id.charCodeAt(i), 0x01000193)
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b)
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35)
  return ((hash ^ (hash >>> 16)) >>> 0) / 0x100000000
}

/** Monday-based weeks, months by the calendar. */
function periodOf(day: string, period: 'day' | 'week' | 'month'): string {
  if (period === 'day') return day
  if (period === 'month') return day.slice(0, 7)
  return mondayOf(day)
}

function oneIn(k: number, { last, since }: FrequencyHistory): Due {
  if (last === null) return { isDue: true, because: { kind: 'first' } }
  const nth = since.arrivals + 1
  return { isDue: nth >= k, because: { kind: 'interval', since: nth, k } }
}

/**
 * Whether an arrival is to be looked at. After a lot that was not accepted every arrival is, for as many lots as the rule says.
 * Shape: rule, arrival, the history before it → Due. Same input, same answer: a random share is drawn from the identity.
 * @throws {CoreError} as `checkFrequencyRule`.
 */
export function isDue(rule: FrequencyRule, arrival: Arrival, before: FrequencyHistory): Due {
  checkFrequencyRule(rule)
  const full = rule.fullAfterFailure ?? 0
  if (before.sinceFailure !== null && before.sinceFailure < full) return { isDue: true, because: { kind: 'afterFailure', lots: full } }
  const { last, since, acceptedInRow: row } = before
  switch (rule.kind) {
    case 'everyArrival':
      return { isDue: true, because: { kind: 'every' } }
    case 'oneIn':
      return oneIn(rule.k, before)
    case 'randomShare':
      return { isDue: draw(arrival.id) * 100 < rule.percent, because: { kind: 'drawn', percent: rule.percent } }
    case 'oncePer': {
      const { period } = rule
      const isFirst = last === null || periodOf(last.day, period) !== periodOf(arrival.day, period)
      return { isDue: isFirst, because: { kind: 'period', period } }
    }
    case 'oncePerOrder': {
      // Without a number nobody can say that it is the same order.
      const { order = '' } = arrival
      return { isDue: order === '' || !before.hasSeenOrder(order), because: { kind: 'order', order } }
    }
    case 'perPieces': {
      if (last === null) return { isDue: true, because: { kind: 'first' } }
      const pieces = since.pieces + arrival.quantity
      return { isDue: pieces >= rule.pieces, because: { kind: 'pieces', since: pieces, pieces: rule.pieces } }
    }
    case 'perHours': {
      if (last === null) return { isDue: true, because: { kind: 'first' } }
      const hours = arrival.atHours - last.atHours
      // Hours of tenths are no whole fractions: what counts is the instant.
      return { isDue: inMs(hours) >= inMs(rule.hours), because: { kind: 'hours', since: hours, hours: rule.hours } }
    }
    case 'certificateOnly':
      return { isDue: row < rule.clearance, because: { kind: 'standing', row, clearance: rule.clearance } }
    case 'earnedSkipping': {
      const { clearance } = rule
      if (row < clearance) return { isDue: true, because: { kind: 'earned', row, clearance, interval: null } }
      const { isDue: isNow, because } = oneIn(rule.k, before)
      return { isDue: isNow, because: { kind: 'earned', row, clearance, interval: because.kind === 'interval' ? because : null } }
    }
  }
}

/** Whether chance alone decided: the next arrival of the same history may fall otherwise. */
export function isByChance({ because }: Due): boolean {
  return because.kind === 'drawn' && because.percent < 100
}

const periods = { day: 'once a day', week: 'once a week', month: 'once a month' } as const

/** The rule in words: `one in 5 arrivals`; of what is made or sent, `one in 5 lots`. */
export function describeFrequencyRule(rule: FrequencyRule, one: 'arrival' | 'lot' = 'arrival'): string {
  const full = rule.fullAfterFailure ? `, ${rule.fullAfterFailure} in full after a failure` : ''
  const words = () => {
    switch (rule.kind) {
      case 'everyArrival':
        return `every ${one}`
      case 'oneIn':
        return `one in ${rule.k} ${one}s`
      case 'randomShare':
        return `${rule.percent} % of the ${one}s, drawn`
      case 'oncePer':
        return periods[rule.period]
      case 'oncePerOrder':
        return 'once for an order line'
      case 'perPieces':
        return `once per ${rule.pieces} pieces`
      case 'perHours':
        return `once per ${rule.hours} hours`
      case 'certificateOnly':
        return `certificate only after ${rule.clearance} accepted in a row`
      case 'earnedSkipping':
        return `one in ${rule.k} after ${rule.clearance} accepted in a row`
    }
  }
  return words() + full
}

/**
 * Share of the arrivals looked at on the long run when lots are accepted with probability P; null where it depends on the calendar.
 * After a lot that was not accepted all are looked at until so many in a row were: (P^−m − 1) / (1 − P) arrivals on the average, as in
 * skip-lot sampling (R. L. Perry, J. Quality Technology 5, 1973); then a share until the next one fails.
 */
export function expectedShare(rule: FrequencyRule, accepted = 1): number | null {
  const full = rule.fullAfterFailure ?? 0
  const share = (usual: number, inFull: number) => 1 / (1 + (1 / usual - 1) * accepted ** inFull)
  switch (rule.kind) {
    case 'everyArrival':
      return 1
    case 'oneIn':
      return share(1 / rule.k, full)
    case 'randomShare':
      return share(rule.percent / 100, full)
    case 'earnedSkipping':
      return share(1 / rule.k, Math.max(rule.clearance, full))
    case 'oncePer':
    case 'oncePerOrder':
    case 'perPieces':
    case 'perHours':
    case 'certificateOnly':
      return null
  }
}
