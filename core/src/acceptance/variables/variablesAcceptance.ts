/**
 * Sampling by variables: a lot is accepted when the mean lies at least k standard deviations inside the limit.
 * The s-method's probability of acceptance is a non-central t probability: a finite sum for one plan and many qualities. Where k is what
 * is looked for, or n is beyond a thousand, it is worked out as what it is: the normal probability that holds when s is known, averaged
 * over how s varies (chi distribution), by Gauss–Legendre quadrature whose nodes depend on n alone.
 * Source: D. J. Lieberman and G. J. Resnikoff, Sampling Plans for Inspection by Variables, JASA 50 (1955), for the plans.
 */
import { largestLot } from '../../numeric/lotSize'
import { logGamma } from '../../capability/incompleteBeta'
import { normalBelow, normalBeyond } from '../../capability/normal'
import { nonCentralBelow } from '../../capability/nonCentralT'
import { CoreError } from '../../errors'
import { legendre } from '../../numeric/legendre'

export const variablesMethods = ['s', 'sigma'] as const
export type VariablesMethod = (typeof variablesMethods)[number]

/** Nodes a panel of the quadrature. */
const nodeCount = 64
/** Up to this sample size the finite sum is taken; beyond, it would be longer than the quadrature. */
const maxSummed = 1000

const rule = legendre(nodeCount)

/** Values of s/σ for n readings, with how much each weighs (the weights add up to 1). */
export interface SpreadNodes {
  readonly spread: Float64Array
  readonly weight: Float64Array
}

/** Where s/σ of n readings lies, with its density. Beyond low and high there is less than 1e-16; the middle is near the mode. */
export function spreadDensity(sampleSize: number): {
  readonly low: number
  readonly middle: number
  readonly high: number
  readonly density: (spread: number) => number
} {
  const freedom = sampleSize - 1
  const deviation = 1 / Math.sqrt(2 * freedom)
  // Below ten degrees of freedom the left tail ends at 0 and the right one is long.
  const low = Math.max(0, 1 - 9 * deviation)
  const high = 1 + (freedom < 10 ? 12 : 9.5) * deviation
  const middle = Math.min(high, Math.max(low, Math.sqrt(Math.max(0.3, (freedom - 1) / freedom))))
  const logScale = Math.log(2) + (freedom / 2) * Math.log(freedom / 2) - logGamma(freedom / 2)
  return { low, middle, high, density: (s) => Math.exp(logScale + (freedom - 1) * Math.log(s) - (freedom / 2) * s * s) }
}

/** Quadrature nodes for the distribution of s/σ, n ≥ 2: two panels that meet in the middle; of two or three readings the long right tail has one of its own. */
export function spreadNodes(sampleSize: number): SpreadNodes {
  const { low, middle, high, density } = spreadDensity(sampleSize)
  const cuts = sampleSize < 4 ? [low, middle, (2 * middle + high) / 3, high] : [low, middle, high]
  const spread = new Float64Array((cuts.length - 1) * nodeCount)
  const weight = new Float64Array(spread.length)
  let sum = 0
  for (let panel = 0; panel < cuts.length - 1; panel++) {
    const [from, to] = [cuts[panel] as number, cuts[panel + 1] as number]
    for (let i = 0; i < nodeCount; i++) {
      const s = (from + to) / 2 + ((to - from) / 2) * (rule.nodes[i] as number)
      const at = panel * nodeCount + i
      spread[at] = s
      weight[at] = ((to - from) / 2) * (rule.weights[i] as number) * density(s)
      sum += weight[at] as number
    }
  }
  // The density integrates to 1; what rounding and the cut tails leave (about 1e-14) is spread evenly.
  for (let i = 0; i < weight.length; i++) weight[i] = (weight[i] as number) / sum
  return { spread, weight }
}

/**
 * Refuses a variables plan that cannot be carried out.
 * @throws {CoreError} `sample_size_invalid` (s-method needs 2 or more, σ-method 1), `acceptance_constant_invalid` (k not between −100 and 100).
 */
export function checkVariablesPlan(sampleSize: number, k: number, method: VariablesMethod): void {
  const least = method === 's' ? 2 : 1
  if (!Number.isSafeInteger(sampleSize) || sampleSize < least || sampleSize > largestLot) {
    throw new CoreError(
      'sample_size_invalid',
      `Received a sample size of ${sampleSize}. With the ${method === 's' ? 's' : 'σ'}-method it is a whole number from ${least} to ${largestLot}.`,
      {
        received: sampleSize,
        least,
        largest: largestLot,
        field: 'sampleSize',
      },
    )
  }
  if (!(Math.abs(k) < 100)) {
    throw new CoreError(
      'acceptance_constant_invalid',
      `Received an acceptance constant k of ${k}. It counts standard deviations from the limit to the mean; a negative one lies beyond the limit. It is between −100 and 100.`,
      { received: k, field: 'k' },
    )
  }
}

/**
 * Probability of acceptance of a variables plan with one limit, as a function of the fraction nonconforming.
 * Shape: n, k, method → (p 0..1 → 0..1). Absolute error below 1e-12.
 * @throws {CoreError} as `checkVariablesPlan`; the result: `fraction_invalid`.
 */
export function variablesAcceptance(sampleSize: number, k: number, method: VariablesMethod): (fraction: number) => number {
  checkVariablesPlan(sampleSize, k, method)
  const root = Math.sqrt(sampleSize)
  const isSummed = method === 's' && sampleSize <= maxSummed
  const below = isSummed ? nonCentralBelow(sampleSize - 1, k * root) : null
  const nodes = method === 's' && !isSummed ? spreadNodes(sampleSize) : null
  return (fraction) => {
    if (!(fraction >= 0 && fraction <= 1)) {
      throw new CoreError('fraction_invalid', `Received the fraction ${fraction}. It lies from 0 to 1.`, { received: fraction })
    }
    if (fraction === 0 || fraction === 1) return 1 - fraction
    const z = normalBeyond(fraction)
    return below ? 1 - below(root * z) : acceptedAt(z, root, k, nodes)
  }
}

/** Accepted when the mean lies z standard deviations inside the limit. */
export function acceptedAt(z: number, root: number, k: number, nodes: SpreadNodes | null): number {
  if (!nodes) return normalBelow(root * (z - k))
  let sum = 0
  for (let i = 0; i < nodes.spread.length; i++) sum += (nodes.weight[i] as number) * normalBelow(root * (z - k * (nodes.spread[i] as number)))
  return Math.min(1, sum)
}
