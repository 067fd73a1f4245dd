import { CoreError } from '../../errors'
import { mondayOf } from '../../numeric/calendar'

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

/** What a rule rests on; `sayDue` puts it into words. */
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

/** Arrivals that a rule looks back on; its numbers are no larger than half of it. */
export const frequencyLookBack = 1000

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

/** Accepted lots in a row up to now; what was not inspected neither counts nor breaks. */
function acceptedInARow(before: readonly PastArrival[]): number {
  let row = 0
  for (let i = before.length - 1; i >= 0; i--) {
    const past = before[i] as PastArrival
    if (past.isAccepted === null) continue
    if (!past.isAccepted) return row
    row += 1
  }
  return row
}

/** Arrivals since the last inspected one; null when none was inspected. */
function sinceInspected(before: readonly PastArrival[]): number | null {
  const last = before.findLastIndex((past) => past.isInspected)
  return last < 0 ? null : before.length - 1 - last
}

function oneIn(k: number, before: readonly PastArrival[]): Due {
  const since = sinceInspected(before)
  if (since === null) return { isDue: true, because: { kind: 'first' } }
  return { isDue: since + 1 >= k, because: { kind: 'interval', since: since + 1, k } }
}

/**
 * Whether an arrival is to be looked at. After a lot that was not accepted every arrival is, for as many lots as the rule says.
 * Shape: rule, arrival, the arrivals before it in order → Due. Same input, same answer: a random share is drawn from the identity.
 * @throws {CoreError} as `checkFrequencyRule`.
 */
export function isDue(rule: FrequencyRule, arrival: Arrival, before: readonly PastArrival[]): Due {
  checkFrequencyRule(rule)
  const lastFailure = before.findLastIndex((past) => past.isAccepted === false)
  const judgedSince = lastFailure < 0 ? 0 : before.slice(lastFailure + 1).filter((past) => past.isInspected).length
  const full = rule.fullAfterFailure ?? 0
  if (lastFailure >= 0 && judgedSince < full) return { isDue: true, because: { kind: 'afterFailure', lots: full } }
  switch (rule.kind) {
    case 'everyArrival':
      return { isDue: true, because: { kind: 'every' } }
    case 'oneIn':
      return oneIn(rule.k, before)
    case 'randomShare':
      return { isDue: draw(arrival.id) * 100 < rule.percent, because: { kind: 'drawn', percent: rule.percent } }
    case 'oncePer': {
      const here = periodOf(arrival.day, rule.period)
      const last = before.findLast((past) => past.isInspected)
      const isFirst = last === undefined || periodOf(last.day, rule.period) !== here
      return { isDue: isFirst, because: { kind: 'period', period: rule.period } }
    }
    case 'oncePerOrder': {
      // Without a number nobody can say that it is the same order.
      const { order = '' } = arrival
      const isFirst = order === '' || !before.some((past) => past.isInspected && past.order === order)
      return { isDue: isFirst, because: { kind: 'order', order } }
    }
    case 'perPieces': {
      const last = before.findLastIndex((past) => past.isInspected)
      if (last < 0) return { isDue: true, because: { kind: 'first' } }
      const since = before.slice(last + 1).reduce((sum, past) => sum + past.quantity, arrival.quantity)
      return { isDue: since >= rule.pieces, because: { kind: 'pieces', since, pieces: rule.pieces } }
    }
    case 'perHours': {
      const last = before.findLast((past) => past.isInspected)
      if (!last) return { isDue: true, because: { kind: 'first' } }
      const since = arrival.atHours - last.atHours
      // Hours of tenths are no whole fractions: what counts is the instant.
      return { isDue: inMs(since) >= inMs(rule.hours), because: { kind: 'hours', since, hours: rule.hours } }
    }
    case 'certificateOnly': {
      const row = acceptedInARow(before)
      return { isDue: row < rule.clearance, because: { kind: 'standing', row, clearance: rule.clearance } }
    }
    case 'earnedSkipping': {
      const row = acceptedInARow(before)
      const { clearance } = rule
      if (row < clearance) return { isDue: true, because: { kind: 'earned', row, clearance, interval: null } }
      const { isDue: isNow, because } = oneIn(rule.k, before)
      return { isDue: isNow, because: { kind: 'earned', row, clearance, interval: because.kind === 'interval' ? because : null } }
    }
  }
}

const periods = { day: 'once a day', week: 'once a week', month: 'once a month' } as const

/** The rule in words: `one in 5 arrivals`. */
export function describeFrequencyRule(rule: FrequencyRule): string {
  const full = rule.fullAfterFailure ? `, ${rule.fullAfterFailure} in full after a failure` : ''
  const words = () => {
    switch (rule.kind) {
      case 'everyArrival':
        return 'every arrival'
      case 'oneIn':
        return `one in ${rule.k} arrivals`
      case 'randomShare':
        return `${rule.percent} % of the arrivals, drawn`
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

/** Share of the arrivals looked at on the long run when lots are accepted with probability P; null where it depends on the calendar. */
export function expectedShare(rule: FrequencyRule, accepted = 1): number | null {
  switch (rule.kind) {
    case 'everyArrival':
      return 1
    case 'oneIn':
      return 1 / rule.k
    case 'randomShare':
      return rule.percent / 100
    case 'earnedSkipping': {
      const earned = accepted ** rule.clearance
      return 1 / rule.k / (1 / rule.k + (1 - 1 / rule.k) * earned)
    }
    case 'oncePer':
    case 'oncePerOrder':
    case 'perPieces':
    case 'perHours':
    case 'certificateOnly':
      return null
  }
}
