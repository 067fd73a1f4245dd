/**
 * Acceptance by variables between two limits, where what is nonconforming lies beyond both. The estimated fractions beyond the limits
 * add up to M at most; for a spread s that leaves a stretch of means around the middle, and its normal probability is averaged over s.
 * Source: MIL-STD-414, sections B and D (criterion); the integral is the definition.
 */
import { incompleteBeta, logGamma } from '../capability/incompleteBeta'
import { normalBelow, normalBeyond, normalDensity } from '../capability/normal'
import { CoreError } from '../errors'
import { findRoot } from '../numeric/findRoot'
import { legendre } from '../numeric/legendre'
import { largestFraction } from './fractionEstimate'
import { checkVariablesPlan, spreadDensity, variablesAcceptance, type VariablesMethod } from './variablesAcceptance'

/** The estimate beyond a limit that is `index` spreads away, and how fast it falls there. */
interface Estimate {
  readonly at: (index: number) => number
  readonly slope: (index: number) => number
}

function estimateOf(sampleSize: number, method: VariablesMethod): Estimate {
  if (method === 'sigma') {
    const widen = Math.sqrt(sampleSize / (sampleSize - 1))
    return { at: (index) => normalBelow(-index * widen), slope: (index) => -widen * normalDensity(index * widen) }
  }
  const shape = sampleSize / 2 - 1
  const scale = Math.sqrt(sampleSize) / (sampleSize - 1)
  const logBeta = 2 * logGamma(shape) - logGamma(2 * shape)
  const x = (index: number) => (1 - index * scale) / 2
  return {
    at: (index) => incompleteBeta(x(index), shape, shape),
    slope: (index) => {
      const at = x(index)
      return at <= 0 || at >= 1 ? 0 : (-scale / 2) * Math.exp((shape - 1) * Math.log(at * (1 - at)) - logBeta)
    },
  }
}

/** Stretches of the distance d to the nearer limit, both in spreads, that are accepted when the limits are r spreads apart. */
type Accepted = (apart: number) => readonly (readonly [number, number])[]

/** Both estimates fall ever more slowly with distance (n ≥ 4, or σ known): one stretch, its edge found by Newton's steps from k. */
function oneStretch({ at, slope }: Estimate, k: number, most: number): Accepted {
  return (apart) => {
    const half = apart / 2
    if (k >= half || 2 * at(half) > most) return []
    let edge = k
    for (let i = 0; i < 60; i++) {
      const over = at(edge) + at(apart - edge) - most
      const fall = slope(edge) - slope(apart - edge)
      const next = Math.min(half, edge - over / fall)
      if (!(over > 0) || !(fall < 0) || next - edge < 1e-15 * apart) break
      edge = next
    }
    return [[edge, half]]
  }
}

/** Three readings: the estimate ends so steeply that the stretch can have gaps; its edges are looked for between close points. */
function manyStretches({ at }: Estimate, k: number, most: number): Accepted {
  const steps = 96
  return (apart) => {
    const half = apart / 2
    if (k >= half) return []
    const over = (edge: number) => at(edge) + at(apart - edge) - most - 1e-13
    const stretches: [number, number][] = []
    let from: number | null = over(k) <= 0 ? k : null
    for (let i = 1; i <= steps; i++) {
      const [left, right] = [k + ((half - k) * (i - 1)) / steps, k + ((half - k) * i) / steps]
      const isIn = over(right) <= 0
      if (isIn === (from !== null)) continue
      const crossing = findRoot(over, left, right)
      if (from === null) from = crossing
      else {
        stretches.push([from, crossing])
        from = null
      }
    }
    if (from !== null) stretches.push([from, half])
    return stretches
  }
}

interface Region {
  readonly accepted: Accepted
  /** Distances apart at which the stretch begins, and at which its edge has a corner: the integral is cut there. */
  readonly corners: readonly number[]
}

function regionOf(sampleSize: number, k: number, method: VariablesMethod): Region {
  // Too few readings for the estimate: both distances reach k.
  if (sampleSize < (method === 's' ? 3 : 2)) return { accepted: (apart) => (k < apart / 2 ? [[k, apart / 2]] : []), corners: [2 * k] }
  const estimate = estimateOf(sampleSize, method)
  const most = largestFraction(k, sampleSize, method)
  // The s-method's estimate is 0 from here on.
  const end = method === 's' ? (sampleSize - 1) / Math.sqrt(sampleSize) : Infinity
  const least = 2 * k < 2 * end && 2 * estimate.at(k) > most && most > 0 ? 2 * findRoot(estimate.at, k, Math.min(end, k + 40), most / 2) : 2 * k
  const isSteep = method === 's' && sampleSize === 3
  return {
    accepted: (isSteep ? manyStretches : oneStretch)(estimate, k, most),
    corners: [isSteep ? 2 * k : least, ...(end < Infinity ? [least, k + end, 2 * end] : [])],
  }
}

const panel = legendre(32)

/** ∫ f over from..to; at the end the integrand may leave like a square root. */
function integral(f: (x: number) => number, from: number, to: number, isRootAtEnd: boolean): number {
  let sum = 0
  for (let i = 0; i < panel.nodes.length; i++) {
    const t = (1 + (panel.nodes[i] as number)) / 2
    const weight = (panel.weights[i] as number) / 2
    sum += isRootAtEnd ? weight * 2 * t * f(to - (to - from) * t * t) : weight * f(from + (to - from) * t)
  }
  return sum * (to - from)
}

/**
 * Probability of acceptance between two limits, as a function of the fraction nonconforming, of which the given share lies beyond the
 * upper limit. With the share 0 or 1 it is `variablesAcceptance`.
 * Shape: n, k, method, share 0..1 → (p 0..1 → 0..1). Accuracy about 1e-9; with three readings and the s-method 1e-3.
 * @throws {CoreError} as `checkVariablesPlan`, `fraction_invalid` (share); the result: `fraction_invalid`.
 */
export function twoLimitAcceptance(sampleSize: number, k: number, method: VariablesMethod, shareAbove = 0.5): (fraction: number) => number {
  checkVariablesPlan(sampleSize, k, method)
  if (!(shareAbove >= 0 && shareAbove <= 1)) {
    throw new CoreError('fraction_invalid', `Received ${shareAbove} as the share beyond the upper limit. It lies from 0 to 1.`, {
      received: shareAbove,
    })
  }
  if (shareAbove === 0 || shareAbove === 1) return variablesAcceptance(sampleSize, k, method)
  const root = Math.sqrt(sampleSize)
  const { accepted, corners } = regionOf(sampleSize, k, method)
  const spreads = method === 's' ? spreadDensity(sampleSize) : null
  return (fraction) => {
    if (!(fraction >= 0 && fraction <= 1))
      throw new CoreError('fraction_invalid', `Received the fraction ${fraction}. It lies from 0 to 1.`, { received: fraction })
    if (fraction === 0 || fraction === 1) return 1 - fraction
    // Distances from the true mean to the limits, in true standard deviations.
    const [up, down] = [normalBeyond(fraction * shareAbove), normalBeyond(fraction * (1 - shareAbove))]
    const apart = up + down
    if (!(apart > 0)) return 0
    const middle = (up - down) / 2
    const within = (offset: number) => normalBelow(root * (middle + offset)) - normalBelow(root * (middle - offset))
    const acceptedAt = (spread: number) =>
      accepted(apart / spread).reduce((sum, [near, far]) => {
        const inner = apart / 2 - far * spread
        return sum + within(apart / 2 - near * spread) - (inner > 0 ? within(inner) : 0)
      }, 0)
    if (spreads === null) return acceptedAt(1)
    const { low, middle: mode, high, density } = spreads
    const last = Math.min(high, apart / (corners[0] as number))
    const cuts = [low, mode, ...corners.slice(1).map((corner) => apart / corner), last]
      .filter((cut) => cut >= low && cut <= last)
      .sort((a, b) => a - b)
    let sum = 0
    for (let i = 1; i < cuts.length; i++) {
      const [from, to] = [cuts[i - 1] as number, cuts[i] as number]
      if (to > from) sum += integral((spread) => density(spread) * acceptedAt(spread), from, to, i === cuts.length - 1 && last < high)
    }
    return Math.min(1, Math.max(0, sum))
  }
}
