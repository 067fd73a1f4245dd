import {
  beginSwitching,
  stepSwitching,
  type JudgedLot,
  type SwitchCounts,
  type SwitchingOptions,
  type SwitchReason,
  type SwitchState,
} from './switching'

/** What happened to a line under a switching scheme, in its order: a lot judged under an inspection, or a person's answer to a stop. */
export type SwitchEvent = (JudgedLot & { readonly kind: 'lot'; readonly under: SwitchState }) | { readonly kind: 'answered' }

/** Which inspection the next lot gets; `describeSeverity` puts it into words. */
export interface SeverityNow {
  readonly state: SwitchState
  /** The switch that led here; null where there was none. */
  readonly because: SwitchReason | null
  /** Switching score under normal inspection, else 0. */
  readonly score: number
}

/** Which inspection the next lot gets, with the counts that lead on from here: what is kept between two lots of a line. */
export interface SeverityState {
  readonly now: SeverityNow
  readonly counts: SwitchCounts
}

/** Before the first lot. */
export function beginSeverity(options: SwitchingOptions): SeverityState {
  const counts = beginSwitching(options)
  return { now: { state: counts.state, because: null, score: 0 }, counts }
}

/**
 * One event further. A lot that was opened before a switch and judged after it counts for neither side: it was looked at under another inspection
 * than the one it would switch. An answer leads out of discontinued inspection, to tightened; elsewhere it changes nothing.
 * Shape: state, SwitchEvent → state. Source: MIL-STD-105E, 4.7 and 4.8.
 * @throws {CoreError} as `stepSwitching`.
 */
export function advanceSeverity(state: SeverityState, event: SwitchEvent, options: SwitchingOptions): SeverityState {
  const { now, counts } = state
  if (event.kind === 'answered') {
    if (now.state !== 'discontinued') return state
    return { now: { state: 'tightened', because: { kind: 'answered' }, score: 0 }, counts: beginSwitching({ ...options, start: 'tightened' }) }
  }
  if (event.under !== now.state) return state
  const { step, counts: after } = stepSwitching(counts, event, options)
  return { now: step.because === null ? { ...now, score: step.score } : { state: step.next, because: step.because, score: 0 }, counts: after }
}

/**
 * Which inspection the next lot gets after all that happened. Shape: SwitchEvent[] in order → SeverityNow.
 * @throws {CoreError} as `stepSwitching`.
 */
export function severityNow(events: readonly SwitchEvent[], options: SwitchingOptions): SeverityNow {
  return events.reduce((state, event) => advanceSeverity(state, event, options), beginSeverity(options)).now
}
