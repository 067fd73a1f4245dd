import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { spreadNodes, acceptedAt } from '../acceptance/variables/variablesAcceptance'
import { incompleteBeta, logGamma } from './incompleteBeta'
import { normalBelow, normalBeyond } from './normal'
import { nonCentralBelow } from './nonCentralT'

/** Values computed with scipy 1.17 (norm.cdf, norm.isf, betainc, gammaln); the non-central t with mpmath 1.3, by integration with 30 digits. */
const relative = (got: number, wanted: number) => Math.abs(got - wanted) / Math.abs(wanted || 1)

describe('the normal distribution', () => {
  it.each([
    [-37.5, 4.605353009581954e-308],
    [-8, 6.220960574271819e-16],
    [-3.1, 0.0009676032132183563],
    [-0.7, 0.24196365222307303],
    [-0.2, 0.42074029056089696],
    [0.9, 0.8159398746532405],
    [2.5, 0.9937903346742238],
    [5.9, 0.9999999981824922],
  ])('below %d', (z, wanted) => {
    expect(relative(normalBelow(z), wanted)).toBeLessThan(2e-14)
  })

  it.each([
    [1e-300, 37.0470962993612],
    [1e-12, 7.034483825301131],
    [0.0013, 3.0114537584997843],
    [0.93, -1.475791028179171],
    [0.9999999, -5.199337582290661],
  ])('is left with %d beyond', (p, wanted) => {
    expect(relative(normalBeyond(p), wanted)).toBeLessThan(2e-15)
  })

  it('comes back from its own quantile, for any share', () => {
    fc.assert(fc.property(fc.double({ min: 1e-12, max: 0.5, noNaN: true }), (p) => relative(normalBelow(-normalBeyond(p)), p) < 1e-13))
    expect(() => normalBeyond(0)).toThrow(expect.objectContaining({ code: 'fraction_invalid' }))
  })
})

describe('the non-central t distribution', () => {
  it.each([
    [1, 1.5, 0.8, 0.5982265934737567],
    [2, 0.4, 2.5, 0.017542584932600944],
    [5, 3, 1.2, 0.8898277396981167],
    [34, 11.2, 12.5, 0.20482709352923964],
    [99, 20, 23.3, 0.02791229482144648],
    [100, 8, -1, 0.9999999999999987],
    [1, 6, 8, 0.18844541724270623],
  ])('with %d degrees of freedom, below %d, shifted by %d', (freedom, t, shift, wanted) => {
    expect(Math.abs(nonCentralBelow(freedom, t)(shift) - wanted)).toBeLessThan(1e-12)
  })

  it('is the normal probability averaged over the chi distribution, for any plan', () => {
    const plan = fc.record({
      n: fc.integer({ min: 2, max: 400 }),
      k: fc.double({ min: 0, max: 5, noNaN: true }),
      z: fc.double({ min: -4, max: 6, noNaN: true }),
    })
    fc.assert(
      fc.property(plan, ({ n, k, z }) => {
        const root = Math.sqrt(n)
        return Math.abs(1 - nonCentralBelow(n - 1, k * root)(z * root) - acceptedAt(z, root, k, spreadNodes(n))) < 1e-12
      }),
      { numRuns: 300 },
    )
  })

  it('without shift is symmetric about its middle and wants whole degrees of freedom', () => {
    expect(nonCentralBelow(7, 0)(0)).toBeCloseTo(0.5, 15)
    expect(() => nonCentralBelow(1.5, 1)).toThrow(expect.objectContaining({ code: 'sample_size_invalid' }))
  })
})

describe('the incomplete beta function', () => {
  it.each([
    [0.3, 0.5, 0.5, 0.36901011956554536],
    [0.1, 1.5, 1.5, 0.05204401933091396],
    [0.48, 40, 40, 0.36062168456577093],
    [1e-5, 2, 200, 2.0073353789107934e-6],
  ])('at %d with %d, %d', (x, a, b, wanted) => {
    expect(relative(incompleteBeta(x, a, b), wanted)).toBeLessThan(1e-12)
  })

  it('rests on a gamma function of full precision', () => {
    expect(relative(logGamma(0.5), Math.log(Math.PI) / 2)).toBeLessThan(5e-14)
    expect(relative(logGamma(20), Math.log(121_645_100_408_832_000))).toBeLessThan(1e-14)
    expect([incompleteBeta(-1, 2, 3), incompleteBeta(2, 2, 3)]).toEqual([0, 1])
  })
})
