/**
 * The normal distribution to full double precision.
 * Source: W. J. Cody, Rational Chebyshev Approximations for the Error Function, Math. Comp. 23 (1969); coefficients from memory,
 * checked against a general library in `normal.test.ts`.
 */
import { CoreError } from '../errors'

const near = {
  above: [2.2352520354606839287, 161.02823106855587881, 1067.6894854603709582, 18154.981253343561249, 0.065682337918207449113],
  below: [47.20258190468824187, 976.09855173777669322, 10260.932208618978205, 45507.789335026729956],
} as const
const middle = {
  above: [
    0.39894151208813466764, 8.8831497943883759412, 93.506656132177855979, 597.27027639480026226, 2494.5375852903726711, 6848.1904505362823326,
    11602.651437647350124, 9842.7148383839780218, 1.0765576773720192317e-8,
  ],
  below: [
    22.266688044328115691, 235.38790178262499861, 1519.377599407554805, 6485.558298266760755, 18615.571640885098091, 34900.952721145977266,
    38912.003286093271411, 19685.429676859990727,
  ],
} as const
const far = {
  above: [0.21589853405795699, 0.1274011611602473639, 0.022235277870649807, 0.001421619193227893466, 2.9112874951168792e-5, 0.02307344176494017303],
  below: [1.28426009614491121, 0.468238212480865118, 0.0659881378689285515, 0.00378239633202758244, 7.29751555083966205e-5],
} as const
const oneOverRootTwoPi = 0.398942280401432677939946

/** Tail beyond |z| > 0.674, from the rational factor: the square is split so that exp keeps its digits. */
function tail(distance: number, factor: number): number {
  const whole = Math.trunc(distance * 16) / 16
  const rest = (distance - whole) * (distance + whole)
  return Math.exp(-whole * whole * 0.5) * Math.exp(-rest * 0.5) * factor
}

/** Φ(z), the share of a normal distribution below z. Shape: any number (±∞ too) → 0..1; relative error about 1e-15, in the tails too. */
export function normalBelow(z: number): number {
  const distance = Math.abs(z)
  if (distance <= 0.67448975) {
    const square = z * z
    let above = near.above[4] * square
    let below = square
    for (let i = 0; i < 3; i++) {
      above = (above + (near.above[i] as number)) * square
      below = (below + (near.below[i] as number)) * square
    }
    return 0.5 + (z * (above + near.above[3])) / (below + near.below[3])
  }
  if (distance > 38.6) return z > 0 ? 1 : 0
  let share: number
  if (distance <= 5.656854249492380195) {
    let above = middle.above[8] * distance
    let below = distance
    for (let i = 0; i < 7; i++) {
      above = (above + (middle.above[i] as number)) * distance
      below = (below + (middle.below[i] as number)) * distance
    }
    share = tail(distance, (above + middle.above[7]) / (below + middle.below[7]))
  } else {
    const inverse = 1 / (z * z)
    let above = far.above[5] * inverse
    let below = inverse
    for (let i = 0; i < 4; i++) {
      above = (above + (far.above[i] as number)) * inverse
      below = (below + (far.below[i] as number)) * inverse
    }
    const correction = (inverse * (above + far.above[4])) / (below + far.below[4])
    share = tail(distance, (oneOverRootTwoPi - correction) / distance)
  }
  return z > 0 ? 1 - share : share
}

/** The normal density. */
export function normalDensity(z: number): number {
  return oneOverRootTwoPi * Math.exp(-0.5 * z * z)
}

/**
 * The z that leaves the share p above it. Shape: 0 < p < 1 → number. A rough start and Newton's steps on the distribution itself.
 * @throws {CoreError} `fraction_invalid`.
 */
export function normalBeyond(p: number): number {
  if (!(p > 0 && p < 1)) throw new CoreError('fraction_invalid', `Received the fraction ${p}. It lies between 0 and 1.`, { received: p })
  const small = Math.min(p, 1 - p)
  // Abramowitz and Stegun, 26.2.23, good to 4.5e-4; three Newton steps on ln Φ take it to the last digits.
  const t = Math.sqrt(-2 * Math.log(small))
  let z = t - (2.515517 + t * (0.802853 + t * 0.010328)) / (1 + t * (1.432788 + t * (0.189269 + t * 0.001308)))
  for (let i = 0; i < 4; i++) {
    const beyond = normalBelow(-z)
    z += (beyond / normalDensity(z)) * Math.log(beyond / small)
  }
  return p <= 0.5 ? z : -z
}
