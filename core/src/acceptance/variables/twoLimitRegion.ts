/**
 * What a plan by variables accepts between two limits: distances d from the mean to the nearer limit, in spreads, when the limits are r
 * spreads apart. The estimated fractions beyond the limits add up to M at most, so a stretch of means around the middle is accepted.
 * Source of the criterion: MIL-STD-414, sections B and D.
 */
import { incompleteBeta, logGamma } from '../../capability/incompleteBeta'
import { normalBelow, normalDensity } from '../../capability/normal'
import { findRoot } from '../../numeric/findRoot'
import { largestFraction } from './fractionEstimate'
import type { VariablesMethod } from './variablesAcceptance'

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

/** One stretch, from the edge to the middle (d = r/2). */
export interface Stretch {
  /** Limits closer together than this accept nothing. */
  readonly nearest: number
  /** From here on the further limit takes no part, and the edge is k. Infinity with σ known. */
  readonly settled: number
  /** Smallest accepted distance; null where nothing is. */
  readonly edge: (apart: number) => number | null
}

/**
 * The accepted stretch. Both estimates fall ever more slowly with distance (n ≥ 4, or σ known), so there is one; its edge is found by
 * Newton's steps from k. Shape: n ≥ 4 (s) or ≥ 1 (σ; 2 limits at k each where 1), k ≥ 0.
 */
export function acceptedStretch(sampleSize: number, k: number, method: VariablesMethod): Stretch {
  if (sampleSize < 2) return { nearest: 2 * k, settled: 2 * k, edge: (apart) => (2 * k < apart ? k : null) }
  const { at, slope } = estimateOf(sampleSize, method)
  const most = largestFraction(k, sampleSize, method)
  // The s-method's estimate is 0 from here on.
  const end = method === 's' ? (sampleSize - 1) / Math.sqrt(sampleSize) : Infinity
  const nearest = k < end && 2 * at(k) > most && most > 0 ? 2 * findRoot(at, k, Math.min(end, k + 40), most / 2) : 2 * k
  const edge = (apart: number) => {
    const half = apart / 2
    if (k >= half || apart < nearest) return null
    let found = k
    for (let i = 0; i < 60; i++) {
      const over = at(found) + at(apart - found) - most
      const fall = slope(found) - slope(apart - found)
      const next = Math.min(half, found - over / fall)
      if (!(over > 0) || !(fall < 0) || next - found < 1e-15 * apart) break
      found = next
    }
    return found
  }
  return { nearest, settled: Math.max(nearest, k + end), edge }
}

/** Stretches of accepted distances, and where their edges have corners: an integral over r is cut there. */
export interface Stretches {
  readonly nearest: number
  readonly corners: readonly number[]
  readonly accepted: (apart: number) => readonly (readonly [number, number])[]
}

/**
 * With two or three readings and the s-method. Two are too few for the estimate: both distances reach k. With three it ends so steeply
 * that the stretch can have gaps; its edges are looked for between close points.
 */
export function acceptedOfFew(sampleSize: 2 | 3, k: number): Stretches {
  if (sampleSize === 2) return { nearest: 2 * k, corners: [], accepted: (apart) => (k < apart / 2 ? [[k, apart / 2]] : []) }
  const { at } = estimateOf(3, 's')
  const most = largestFraction(k, 3, 's')
  const end = 2 / Math.sqrt(3)
  const both = k < end && 2 * at(k) > most && most > 0 ? 2 * findRoot(at, k, end, most / 2) : 2 * k
  const steps = 96
  const accepted = (apart: number) => {
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
  return { nearest: 2 * k, corners: [both, k + end, 2 * end], accepted }
}
