import { CoreError } from '../../errors'
import { checkLotSize, largestLot } from '../../numeric/lotSize'
import { binomialMass, hypergeometricMasses, poissonMass } from './probabilityMass'

/** Below this share of the sum, further terms change no digit of a double. */
const negligible = 1e-17

/**
 * P(X ≤ c) of a unimodal count distribution, from one mass and the ratio of neighbouring ones: the smaller of the two tails is
 * summed away from c, until its terms no longer count. All terms are positive, so nothing cancels.
 * @param startMass P(X = c) when c is below the mode, else P(X = c + 1)
 * @param ratio P(X = k + 1) / P(X = k)
 */
function lowerTail(c: number, first: number, last: number, mode: number, startMass: number, ratio: (k: number) => number): number {
  const isLower = c < mode
  let term = startMass
  let sum = term
  if (isLower) {
    for (let k = c - 1; k >= first && term > negligible * sum; k--) sum += term /= ratio(k)
    return Math.min(1, sum)
  }
  for (let k = c + 1; k < last && term > negligible * sum; k++) sum += term *= ratio(k)
  return Math.max(0, 1 - sum)
}

function checkPlan(sampleSize: number, accept: number): void {
  if (!Number.isSafeInteger(sampleSize) || sampleSize < 1 || sampleSize > largestLot) {
    throw new CoreError('sample_size_invalid', `Received a sample size of ${sampleSize}. It is a whole number from 1 to ${largestLot}.`, {
      received: sampleSize,
      largest: largestLot,
    })
  }
  if (!Number.isSafeInteger(accept) || accept < 0) {
    throw new CoreError('acceptance_number_invalid', `Received an acceptance number of ${accept}. It is a whole number, 0 or more.`, {
      received: accept,
    })
  }
}

/**
 * Probability that a sample of n from a lot of N holds at most c nonconforming units (hypergeometric, type A curve), for any
 * number D of them in the lot: what depends on the plan alone is worked out once.
 * Shape: (N, n, c) whole, 1 ≤ n ≤ N, c ≥ 0 → D, whole 0..N → 0..1.
 * Source: ISO 2859-2, annex; agreement with exact fractions better than 1e-12 for lots up to a million; it grows to 3e-8 at a billion.
 * @throws {CoreError} `lot_size_invalid`, `sample_size_invalid`, `acceptance_number_invalid`; the result: `quantity_invalid`.
 */
export function acceptanceOfLots(lotSize: number, sampleSize: number, accept: number): (nonconforming: number) => number {
  checkLotSize(lotSize)
  checkPlan(sampleSize, accept)
  if (sampleSize > lotSize) {
    throw new CoreError('sample_size_invalid', `A sample of ${sampleSize} cannot be taken from a lot of ${lotSize}.`, {
      received: sampleSize,
      lotSize,
    })
  }
  const tailOf = tailOfLots(lotSize, sampleSize, accept)
  return (nonconforming) => {
    if (!Number.isSafeInteger(nonconforming) || nonconforming < 0 || nonconforming > lotSize) {
      throw new CoreError('quantity_invalid', `Received ${nonconforming} nonconforming units in a lot of ${lotSize}.`, {
        received: nonconforming,
        lotSize,
      })
    }
    return tailOf(nonconforming)
  }
}

/** P(X ≤ c) as above for numbers that are right already: sums over a lot reach for N + 1, one more than the largest lot has. */
export function tailOfLots(lotSize: number, sampleSize: number, accept: number): (nonconforming: number) => number {
  const massOf = hypergeometricMasses(lotSize, sampleSize)
  return (nonconforming) => {
    const others = lotSize - nonconforming - sampleSize
    const first = Math.max(0, -others)
    const last = Math.min(sampleSize, nonconforming)
    if (accept >= last) return 1
    if (accept < first) return 0
    const mode = Math.min(last, Math.max(first, Math.floor(((sampleSize + 1) * (nonconforming + 1)) / (lotSize + 2))))
    const ratio = (k: number) => ((sampleSize - k) * (nonconforming - k)) / ((k + 1) * (others + k + 1))
    return lowerTail(accept, first, last, mode, massOf(accept < mode ? accept : accept + 1, nonconforming), ratio)
  }
}

/** The same for one lot with D nonconforming units. */
export function acceptanceInLot(lotSize: number, nonconforming: number, sampleSize: number, accept: number): number {
  return acceptanceOfLots(lotSize, sampleSize, accept)(nonconforming)
}

/**
 * Probability that a sample of n from a long series with the fraction p nonconforming holds at most c (binomial, type B curve).
 * Shape: n ≥ 1, c ≥ 0 whole, p 0..1 → 0..1. Source: ISO 2859-1, annex.
 * @throws {CoreError} `sample_size_invalid`, `acceptance_number_invalid`, `fraction_invalid`.
 */
export function acceptanceInSeries(fraction: number, sampleSize: number, accept: number): number {
  checkPlan(sampleSize, accept)
  if (!(fraction >= 0 && fraction <= 1)) {
    throw new CoreError('fraction_invalid', `Received the fraction ${fraction}. It lies from 0 to 1.`, { received: fraction })
  }
  if (accept >= sampleSize || fraction === 0) return 1
  if (fraction === 1) return 0
  const odds = fraction / (1 - fraction)
  const mode = Math.min(sampleSize, Math.floor((sampleSize + 1) * fraction))
  return lowerTail(
    accept,
    0,
    sampleSize,
    mode,
    binomialMass(accept < mode ? accept : accept + 1, sampleSize, fraction, 1 - fraction),
    (k) => ((sampleSize - k) / (k + 1)) * odds,
  )
}

/**
 * P(X ≤ c), Poisson: the smaller tail is summed, largest term first. The terms that count are some ten square roots of the mean, so
 * mean and c end at the largest lot. Beyond 2⁵³ a count could not even be raised by one.
 * @throws {CoreError} `not_finite`, `acceptance_number_invalid`.
 */
export function acceptancePerUnit(mean: number, accept: number): number {
  if (!(mean >= 0 && mean <= largestLot))
    throw new CoreError('not_finite', `Received a mean of ${mean} nonconformities. It is a number from 0 to ${largestLot}.`, {
      received: mean,
      largest: largestLot,
    })
  if (!Number.isSafeInteger(accept) || accept < 0 || accept > largestLot)
    throw new CoreError('acceptance_number_invalid', `Received an acceptance number of ${accept}. It is a whole number from 0 to ${largestLot}.`, {
      received: accept,
      largest: largestLot,
      field: 'accept',
    })
  if (mean === 0) return 1
  const isLower = accept < mean
  let term = poissonMass(isLower ? accept : accept + 1, mean)
  let sum = term
  if (isLower) for (let k = accept; k > 0 && term > 1e-17 * sum; k--) sum += term *= k / mean
  else for (let k = accept + 2; term > 1e-17 * sum; k++) sum += term *= mean / k
  return isLower ? Math.min(1, sum) : Math.max(0, 1 - sum)
}
