import hypergeometric from '@stdlib/stats-base-dists-hypergeometric'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import probabilities from '../../../testdata/acceptance-probability.json'
import plans from '../../../testdata/plans-in-lots.json'
import quantiles from '../../../testdata/quantiles.json'
import { acceptanceInLot, acceptanceInSeries } from '../chance/acceptanceProbability'
import { nonconformingAt, operatingCurve } from './operatingCurve'
import { riskOf } from './riskSentence'

interface Inputs {
  kind: string
  n: number
  c: number
  p?: number
  N?: number
  D?: number
}

describe('the probability of acceptance', () => {
  it.each(probabilities.map((entry) => [entry.id, entry] as const))('agrees with %s', (_id, { inputs, expected, tolerance, source }) => {
    const { kind, n, c, p = 0, N = 0, D = 0 } = inputs as Inputs
    const got = kind === 'single.binomial' ? acceptanceInSeries(p, n, c) : acceptanceInLot(N, D, n, c)
    expect(Math.abs(got - expected.pa), source).toBeLessThanOrEqual(Math.max(tolerance.abs, tolerance.rel * Math.abs(expected.pa)))
  })

  it.each(quantiles.map((entry) => [entry.id, entry] as const))('meets 95, 50 and 10 of 100 where %s says', (_id, { inputs, expected, source }) => {
    const { n, c } = inputs as Inputs
    expect(acceptanceInSeries(expected.p_pa_95, n, c), source).toBeCloseTo(0.95, 8)
    expect(acceptanceInSeries(expected.p_pa_50, n, c), source).toBeCloseTo(0.5, 8)
    expect(acceptanceInSeries(expected.p_pa_10, n, c), source).toBeCloseTo(0.1, 8)
  })

  it('gives the tabulated qualities of code letter J, AQL 0.65 (MIL-STD-105E, Table X-J-1, n 80, c 1; from memory)', () => {
    for (const [accepted, percent] of [
      [0.95, 0.446],
      [0.9, 0.667],
      [0.5, 2.09],
      [0.1, 4.78],
    ] as const) {
      expect(Math.abs(acceptanceInSeries(percent / 100, 80, 1) - accepted)).toBeLessThan(0.002)
    }
  })

  it('agrees with the designed plans of the check values', () => {
    const zero = plans.filter((entry) => entry.inputs.kind === 'c0.hypergeometric')
    expect(zero.length).toBeGreaterThan(3)
    for (const { inputs, expected, source } of zero) {
      const { N, D } = inputs as unknown as { N: number; D: number }
      expect(acceptanceInLot(N, D, expected.n, 0), source).toBeCloseTo(expected.pa ?? NaN, 9)
    }
  })

  it('agrees with the distribution function of a general library to 1e-9', () => {
    for (const nonconforming of [1, 17, 100, 420, 1000, 5000]) {
      expect(Math.abs(acceptanceInLot(10_000, nonconforming, 200, 5) - hypergeometric.cdf(5, 10_000, nonconforming, 200))).toBeLessThan(1e-9)
    }
  })

  it('stays finite and in 0..1 in the far tails', () => {
    expect(acceptanceInLot(1_000_000, 900_000, 2000, 21)).toBeGreaterThanOrEqual(0)
    expect(acceptanceInSeries(0.999, 2000, 0)).toBeGreaterThanOrEqual(0)
    expect(acceptanceInSeries(1e-12, 2000, 0)).toBeCloseTo(1, 8)
  })

  it('falls as quality worsens, for any plan and lot', () => {
    const plan = fc
      .integer({ min: 2, max: 3000 })
      .chain((lot) =>
        fc.record({ lot: fc.constant(lot), n: fc.integer({ min: 1, max: lot }), c: fc.nat(10), d: fc.integer({ min: 0, max: lot - 1 }) }),
      )
    fc.assert(
      fc.property(plan, ({ lot, n, c, d }) => {
        const better = acceptanceInLot(lot, d, n, c)
        const worse = acceptanceInLot(lot, d + 1, n, c)
        return worse <= better * (1 + 1e-12) && better <= 1 && worse >= 0
      }),
    )
  })

  it('refuses what cannot be', () => {
    expect(() => acceptanceInLot(10, 11, 5, 0)).toThrow(expect.objectContaining({ code: 'quantity_invalid' }))
    expect(() => acceptanceInLot(10, 1, 11, 0)).toThrow(expect.objectContaining({ code: 'sample_size_invalid' }))
    expect(() => acceptanceInSeries(1.2, 5, 0)).toThrow(expect.objectContaining({ code: 'fraction_invalid' }))
  })
})

describe('an operating curve', () => {
  it('walks along the qualities to the same probabilities as one by one, for any plan, lot and spacing', () => {
    const plan = fc.integer({ min: 2, max: 20_000 }).chain((lot) =>
      fc.record({
        lot: fc.constant(lot),
        n: fc.integer({ min: 1, max: Math.min(lot, 3000) }),
        c: fc.nat(80),
        toPercent: fc.integer({ min: 1, max: 100 }),
      }),
    )
    fc.assert(
      fc.property(plan, ({ lot, n, c, toPercent }) =>
        operatingCurve({ sampleSize: n, accept: c }, lot, toPercent, 60).every(
          ({ percent, accepted }) => Math.abs(accepted - acceptanceInLot(lot, Math.round((percent * lot) / 100), n, c)) < 1e-12,
        ),
      ),
    )
  })

  it('begins at certainty, falls, and has a point a unit on a small lot', () => {
    const curve = operatingCurve({ sampleSize: 5, accept: 0 }, 20, 100)
    expect(curve).toHaveLength(21)
    expect(curve[0]).toEqual({ percent: 0, accepted: 1 })
    expect(curve.at(-1)?.accepted).toBe(0)
  })

  it('is told in a sentence: a lot at the AQL, and a lot at the 10 % point', () => {
    const risk = riskOf({ sampleSize: 80, accept: 1 }, 1200, 0.65)
    const poor = nonconformingAt({ sampleSize: 80, accept: 1 }, 1200, 0.1)
    expect(acceptanceInLot(1200, poor, 80, 1)).toBeLessThanOrEqual(0.1)
    expect(acceptanceInLot(1200, poor - 1, 80, 1)).toBeGreaterThan(0.1)
    expect(risk.poorPercent).toBeCloseTo((100 * poor) / 1200, 12)
    expect(risk.sentence).toBe('A lot with 0.65 % nonconforming passes 91 times in 100. A lot with 4.7 % still passes 10 times in 100.')
  })

  it('says so when every piece is looked at and none accepted', () => {
    expect(riskOf({ sampleSize: 50, accept: 0 }, 50, null).sentence).toMatch(/^Only a lot without a single nonconforming piece.*never passes\.$/)
  })
})
