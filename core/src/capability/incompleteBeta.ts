import { CoreError } from '../errors'

function requireInside(isInside: boolean, name: string, value: number, words: string): void {
  if (!isInside) throw new CoreError('not_finite', `Received ${name} = ${value}. ${words}`, { received: value, field: name })
}

/**
 * ln Γ(x). Stirling's series after lifting x to 10 or more; absolute error about 2e-14 near x = 1, relative 1e-15 for large x.
 * Shape: 0 < x < ∞ → number. @throws {CoreError} `not_finite`.
 */
export function logGamma(x: number): number {
  requireInside(x > 0 && x < Infinity, 'x', x, 'It is greater than 0 and finite.')
  let lifted = x
  let product = 1
  while (lifted < 10) product *= lifted++
  const inverse = 1 / (lifted * lifted)
  const series = (1 / 12 - inverse * (1 / 360 - inverse * (1 / 1260 - inverse * (1 / 1680 - inverse / 1188)))) / lifted
  return (lifted - 0.5) * Math.log(lifted) - lifted + 0.918938533204672741780329736406 + series - Math.log(product)
}

/**
 * Regularised incomplete beta function I_x(a, b), by Lentz's continued fraction on the side where it converges fast.
 * Shape: x (below 0 and above 1 as at the ends), a, b > 0 → 0..1. Source: Abramowitz and Stegun, 26.5.8. Relative error measured: 2e-12 for a, b up to a thousand (1.6e-12 at
 * (0.994, 771.6, 2.14), mostly 1e-13), 1.3e-9 at (0.25, 1e6, 3e6).
 * @throws {CoreError} `not_finite`.
 */
export function incompleteBeta(x: number, a: number, b: number): number {
  requireInside(Number.isFinite(x), 'x', x, 'It is a finite number; outside of 0 to 1 the nearer end counts.')
  for (const [name, value] of [
    ['a', a],
    ['b', b],
  ] as const)
    requireInside(value > 0 && value < Infinity, name, value, 'It is greater than 0 and finite.')
  if (x <= 0) return 0
  if (x >= 1) return 1
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(1 - x, b, a)
  const front = Math.exp(logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log1p(-x)) / a
  const tiny = 1e-300
  let c = 1
  let d = 1 / (1 - ((a + b) * x) / (a + 1) || tiny)
  let fraction = d
  for (let m = 1; m < 10_000; m++) {
    for (const step of [(m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m)), (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1))]) {
      d = 1 / (1 + step * d || tiny)
      c = 1 + step / c || tiny
      fraction *= c * d
    }
    if (Math.abs(c * d - 1) < 1e-16) break
  }
  return front * fraction
}
