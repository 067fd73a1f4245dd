import { incompleteBeta } from '../capability/incompleteBeta'
import { findRoot } from '../numeric/findRoot'

/** A straight line through points of a run, and where it meets a limit. */
export interface Drift {
  readonly intercept: number
  readonly slope: number
  /** Standard deviation of the points around the line, divisor n − 2. */
  readonly deviation: number
  /** How likely so steep a line is where nothing drifts. */
  readonly chance: number
  /** Where the line meets the limit; null where it is level. */
  readonly meets: number | null
  /** Where the limit lies in the 95 % interval of the line; null where that is not one stretch. */
  readonly between: readonly [number, number] | null
}

/** P(|T| > t) of Student's t. */
const beyondT = (t: number, freedom: number) => incompleteBeta(freedom / (freedom + t * t), freedom / 2, 0.5)

/**
 * Least squares through at least three points of different x, and its meeting with a limit (inverse prediction, Fieller 1954).
 * Shape: x and y of the same length, a limit → Drift; null where there are too few points, or all at one x.
 */
export function driftOf(x: readonly number[], y: readonly number[], limit: number): Drift | null {
  const n = x.length
  const middle = x.reduce((a, b) => a + b, 0) / n
  const mean = y.reduce((a, b) => a + b, 0) / n
  let [sxx, sxy] = [0, 0]
  for (let i = 0; i < n; i++) {
    sxx += ((x[i] as number) - middle) ** 2
    sxy += ((x[i] as number) - middle) * ((y[i] as number) - mean)
  }
  if (n < 3 || sxx === 0) return null
  const slope = sxy / sxx
  const intercept = mean - slope * middle
  let rest = 0
  for (let i = 0; i < n; i++) rest += ((y[i] as number) - intercept - slope * (x[i] as number)) ** 2
  const variance = rest / (n - 2)
  const error = Math.sqrt(variance / sxx)
  const t = findRoot((value) => -beyondT(value, n - 2), 0, 1e4, -0.05)
  return {
    intercept,
    slope,
    deviation: Math.sqrt(variance),
    chance: error === 0 ? (slope === 0 ? 1 : 0) : beyondT(slope / error, n - 2),
    meets: slope === 0 ? null : (limit - intercept) / slope,
    between: crossing(),
  }

  /** From (mean + slope·u − limit)² = t²·variance·(1/n + u²/sxx), u from the middle. */
  function crossing(): readonly [number, number] | null {
    const part = t * t * variance
    const a = slope * slope - part / sxx
    const half = slope * (mean - limit)
    const c = (mean - limit) ** 2 - part / n
    const root = half * half - a * c
    if (a <= 0 || root < 0) return null
    return [middle + (-half - Math.sqrt(root)) / a, middle + (-half + Math.sqrt(root)) / a]
  }
}
