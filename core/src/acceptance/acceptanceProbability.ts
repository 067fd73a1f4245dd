import { CoreError } from '../errors'
import { checkLotSize } from './lotSize'

/** Below this share of the largest term, further terms change no digit of a double. */
const negligible = 1e-19

/**
 * P(X ≤ c) of a unimodal count distribution given by the ratio of neighbouring terms.
 * The largest term is set to 1 and the others follow from the ratio, both ways, until they no longer count; the sum of all
 * of them is the scale. No factorials and no logarithms: every term is positive, so the relative error stays near one
 * rounding per step.
 * @param ratio P(X = k + 1) / P(X = k)
 */
function lowerTail(c: number, first: number, last: number, mode: number, ratio: (k: number) => number): number {
  let below = 0
  let above = 0
  let term = 1
  if (mode <= c) below = 1
  else above = 1
  for (let k = mode; k < last && term > negligible * (above || 1); k++) {
    term *= ratio(k)
    if (k + 1 <= c) below += term
    else above += term
  }
  term = 1
  for (let k = mode - 1; k >= first && term > 0; k--) {
    term /= ratio(k)
    if (k <= c) below += term
    else above += term
    if (term < negligible * below) break
  }
  return below / (below + above)
}

function checkPlan(sampleSize: number, accept: number): void {
  if (!Number.isSafeInteger(sampleSize) || sampleSize < 1) {
    throw new CoreError('sample_size_invalid', `Received a sample size of ${sampleSize}. It is a whole number, 1 or more.`, { received: sampleSize })
  }
  if (!Number.isSafeInteger(accept) || accept < 0) {
    throw new CoreError('acceptance_number_invalid', `Received an acceptance number of ${accept}. It is a whole number, 0 or more.`, {
      received: accept,
    })
  }
}

/**
 * Probability that a sample of n from a lot of N with D nonconforming units holds at most c of them (hypergeometric, type A curve).
 * Shape: whole numbers, 0 ≤ D ≤ N, 1 ≤ n ≤ N, c ≥ 0 → 0..1. Source: ISO 2859-2, annex; agreement with exact fractions better than 1e-12.
 * @throws {CoreError} `lot_size_invalid`, `sample_size_invalid`, `acceptance_number_invalid`, `quantity_invalid`.
 */
export function acceptanceInLot(lotSize: number, nonconforming: number, sampleSize: number, accept: number): number {
  checkLotSize(lotSize)
  checkPlan(sampleSize, accept)
  if (sampleSize > lotSize) {
    throw new CoreError('sample_size_invalid', `A sample of ${sampleSize} cannot be taken from a lot of ${lotSize}.`, {
      received: sampleSize,
      lotSize,
    })
  }
  if (!Number.isSafeInteger(nonconforming) || nonconforming < 0 || nonconforming > lotSize) {
    throw new CoreError('quantity_invalid', `Received ${nonconforming} nonconforming units in a lot of ${lotSize}.`, {
      received: nonconforming,
      lotSize,
    })
  }
  const others = lotSize - nonconforming - sampleSize
  const first = Math.max(0, -others)
  const last = Math.min(sampleSize, nonconforming)
  if (accept >= last) return 1
  if (accept < first) return 0
  const mode = Math.min(last, Math.max(first, Math.floor(((sampleSize + 1) * (nonconforming + 1)) / (lotSize + 2))))
  return lowerTail(accept, first, last, mode, (k) => ((sampleSize - k) * (nonconforming - k)) / ((k + 1) * (others + k + 1)))
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
  return lowerTail(accept, 0, sampleSize, mode, (k) => ((sampleSize - k) / (k + 1)) * odds)
}
