import { CoreError } from '../../errors'
import { firstWhole, highestPoint } from '../../numeric/findRoot'

/** Continuous sampling CSP-1: every unit until `clearance` in a row conform, then a random fraction; a nonconforming one starts again. */
export interface ContinuousPlan {
  readonly clearance: number
  readonly fraction: number
}

export interface ContinuousPerformance {
  /** Average units looked at in a row at full inspection (u) and passed in a row under sampling (v). */
  readonly fullRun: number
  readonly sampledRun: number
  /** Average fraction inspected. */
  readonly inspected: number
  /** Average outgoing fraction nonconforming; what is found is replaced by conforming units. */
  readonly outgoing: number
  /** Share of the units that passes under sampling: the ordinate of the plan's operating curve. */
  readonly accepted: number
}

/** @throws {CoreError} `clearance_invalid`, `fraction_invalid`. */
export function checkContinuous({ clearance, fraction }: ContinuousPlan): void {
  if (!Number.isSafeInteger(clearance) || clearance < 1) {
    throw new CoreError(
      'clearance_invalid',
      `Received a clearance of ${clearance}. It counts conforming units or lots in a row: a whole number, 1 or more.`,
      {
        received: clearance,
        field: 'clearance',
      },
    )
  }
  if (!(fraction > 0 && fraction <= 1)) {
    throw new CoreError('fraction_invalid', `Received the sampling fraction ${fraction}. It is more than 0 and at most 1.`, {
      received: fraction,
      field: 'fraction',
    })
  }
}

/**
 * What CSP-1 does at a quality. Shape: plan, p 0..1 → ContinuousPerformance.
 * Source: H. F. Dodge, A Sampling Inspection Plan for Continuous Production, 1943; MIL-STD-1235.
 * @throws {CoreError} `clearance_invalid`, `fraction_invalid`.
 */
export function continuousPerformance(plan: ContinuousPlan, p: number): ContinuousPerformance {
  checkContinuous(plan)
  if (!(p >= 0 && p <= 1)) throw new CoreError('fraction_invalid', `Received the fraction ${p}. It lies from 0 to 1.`, { received: p })
  const { clearance, fraction } = plan
  if (p === 0) return { fullRun: clearance, sampledRun: Infinity, inspected: fraction, outgoing: 0, accepted: 1 }
  const passed = Math.exp(clearance * Math.log1p(-p))
  const missed = -Math.expm1(clearance * Math.log1p(-p))
  const fullRun = missed / (p * passed)
  const sampledRun = 1 / (fraction * p)
  const inspected = fraction / (fraction + (1 - fraction) * passed)
  const outgoing = p * (((1 - fraction) * passed) / (fraction + (1 - fraction) * passed))
  // v/(u + v), multiplied out so that a run at full inspection without an end gives 0 and not a quotient of infinities.
  return { fullRun, sampledRun, inspected, outgoing, accepted: passed / (passed + fraction * missed) }
}

/** Worst average outgoing fraction nonconforming over all qualities, and where it lies. */
export function continuousOutgoingLimit(plan: ContinuousPlan): { readonly x: number; readonly value: number } {
  checkContinuous(plan)
  return highestPoint((p) => continuousPerformance(plan, p).outgoing, 0, Math.min(1, 30 / plan.clearance))
}

/**
 * Smallest clearance whose worst average outgoing quality meets a limit. Shape: f, AOQL 0..1 → whole i.
 * @throws {CoreError} `fraction_invalid`, `design_not_found` (more than a million units).
 */
export function continuousDesign(fraction: number, outgoingLimit: number): number {
  checkContinuous({ clearance: 1, fraction })
  if (!(outgoingLimit > 0 && outgoingLimit < 1)) {
    throw new CoreError('fraction_invalid', `Received an outgoing limit of ${outgoingLimit}. It is a fraction between 0 and 1.`, {
      received: outgoingLimit,
      field: 'outgoingLimit',
    })
  }
  const clearance = firstWhole((i) => continuousOutgoingLimit({ clearance: i, fraction }).value <= outgoingLimit, 1, 1_000_000)
  if (clearance === null)
    throw new CoreError('design_not_found', `No clearance of up to 1000000 units keeps ${outgoingLimit}.`, { outgoingLimit, fraction })
  return clearance
}
