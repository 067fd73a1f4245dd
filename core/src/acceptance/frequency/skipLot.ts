import { CoreError } from '../../errors'
import { checkContinuous } from './continuousSampling'

/** Skip-lot sampling SkSP-2: after `clearance` accepted lots in a row only a random fraction is inspected, until one is not accepted. */
export interface SkipLotPlan {
  readonly clearance: number
  /** Share of the lots inspected while skipping. */
  readonly fraction: number
}

export interface SkipLotPerformance {
  readonly accepted: number
  /** Average share of the lots that is inspected. */
  readonly inspected: number
}

/**
 * Skip-lot sampling over a reference plan that accepts a lot with probability P.
 * Shape: plan, P 0..1 → SkipLotPerformance. Source: R. L. Perry, Skip-Lot Sampling Plans, J. Quality Technology 5 (1973).
 * @throws {CoreError} `clearance_invalid`, `fraction_invalid`.
 */
export function skipLotPerformance(plan: SkipLotPlan, referenceAccepted: number): SkipLotPerformance {
  checkContinuous(plan)
  if (!(referenceAccepted >= 0 && referenceAccepted <= 1))
    throw new CoreError('fraction_invalid', `Received ${referenceAccepted} as the share of lots that the plan accepts. It lies from 0 to 1.`, {
      received: referenceAccepted,
    })
  const { clearance, fraction } = plan
  const earned = referenceAccepted ** clearance
  const inspected = fraction / (fraction + (1 - fraction) * earned)
  return { accepted: (fraction * referenceAccepted + (1 - fraction) * earned) / (fraction + (1 - fraction) * earned), inspected }
}
