import { findRoot, highestPoint } from '../../numeric/findRoot'
import { CoreError } from '../../errors'
import { stagedAcceptance, type Stage, type StagedAcceptance } from './stagedPlan'

export interface PlanQuality {
  /** Probability of acceptance, 0..1. */
  readonly accepted: number
  /** Average sample number, pieces. */
  readonly expectedSize: number
  /** Average total inspection: refused lots are looked at whole. */
  readonly totalInspection: number
  /** Average outgoing fraction nonconforming: what is found, in samples and in refused lots, is replaced by conforming pieces. */
  readonly outgoing: number
}

/**
 * What a plan costs and what leaves it, where refused lots are sorted.
 * Shape: outcome by stage, p, lot size (null: a lot so large that the sample does not count) → PlanQuality.
 * Source: AOQ = p·ΣPa_i·(N − n_i)/N, ATI = Σ n_i·Pa_i + N·(1 − Pa); MIL-STD-105E, 11.3, for lots large against the sample.
 */
export function planQuality(outcome: StagedAcceptance, stages: readonly Stage[], fraction: number, lotSize: number | null): PlanQuality {
  let drawn = 0
  let kept = 0
  let looked = 0
  stages.forEach((stage, i) => {
    drawn += stage.sampleSize
    const share = outcome.acceptedByStage[i] as number
    kept += share * (lotSize === null ? 1 : (lotSize - drawn) / lotSize)
    looked += share * drawn
  })
  const { accepted, expectedSize } = outcome
  return {
    accepted,
    expectedSize,
    totalInspection: looked + (lotSize === null ? Infinity * (1 - accepted) || 0 : lotSize * (1 - accepted)),
    outgoing: fraction * kept,
  }
}

/**
 * The same for a long series of lots with the fraction p (binomial).
 * @throws {CoreError} as `stagedAcceptance`.
 */
export function qualityInSeries(stages: readonly Stage[], fraction: number, lotSize: number | null): PlanQuality {
  return planQuality(stagedAcceptance(stages, { kind: 'series', fraction }), stages, fraction, lotSize)
}

/** Average outgoing quality limit: the worst average that leaves the plan, and the quality at which it does (binomial). */
export function outgoingLimit(stages: readonly Stage[], lotSize: number | null): { readonly x: number; readonly value: number } {
  return highestPoint((p) => qualityInSeries(stages, p, lotSize).outgoing, 0, 1, 400)
}

/** Rates are looked for up to this many nonconformities per unit. */
const largestRate = 1e9

/**
 * Quality that is accepted with this share; null where the curve never reaches it. Fractions are looked for from 1e-12 to 1 − 1e-12;
 * rates (nonconformities per unit) may exceed 1 and are looked for as far as the curve needs.
 * Shape: (p → 0..1), share 0..1 → p.
 * @throws {CoreError} `fraction_invalid` (share).
 */
export function fractionAccepted(accepted: (fraction: number) => number, share: number, isRate = false): number | null {
  if (!(share > 0 && share < 1)) throw new CoreError('fraction_invalid', `Received the share ${share}. It lies between 0 and 1.`, { received: share })
  let high = isRate ? 1 : 1 - 1e-12
  while (isRate && high < largestRate && accepted(high) > share) high *= 2
  if (accepted(1e-12) < share || accepted(high) > share) return null
  return findRoot(accepted, 1e-12, high, share)
}
