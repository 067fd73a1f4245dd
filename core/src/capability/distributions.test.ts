import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { incompleteBeta, logGamma } from './incompleteBeta'
import { normalBelow, normalBeyond } from './normal'

/** Values computed with scipy 1.17 (norm.cdf, norm.isf, betainc, gammaln). */
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
    expect(relative(normalBeyond(p), wanted)).toBeLessThan(1e-9)
  })

  it('comes back from its own quantile, for any share', () => {
    fc.assert(fc.property(fc.double({ min: 1e-12, max: 0.5, noNaN: true }), (p) => relative(normalBelow(-normalBeyond(p)), p) < 1e-12))
    expect(() => normalBeyond(0)).toThrow(expect.objectContaining({ code: 'fraction_invalid' }))
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
