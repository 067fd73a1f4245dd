/**
 * The normal distribution to full double precision.
 * Source: W. J. Cody, Rational Chebyshev Approximations for the Error Function, Math. Comp. 23 (1969); coefficients from memory,
 * checked against a general library in `distributions.test.ts`.
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

const quantile = {
  centre: [
    3.387132872796366608, 133.14166789178437745, 1971.5909503065514427, 13731.693765509461125, 45921.953931549871457, 67265.770927008700853,
    33430.575583588128105, 2509.0809287301226727,
  ],
  underCentre: [
    1, 42.313330701600911252, 687.1870074920579083, 5394.1960214247511077, 21213.794301586595867, 39307.89580009271061, 28729.085735721942674,
    5226.495278852854561,
  ],
  shoulder: [
    1.42343711074968357734, 4.6303378461565452959, 5.7694972214606914055, 3.64784832476320460504, 1.27045825245236838258, 0.24178072517745061177,
    0.0227238449892691845833, 7.7454501427834140764e-4,
  ],
  underShoulder: [
    1, 2.05319162663775882187, 1.6763848301838038494, 0.68976733498510000455, 0.14810397642748007459, 0.0151986665636164571966,
    5.475938084995344946e-4, 1.05075007164441684324e-9,
  ],
  tail: [
    6.6579046435011037772, 5.4637849111641143699, 1.7848265399172913358, 0.29656057182850489123, 0.026532189526576123093, 0.0012426609473880784386,
    2.71155556874348757815e-5, 2.01033439929228813265e-7,
  ],
  underTail: [
    1, 0.59983220655588793769, 0.13692988092273580531, 0.0148753612908506148525, 7.868691311456132591e-4, 1.8463183175100546818e-5,
    1.4215117583164458887e-7, 2.04426310338993978564e-15,
  ],
} as const

function polynomial(coefficients: readonly number[], x: number): number {
  let sum = 0
  for (let i = coefficients.length - 1; i >= 0; i--) sum = sum * x + (coefficients[i] as number)
  return sum
}

/**
 * The z that leaves the share p above it. Shape: 0 < p < 1 → number, relative error about 1e-15.
 * Source: M. J. Wichura, Algorithm AS 241, Applied Statistics 37 (1988); coefficients from memory, checked against the distribution
 * itself in `distributions.test.ts`.
 * @throws {CoreError} `fraction_invalid`.
 */
export function normalBeyond(p: number): number {
  if (!(p > 0 && p < 1)) throw new CoreError('fraction_invalid', `Received the fraction ${p}. It lies between 0 and 1.`, { received: p })
  const offset = 0.5 - p
  if (Math.abs(offset) <= 0.425) {
    const x = 0.180625 - offset * offset
    return (offset * polynomial(quantile.centre, x)) / polynomial(quantile.underCentre, x)
  }
  const depth = Math.sqrt(-Math.log(Math.min(p, 1 - p)))
  const z =
    depth <= 5
      ? polynomial(quantile.shoulder, depth - 1.6) / polynomial(quantile.underShoulder, depth - 1.6)
      : polynomial(quantile.tail, depth - 5) / polynomial(quantile.underTail, depth - 5)
  return p < 0.5 ? z : -z
}
