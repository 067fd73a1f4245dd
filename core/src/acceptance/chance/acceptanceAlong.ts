import { acceptanceOfLots } from './acceptanceProbability'

/** Beyond this the walk is no faster than working each lot out by itself. */
const longestStep = 30
/** Up to this acceptance number the fraction of `acceptedOverNone` stays inside the range of doubles, for lots up to the largest. */
const largestAccept = 24
/** P(none) below this is left to the single computation, before it leaves the range of doubles. */
const smallestNone = 1e-200

/**
 * P(X ≤ c) / P(X = 0), by Horner's scheme over the ratios of neighbouring masses, kept as one fraction: multiplications only, one
 * division at the end.
 */
function acceptedOverNone(last: number, sampleSize: number, units: number, rest: number): number {
  let above = 1
  let below = 1
  for (let k = last - 1; k >= 0; k--) {
    const common = below * (k + 1) * (rest + k + 1)
    above = common + above * (sampleSize - k) * (units - k)
    below = common
  }
  return above / below
}

/**
 * Probability of acceptance of a plan on one lot size, for rising numbers of nonconforming units (hypergeometric).
 * P(none in the sample) follows from the one before by a few factors, and the sum over the accepted counts from it, so that a point
 * of a curve costs some ten nanoseconds. Agrees with `acceptanceInLot` to 1e-12.
 * Shape: (N, n, c), whole numbers 0..N rising → 0..1 for each.
 * @throws {CoreError} as `acceptanceOfLots`.
 */
export function acceptanceAlong(lotSize: number, sampleSize: number, accept: number, nonconforming: readonly number[]): number[] {
  const single = acceptanceOfLots(lotSize, sampleSize, accept)
  const accepted: number[] = []
  let none = 1
  let at = 0
  for (const units of nonconforming) {
    const rest = lotSize - sampleSize - units
    if (accept > largestAccept || units - at > longestStep || units < at || rest < 0 || none < smallestNone) {
      accepted.push(single(units))
      continue
    }
    let above = 1
    let below = 1
    for (; at < units; at++) {
      above *= lotSize - sampleSize - at
      below *= lotSize - at
    }
    none *= above / below
    accepted.push(Math.min(1, none * acceptedOverNone(Math.min(accept, sampleSize, units), sampleSize, units, rest)))
  }
  return accepted
}
