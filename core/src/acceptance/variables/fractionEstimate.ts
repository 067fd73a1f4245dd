import { incompleteBeta } from '../../capability/incompleteBeta'
import { normalBelow } from '../../capability/normal'
import { CoreError } from '../../errors'
import type { VariablesMethod } from './variablesAcceptance'

/**
 * Estimated fraction nonconforming beyond one limit, from the quality index Q = (limit − mean)/s: the minimum-variance unbiased estimate.
 * Shape: Q finite, n (3 or more for s, 2 or more for σ) → 0..1.
 * Source: MIL-STD-414, Table B-5 (s-method) and D-5 (σ-method); Lieberman and Resnikoff 1955.
 * @throws {CoreError} `not_finite`, `sample_size_invalid`.
 */
export function fractionBeyond(qualityIndex: number, sampleSize: number, method: VariablesMethod): number {
  const least = method === 's' ? 3 : 2
  if (!Number.isFinite(qualityIndex)) {
    throw new CoreError('not_finite', `Received the quality index ${qualityIndex}. It is a number.`, { received: qualityIndex })
  }
  if (!Number.isSafeInteger(sampleSize) || sampleSize < least) {
    throw new CoreError('sample_size_invalid', `Received ${sampleSize} readings. The estimate needs ${least} or more.`, {
      received: sampleSize,
      least,
    })
  }
  if (method === 'sigma') return normalBelow(-qualityIndex * Math.sqrt(sampleSize / (sampleSize - 1)))
  const x = Math.max(0, Math.min(1, (1 - (qualityIndex * Math.sqrt(sampleSize)) / (sampleSize - 1)) / 2))
  return incompleteBeta(x, sampleSize / 2 - 1, sampleSize / 2 - 1)
}

/** Largest estimated fraction (M) that a plan with the constant k accepts: the estimate at Q = k. Shape and errors as `fractionBeyond`. */
export function largestFraction(k: number, sampleSize: number, method: VariablesMethod): number {
  return fractionBeyond(k, sampleSize, method)
}
