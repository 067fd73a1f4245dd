import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assess } from '../curves/assessment'
import { judgeVariables } from './judgeVariables'
import { twoLimitAcceptance } from './twoLimitAcceptance'
import { variablesAcceptance } from './variablesAcceptance'

/**
 * Values with scipy 1.17, an integral over s of the chi density (integrate.quad) with the edge of the accepted means by optimize.brentq on
 * special.betainc; for three readings by summing over 20,000 spreads with the means on a grid of 4,001 points, good to 1e-4.
 */
describe('acceptance by variables between two limits', () => {
  it.each([
    [10, 1.7, 0.02, 0.5, 0.7886202350047886, 1e-10],
    [10, 1.7, 0.3, 0.5, 0.011135560539078606, 1e-10],
    [4, 1.2, 0.1, 0.5, 0.611662277466696, 1e-10],
    [35, 1.9, 0.02, 0.5, 0.7228689119008138, 1e-10],
    [60, 0.9, 0.2, 0.5, 0.35339213396558505, 1e-10],
    [60, 0.9, 0.2, 0.1, 0.3564438140532469, 1e-10],
    [200, 2.2, 0.01, 0.3, 0.8333582487971658, 1e-10],
    [3, 0.9, 0.1, 0.5, 0.7614741706602608, 1e-4],
    [3, 0.5, 0.1, 0.5, 0.9134176814841404, 1e-4],
  ])('of %d readings, k %d, %d nonconforming, the share %d of it above', (n, k, fraction, share, wanted, within) => {
    expect(Math.abs(twoLimitAcceptance(n, k, 's', share)(fraction) - wanted)).toBeLessThan(within)
  })

  it('with σ known is the normal probability of the means that are accepted', () => {
    // n 10, k 1.5: the distance where both estimates add up to M is looked up by judging means one by one.
    const [n, k, fraction] = [10, 1.5, 0.02]
    const half = 2.3263478740408408
    const plan = { method: 'sigma', sampleSize: n, k, sigma: 1 } as const
    const isAccepted = (mean: number) => judgeVariables(plan, { lower: -half, upper: half }, { count: n, mean, deviation: 1 }).isAcceptable
    let sum = 0
    const steps = 40_000
    for (let i = 0; i < steps; i++) {
      const mean = -half + (2 * half * (i + 0.5)) / steps
      if (isAccepted(mean)) sum += Math.exp((-n * mean * mean) / 2)
    }
    expect(twoLimitAcceptance(n, k, 'sigma')(fraction)).toBeCloseTo((sum * 2 * half * Math.sqrt(n / (2 * Math.PI))) / steps, 4)
  })

  const plan = {
    n: fc.integer({ min: 4, max: 60 }),
    k: fc.double({ min: 0.6, max: 2.6, noNaN: true }),
    share: fc.double({ min: 0.05, max: 0.95, noNaN: true }),
  }
  it('does not mind which limit is which, and never rises as quality worsens', () => {
    fc.assert(
      fc.property(fc.record(plan), ({ n, k, share }) => {
        const [one, other] = [twoLimitAcceptance(n, k, 's', share), twoLimitAcceptance(n, k, 's', 1 - share)]
        const values = [0, 0.005, 0.02, 0.06, 0.15, 0.4, 1].map(one)
        return Math.abs(one(0.06) - other(0.06)) < 1e-8 && values.every((value, i) => i === 0 || value <= (values[i - 1] as number) + 1e-8)
      }),
      { numRuns: 40 },
    )
  })

  it('becomes that of one limit when hardly anything lies beyond the other', () => {
    for (const [n, k] of [
      [10, 1.5],
      [40, 2],
    ] as const)
      expect(twoLimitAcceptance(n, k, 's', 1 - 1e-12)(0.03)).toBeCloseTo(variablesAcceptance(n, k, 's')(0.03), 4)
    expect(twoLimitAcceptance(10, 1.5, 's', 1)(0.03)).toBe(variablesAcceptance(10, 1.5, 's')(0.03))
  })

  it('of two readings wants k to both limits, and refuses what is no share', () => {
    expect(twoLimitAcceptance(2, 0.8, 's')(0.2)).toBeLessThan(variablesAcceptance(2, 0.8, 's')(0.1) + 1e-9)
    expect(() => twoLimitAcceptance(10, 1.5, 's', 1.2)).toThrow(expect.objectContaining({ code: 'fraction_invalid' }))
    expect(() => twoLimitAcceptance(10, 1.5, 's')(-0.1)).toThrow(expect.objectContaining({ code: 'fraction_invalid' }))
  })

  it('is told in the sentence of a choice that is weighed for two limits', () => {
    const choice = {
      sampling: { kind: 'variablesPlan', method: 'sigma', sampleSize: 12, k: 1.6, sigma: 1 },
      frequency: { kind: 'everyArrival' },
    } as const
    const options = { lotSize: 500, toPercent: 10, goodPercent: 1, poorPercent: 5, lotsPerMonth: null, minutesPerPiece: null }
    const [one, two] = [assess(choice, options), assess(choice, { ...options, limits: 'two' })]
    expect(two.sentence).toContain('half of them beyond each limit')
    expect(one.sentence).not.toContain('half of them')
    expect(two.consumersRisk).toBeCloseTo(twoLimitAcceptance(12, 1.6, 'sigma')(0.05), 12)
  })
})
