import { switching, type JudgedLot, type SwitchingOptions, type SwitchReason, type SwitchState } from './switching'

/** What happened to a line under a switching scheme, in its order: a lot judged under an inspection, or a person's answer to a stop. */
export type SwitchEvent = (JudgedLot & { readonly kind: 'lot'; readonly under: SwitchState }) | { readonly kind: 'answered' }

/** Which inspection the next lot gets; `saySeverity` puts it into words. */
export interface SeverityNow {
  readonly state: SwitchState
  /** The switch that led here; null where there was none. */
  readonly because: SwitchReason | null
  /** Switching score under normal inspection, else 0. */
  readonly score: number
}

/**
 * Which inspection the next lot gets after what happened so far. A lot that was opened before a switch and judged after it counts for
 * neither side: it was looked at under another inspection than the one it would switch. An answer leads out of discontinued inspection,
 * to tightened; elsewhere it changes nothing.
 * Shape: SwitchEvent[] in order → SeverityNow. Source: MIL-STD-105E, 4.7 and 4.8.
 * @throws {CoreError} as `switchingSteps`.
 */
export function severityNow(events: readonly SwitchEvent[], options: SwitchingOptions): SeverityNow {
  let next = switching(options)
  let now: SeverityNow = {
    state: options.start === 'reduced' && !options.allowsReduced ? 'normal' : (options.start ?? 'normal'),
    because: null,
    score: 0,
  }
  for (const event of events) {
    if (event.kind === 'answered') {
      if (now.state !== 'discontinued') continue
      next = switching({ ...options, start: 'tightened' })
      now = { state: 'tightened', because: { kind: 'answered' }, score: 0 }
    } else if (event.under === now.state) {
      const step = next(event)
      now = step.because === null ? { ...now, score: step.score } : { state: step.next, because: step.because, score: 0 }
    }
  }
  return now
}
