import { CoreError } from '../../errors'
import { severities } from '../tables/attributeTables'

export interface JudgedLot {
  readonly isAccepted: boolean
  /** The lot would also have been accepted had the AQL been one step tighter (for plans that accept on 2 or more). */
  readonly isAcceptedTighter?: boolean
  /** Acceptance number of the plan in force; it fixes what the lot scores. */
  readonly accept: number
  /** Double and multiple plans: accepted on the first sample (the third of a multiple plan). */
  readonly isAcceptedEarly?: boolean
  /** Reduced inspection: accepted on a count between the acceptance and the rejection number. */
  readonly isInGap?: boolean
}

export const switchStates = [...severities, 'discontinued'] as const
export type SwitchState = (typeof switchStates)[number]

/** What a switch rests on; `describeSwitch` puts it into words. */
export type SwitchReason =
  /** Lots not accepted among the last few in a row, under normal inspection. */
  | { readonly kind: 'refused'; readonly refused: number; readonly of: number }
  | { readonly kind: 'score'; readonly score: number }
  /** Lots not accepted under tightened inspection, added up. */
  | { readonly kind: 'refusedTightened'; readonly refused: number }
  | { readonly kind: 'accepted'; readonly lots: number }
  | { readonly kind: 'refusedReduced' }
  /** Accepted on a count between the acceptance and the rejection number. */
  | { readonly kind: 'gap' }
  /** A person let acceptance begin again. */
  | { readonly kind: 'answered' }

export interface SwitchStep {
  /** Under which inspection the lot was judged. */
  readonly under: SwitchState
  /** Switching score after the lot (normal inspection), else 0. */
  readonly score: number
  /** What comes next, and why it changed; null where it stays. */
  readonly next: SwitchState
  readonly because: SwitchReason | null
}

export interface SwitchingOptions {
  /** Steady production and the consent of the person in charge: without them there is no reduced inspection. */
  readonly allowsReduced: boolean
  readonly start?: SwitchState
  readonly isStaged?: boolean
}

/** Score at which normal inspection may become reduced. ISO 2859-1:1999, 9.3.3.2. */
export const reducedScore = 30
/** Lots not accepted under tightened inspection, added up, at which acceptance stops. MIL-STD-105E, 4.8. */
export const discontinueAfter = 5

function scoreOf(lot: JudgedLot, score: number, isStaged: boolean): number {
  if (!lot.isAccepted) return 0
  if (isStaged) return lot.isAcceptedEarly ? score + 3 : 0
  if (lot.accept <= 1) return score + 2
  return lot.isAcceptedTighter ? score + 3 : 0
}

/**
 * Runs the switching rules over lots in the order of their arrival and says why each switch happened.
 * Normal to tightened: 2 of 5 or fewer consecutive lots not accepted. Tightened to normal: 5 in a row accepted. Tightened to
 * discontinued: 5 not accepted, added up since it began. Normal to reduced: switching score 30. Reduced to normal: a lot not accepted, or
 * accepted in the gap. Nothing leads out of discontinued; a person starts again, on tightened inspection.
 * Shape: JudgedLot[] → SwitchStep[] of the same length. Source: MIL-STD-105E, 4.7 and 4.8; score ISO 2859-1:1999, 9.3.3.2.
 * @throws {CoreError} `acceptance_number_invalid` (gives the lot's place).
 */
export function switchingSteps(lots: readonly JudgedLot[], options: SwitchingOptions): SwitchStep[] {
  const next = switching(options)
  return lots.map((lot) => next(lot))
}

/** What the rules remember between two lots: how far each count has come under the inspection in force. */
export interface SwitchCounts {
  readonly state: SwitchState
  readonly score: number
  /** Of the last five lots under normal inspection, whether each was accepted. */
  readonly recent: readonly boolean[]
  /** Under tightened inspection: accepted in a row, and not accepted since it began. */
  readonly accepted: number
  readonly failed: number
}

/** Counts at the beginning of an inspection, nothing seen yet. Reduced inspection that is not allowed is not begun either. */
export function beginSwitching({ start = 'normal', allowsReduced }: SwitchingOptions): SwitchCounts {
  return { state: start === 'reduced' && !allowsReduced ? 'normal' : start, score: 0, recent: [], accepted: 0, failed: 0 }
}

/**
 * One lot further. Shape: counts, JudgedLot → the step, and the counts after it.
 * @throws {CoreError} `acceptance_number_invalid`.
 */
export function stepSwitching(
  counts: SwitchCounts,
  lot: JudgedLot,
  options: SwitchingOptions,
  index = 0,
): { step: SwitchStep; counts: SwitchCounts } {
  if (!Number.isSafeInteger(lot.accept) || lot.accept < 0) {
    throw new CoreError('acceptance_number_invalid', `Lot ${index + 1}: received an acceptance number of ${lot.accept}.`, {
      received: lot.accept,
      index,
    })
  }
  const under = counts.state
  const go = (next: SwitchState, because: SwitchReason, score = 0) => ({
    step: { under, score, next, because },
    counts: beginSwitching({ ...options, start: next, allowsReduced: true }),
  })
  const stay = (more: Partial<SwitchCounts>) => ({
    step: { under, score: more.score ?? 0, next: under, because: null },
    counts: { ...counts, ...more },
  })
  switch (under) {
    case 'normal': {
      const score = scoreOf(lot, counts.score, options.isStaged ?? false)
      const recent = [...counts.recent, lot.isAccepted].slice(-5)
      const refused = recent.filter((isAccepted) => !isAccepted).length
      if (refused >= 2) return go('tightened', { kind: 'refused', refused, of: recent.length }, score)
      return score >= reducedScore && options.allowsReduced ? go('reduced', { kind: 'score', score }, score) : stay({ score, recent })
    }
    case 'tightened': {
      const accepted = lot.isAccepted ? counts.accepted + 1 : 0
      const failed = counts.failed + (lot.isAccepted ? 0 : 1)
      if (failed >= discontinueAfter) return go('discontinued', { kind: 'refusedTightened', refused: failed })
      return accepted >= 5 ? go('normal', { kind: 'accepted', lots: accepted }) : stay({ accepted, failed })
    }
    case 'reduced':
      if (!lot.isAccepted) return go('normal', { kind: 'refusedReduced' })
      return lot.isInGap ? go('normal', { kind: 'gap' }) : stay({})
    case 'discontinued':
      return stay({})
  }
}

/** The same lot by lot, where what is known of the next one depends on the inspection in force: each call is one lot. */
export function switching(options: SwitchingOptions): (lot: JudgedLot) => SwitchStep {
  let counts = beginSwitching(options)
  let index = 0
  return (lot) => {
    const { step, counts: after } = stepSwitching(counts, lot, options, index)
    counts = after
    index += 1
    return step
  }
}
