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

/** What a switch rests on; `saySwitch` puts it into words. */
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

/** The same lot by lot, where what is known of the next one depends on the inspection in force: each call is one lot. */
export function switching(options: SwitchingOptions): (lot: JudgedLot) => SwitchStep {
  // Reduced inspection that is not allowed is not begun either.
  let state: SwitchState = options.start === 'reduced' && !options.allowsReduced ? 'normal' : (options.start ?? 'normal')
  let i = -1
  let score = 0
  let recent: boolean[] = []
  let accepted = 0
  let failed = 0
  return (lot) => {
    i += 1
    if (!Number.isSafeInteger(lot.accept) || lot.accept < 0) {
      throw new CoreError('acceptance_number_invalid', `Lot ${i + 1}: received an acceptance number of ${lot.accept}.`, {
        received: lot.accept,
        index: i,
      })
    }
    const under = state
    let because: SwitchReason | null = null
    const go = (next: SwitchState, why: SwitchReason) => {
      state = next
      because = why
      score = 0
      recent = []
      accepted = 0
      failed = 0
    }
    if (under === 'normal') {
      score = scoreOf(lot, score, options.isStaged ?? false)
      recent = [...recent, lot.isAccepted].slice(-5)
      const refused = recent.filter((isAccepted) => !isAccepted).length
      const reached = score
      if (refused >= 2) go('tightened', { kind: 'refused', refused, of: recent.length })
      else if (reached >= reducedScore && options.allowsReduced) go('reduced', { kind: 'score', score: reached })
      return { under, score: because === null ? score : reached, next: state, because }
    }
    if (under === 'tightened') {
      accepted = lot.isAccepted ? accepted + 1 : 0
      failed += lot.isAccepted ? 0 : 1
      if (failed >= discontinueAfter) go('discontinued', { kind: 'refusedTightened', refused: failed })
      else if (accepted >= 5) go('normal', { kind: 'accepted', lots: accepted })
    }
    if (under === 'reduced') {
      if (!lot.isAccepted) go('normal', { kind: 'refusedReduced' })
      else if (lot.isInGap) go('normal', { kind: 'gap' })
    }
    return { under, score: 0, next: state, because }
  }
}
