import hypergeometric from '@stdlib/stats-base-dists-hypergeometric'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { binomialMass, hypergeometricMasses } from './probabilityMass'

/** C(n, k) exactly, for the small cases. */
function choose(n: number, k: number): bigint {
  let result = 1n
  for (let i = 0; i < k; i++) result = (result * BigInt(n - i)) / BigInt(i + 1)
  return result
}
function ratio(above: bigint, below: bigint): number {
  return Number((above * 10n ** 18n) / below) / 1e18
}

describe('the mass of a hypergeometric count', () => {
  it('is that of exact fractions, for any small lot', () => {
    const lot = fc
      .integer({ min: 2, max: 120 })
      .chain((size) => fc.record({ size: fc.constant(size), sample: fc.integer({ min: 1, max: size }), bad: fc.integer({ min: 0, max: size }) }))
    fc.assert(
      fc.property(lot, ({ size, sample, bad }) => {
        const mass = hypergeometricMasses(size, sample)
        for (let x = Math.max(0, sample + bad - size); x <= Math.min(sample, bad); x++) {
          const exact = ratio(choose(bad, x) * choose(size - bad, sample - x), choose(size, sample))
          if (Math.abs(mass(x, bad) - exact) > 1e-12 + 1e-11 * exact) return false
        }
        return true
      }),
    )
  })

  it('agrees with a general library where that is precise', () => {
    for (const x of [0, 3, 10, 25]) expect(hypergeometricMasses(10_000, 200)(x, 600)).toBeCloseTo(hypergeometric.pmf(x, 10_000, 600, 200), 10)
  })

  it('sums to one over its support, for lots up to the largest', () => {
    for (const [size, sample, bad] of [
      [50, 20, 7],
      [1_000_000_000, 500, 30_000_000],
      [35_000, 2000, 35_000],
    ] as const) {
      const mass = hypergeometricMasses(size, sample)
      let sum = 0
      for (let x = Math.max(0, sample + bad - size); x <= Math.min(sample, bad); x++) sum += mass(x, bad)
      expect(sum).toBeCloseTo(1, 10)
    }
  })

  it('leaves nothing to chance when every piece is looked at', () => {
    const mass = hypergeometricMasses(40, 40)
    expect([mass(7, 7), mass(6, 7)]).toEqual([1, 0])
  })
})

describe('the mass of a binomial count', () => {
  it('sums to one, and is certain at the ends', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), fc.double({ min: 1e-9, max: 1 - 1e-9, noNaN: true }), (n, p) => {
        let sum = 0
        for (let x = 0; x <= n; x++) sum += binomialMass(x, n, p, 1 - p)
        return Math.abs(sum - 1) < 1e-11
      }),
    )
    expect([binomialMass(0, 9, 0, 1), binomialMass(9, 9, 1, 0), binomialMass(1, 9, 0, 1), binomialMass(0, 0, 0.5, 0.5)]).toEqual([1, 1, 0, 1])
  })

  it('is the tabulated one: 13 of 125 at 4 % (exact fraction)', () => {
    const exact = ratio(choose(125, 13) * 4n ** 13n * 96n ** 112n, 100n ** 125n)
    expect(Math.abs(binomialMass(13, 125, 0.04, 0.96) / exact - 1)).toBeLessThan(1e-11)
  })
})
