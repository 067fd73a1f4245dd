/**
 * The non-central t distribution for whole degrees of freedom, in finitely many steps.
 * Source: D. B. Owen, A Survey of Properties and Applications of the Noncentral t-Distribution, Technometrics 10 (1968), from memory;
 * checked against values of 30 digits and against quadrature over the chi distribution, which is a different way to the same number.
 */
import { CoreError } from '../errors'
import { legendre } from '../numeric/legendre'
import { normalBelow, normalDensity } from './normal'

const rootTwoPi = Math.sqrt(2 * Math.PI)
const rule = legendre(24)

/** Owen's T(h, a) for one a and many h: the normal probability of a slice of the plane. Absolute error about 1e-15. */
function slice(a: number): (h: number) => number {
  if (a === 0) return () => 0
  if (Math.abs(a) > 1) {
    const inner = slice(1 / a)
    return (h) => {
      const [at, beside] = [normalBelow(h), normalBelow(a * h)]
      return (at + beside) / 2 - at * beside - inner(a * h) - (a < 0 ? 0.5 : 0)
    }
  }
  const squares = rule.nodes.map((x) => 1 + ((a * (1 + x)) / 2) ** 2)
  const weights = rule.weights.map((weight, i) => (weight * a) / 2 / (squares[i] as number) / (2 * Math.PI))
  return (h) => {
    const half = -0.5 * h * h
    // Beyond this every term is below the last digit.
    if (half < -40) return 0
    let sum = 0
    for (let i = 0; i < squares.length; i++) sum += (weights[i] as number) * Math.exp(half * (squares[i] as number))
    return sum
  }
}

/** The recurrence takes a step for each; a spread of so many readings is known anyway. */
const maxFreedom = 1_000_000

/**
 * P(T ≤ t) for one t as a function of the shift δ: many δ cost little. Absolute error about 1e-13 up to 1,000 degrees of freedom.
 * Shape: whole freedom 1 … 1,000,000, t ≥ 0 → (δ → 0..1).
 * @throws {CoreError} `sample_size_invalid`.
 */
export function nonCentralBelow(freedom: number, t: number): (shift: number) => number {
  if (!Number.isSafeInteger(freedom) || freedom < 1 || freedom > maxFreedom) {
    throw new CoreError('sample_size_invalid', `Received ${freedom} degrees of freedom. They are a whole number from 1 to ${maxFreedom}.`, {
      received: freedom,
      largest: maxFreedom,
    })
  }
  const slope = t / Math.sqrt(freedom)
  const shrink = freedom / (freedom + t * t)
  const root = Math.sqrt(shrink)
  const isEven = freedom % 2 === 0
  const sliceAt = isEven ? null : slice(slope)
  // M(k) = along(k) δ M(k − 1) + across(k) M(k − 2); what stands before δ and M is the same for every δ.
  const along = new Float64Array(freedom)
  const across = new Float64Array(freedom)
  let factor = 1
  for (let k = 2; k < freedom; k++) {
    if (k > 2) factor = 1 / ((k - 2) * factor)
    across[k] = ((k - 1) / k) * shrink
    along[k] = (across[k] as number) * factor * slope
  }
  return (shift) => {
    const first = slope * root * normalDensity(shift * root) * normalBelow(shift * slope * root)
    const second = shrink * slope * (shift * first + normalDensity(shift) / rootTwoPi)
    let even = first
    let odd = second
    let sumEven = freedom > 1 ? first : 0
    let sumOdd = freedom > 2 ? second : 0
    // Two steps a round: k even, then k odd.
    for (let k = 2; k <= freedom - 2; k += 2) {
      even = (along[k] as number) * shift * odd + (across[k] as number) * even
      sumEven += even
      if (k + 1 > freedom - 2) break
      odd = (along[k + 1] as number) * shift * even + (across[k + 1] as number) * odd
      sumOdd += odd
    }
    const below = sliceAt === null ? normalBelow(-shift) + rootTwoPi * sumEven : normalBelow(-shift * root) + 2 * (sliceAt(shift * root) + sumOdd)
    return Math.min(1, Math.max(0, below))
  }
}
