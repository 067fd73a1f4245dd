import { CoreError } from '../../errors'
import { fractionBeyond, largestFraction } from './fractionEstimate'
import { checkVariablesPlan, type VariablesMethod } from './variablesAcceptance'

export interface VariablesPlan {
  readonly method: VariablesMethod
  readonly sampleSize: number
  readonly k: number
  /** Known standard deviation, in the unit of the limits; null with the s-method. */
  readonly sigma: number | null
}

export interface VariablesSummary {
  readonly count: number
  readonly mean: number
  /** Sample standard deviation, divisor n − 1; ignored by the σ-method. */
  readonly deviation: number
}

/** What a verdict by variables rests on; `describeVariables` puts it into words. */
export interface VariablesFacts {
  readonly method: VariablesMethod
  readonly mean: number
  readonly spread: number
  readonly k: number
  /** (mean − lower)/s and (upper − mean)/s. */
  readonly lowerIndex: number | null
  readonly upperIndex: number | null
  /** Estimated fraction beyond both limits together, and the most that is accepted; null where too few readings allow none. */
  readonly fraction: number | null
  readonly largest: number | null
}

export interface VariablesVerdict extends VariablesFacts {
  readonly isAcceptable: boolean
}

/**
 * Judges a lot by variables. One limit: k-form. Two limits: the estimated fractions beyond both add up to M at most (with fewer readings
 * than the estimate needs, both indices reach k).
 * Shape: plan, limits (null: open), summary → VariablesVerdict. Source: MIL-STD-414, sections B and D.
 * @throws {CoreError} `sample_size_invalid`, `acceptance_constant_invalid`, `spread_not_positive`, `limits_missing`, `not_finite`.
 */
export function judgeVariables(
  plan: VariablesPlan,
  limits: { readonly lower: number | null; readonly upper: number | null },
  summary: VariablesSummary,
): VariablesVerdict {
  const { method, k } = plan
  checkVariablesPlan(summary.count, k, method)
  if (limits.lower === null && limits.upper === null) {
    throw new CoreError('limits_missing', 'Sampling by variables compares the mean with a limit. Give at least one.', { field: 'lower' })
  }
  const spread = method === 's' ? summary.deviation : plan.sigma
  if (!Number.isFinite(summary.mean))
    throw new CoreError('not_finite', `Received a mean of ${summary.mean}. It is a number.`, { received: summary.mean, field: 'mean' })
  if (spread === null || !(spread > 0 && spread < Infinity)) {
    throw new CoreError(
      'spread_not_positive',
      method === 's'
        ? `The standard deviation of the readings is ${spread}: all are the same, and nothing can be said of what was not measured. Use a finer resolution, or sampling by attributes.`
        : `Received a known standard deviation of ${spread}. It is greater than 0.`,
      { received: spread, field: method === 's' ? 'deviation' : 'sigma' },
    )
  }
  const lowerIndex = limits.lower === null ? null : (summary.mean - limits.lower) / spread
  const upperIndex = limits.upper === null ? null : (limits.upper - summary.mean) / spread
  const canEstimate = summary.count >= (method === 's' ? 3 : 2)
  const fractions = [lowerIndex, upperIndex].map((index) => (index === null || !canEstimate ? 0 : fractionBeyond(index, summary.count, method)))
  const fraction = canEstimate ? (fractions[0] as number) + (fractions[1] as number) : null
  const largest = canEstimate ? largestFraction(k, summary.count, method) : null
  const facts = { method, mean: summary.mean, spread, k, lowerIndex, upperIndex, fraction, largest }
  const index = Math.min(lowerIndex ?? Infinity, upperIndex ?? Infinity)
  // Where k is beyond what the estimate can reach, M is 0 and says nothing: then both indices reach k, as with one limit.
  const isByFraction = lowerIndex !== null && upperIndex !== null && fraction !== null && largest !== null
  return { ...facts, isAcceptable: isByFraction ? fraction <= largest && (largest > 0 || index >= k) : index >= k }
}
