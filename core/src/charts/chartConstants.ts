import { logGamma } from '../capability/incompleteBeta'
import { normalBelow, normalDensity } from '../capability/normal'
import { CoreError } from '../errors'
import { legendre } from '../numeric/legendre'

/**
 * What control limits rest on, for samples of a normal population: c4 = E(s)/σ, d2 = E(R)/σ, d3 = SD(R)/σ.
 * Source: c4 by the gamma function; d2 and d3 by integrating the distribution of the range (Tippett 1925), nothing from a table.
 */
export interface ChartConstants {
  readonly c4: number
  readonly d2: number
  readonly d3: number
}

/** c4 of samples of n ≥ 2. Shape: whole number → 0.79…1. */
export function meanDeviationFactor(n: number): number {
  return Math.sqrt(2 / (n - 1)) * Math.exp(logGamma(n / 2) - logGamma((n - 1) / 2))
}

const { nodes, weights } = legendre(96)
/** A range beyond this, or a value beyond half of it, does not happen in double precision. */
const widest = 17

/** P(R ≤ w) for n values of a standard normal population. */
function rangeBelow(w: number, n: number): number {
  let sum = 0
  for (let i = 0; i < nodes.length; i++) {
    const x = ((nodes[i] as number) * widest) / 2
    sum += (weights[i] as number) * normalDensity(x) * (normalBelow(x + w) - normalBelow(x)) ** (n - 1)
  }
  return Math.min(1, (n * sum * widest) / 2)
}

const known = new Map<number, ChartConstants>()

/**
 * The constants for samples of n. Shape: whole number 2–25 → three numbers, good to about 1e-9.
 * @throws {CoreError} `sample_size_invalid` for other sizes, where ranges are not used.
 */
export function chartConstants(n: number): ChartConstants {
  const found = known.get(n)
  if (found) return found
  if (!Number.isInteger(n) || n < 2 || n > 25)
    throw new CoreError('sample_size_invalid', `Ranges are charted for subgroups of 2 to 25, not of ${n}.`, { received: n, least: 2, most: 25 })
  let [first, second] = [0, 0]
  for (let i = 0; i < nodes.length; i++) {
    const w = (((nodes[i] as number) + 1) * widest) / 2
    const beyond = (((weights[i] as number) * widest) / 2) * (1 - rangeBelow(w, n))
    first += beyond
    second += 2 * w * beyond
  }
  const made = { c4: meanDeviationFactor(n), d2: first, d3: Math.sqrt(second - first * first) }
  known.set(n, made)
  return made
}
