import { logGamma } from '../../capability/incompleteBeta'

/**
 * Probability that k of `size` further pieces are nonconforming, when d of m were (beta-binomial, uniform prior), in closed form.
 * Shape: d ≤ m, size, most → number[most + 1]. Source: Laplace's rule of succession.
 */
export function furtherMasses(d: number, m: number, size: number, most: number): Float64Array {
  const masses = new Float64Array(most + 1)
  const a = d + 1
  const b = m - d + 1
  const fixed = logGamma(size + 1) + logGamma(a + b) - logGamma(a) - logGamma(b) - logGamma(size + a + b)
  for (let k = 0; k <= Math.min(most, size); k++)
    masses[k] = Math.exp(fixed - logGamma(k + 1) - logGamma(size - k + 1) + logGamma(a + k) + logGamma(b + size - k))
  return masses
}
