import { describe, expect, it } from 'vitest'
import { variablesAqlSeries, variablesLetterFor, variablesPlanFor } from '../tables/variablesTables'
import { fractionBeyond } from './fractionEstimate'
import { judgeVariables } from './judgeVariables'
import { describeVariables, describeVariablesSoFar } from './describeVariables'
import { variablesAcceptance } from './variablesAcceptance'

const code = (name: string) => expect.objectContaining({ code: name }) as Error

describe('sampling by variables', () => {
  it('has the letters and constants of MIL-STD-414 (Tables A-2 and B-1; from memory)', () => {
    expect(variablesLetterFor(40, 'IV')).toBe('D')
    expect(variablesPlanFor('D', 1)).toMatchObject({ sampleSize: 5, k: 1.53 })
    expect(variablesPlanFor('M', 1, 'tightened')).toMatchObject({ sampleSize: 50, k: 2.08 })
    expect(variablesPlanFor('B', 0.65)).toMatchObject({ codeLetter: 'D', arrowFrom: 'B', k: 1.65 })
    expect(() => variablesPlanFor('B', 0.04, 'tightened')).toThrow(code('plan_not_tabulated'))
    expect(() => variablesPlanFor('B', 2)).toThrow(/1.5 % or 2.5 % is the nearest/)
  })

  it('accepts lots at the AQL mostly, more surely with larger samples, as the tables intend', () => {
    for (const aql of variablesAqlSeries) {
      for (const letter of ['G', 'K', 'Q']) {
        const { sampleSize, k } = variablesPlanFor(letter, aql)
        expect(variablesAcceptance(sampleSize, k, 's')(aql / 100), `${letter} ${aql}`).toBeGreaterThan(0.85)
      }
    }
  })

  it('judges by the distance to one limit, and by both estimated fractions together', () => {
    const plan = { method: 's', sampleSize: 10, k: 1.72, sigma: null } as const
    expect(judgeVariables(plan, { lower: null, upper: 10 }, { count: 10, mean: 8, deviation: 1 })).toMatchObject({
      isAcceptable: true,
      upperIndex: 2,
    })
    const both = judgeVariables(plan, { lower: 6.4, upper: 10 }, { count: 10, mean: 8, deviation: 1 })
    expect(both.isAcceptable).toBe(false)
    expect(describeVariables(both)).toMatch(/estimated outside, M .*/)
  })

  it('refuses k out of all reach, a spread of nothing, and no limit', () => {
    const summary = { count: 5, mean: 1, deviation: 0 }
    expect(() => judgeVariables({ method: 's', sampleSize: 5, k: -101, sigma: null }, { lower: 0, upper: null }, summary)).toThrow(
      code('acceptance_constant_invalid'),
    )
    expect(() => judgeVariables({ method: 's', sampleSize: 5, k: 1, sigma: null }, { lower: 0, upper: null }, summary)).toThrow(
      code('spread_not_positive'),
    )
    expect(() => judgeVariables({ method: 'sigma', sampleSize: 5, k: 1, sigma: 1 }, { lower: null, upper: null }, summary)).toThrow(
      code('limits_missing'),
    )
  })
})

describe('an estimate from three readings', () => {
  it('is the arc sine of the quality index, and nothing where the limit is as far off as three readings can say', () => {
    // The beta distribution with 1/2 and 1/2 is that of the arc sine: common knowledge of statistics, here against its closed form.
    for (const index of [-1.1, -0.5, 0, 0.3, 0.8, 1.1])
      expect(fractionBeyond(index, 3, 's')).toBeCloseTo((2 / Math.PI) * Math.asin(Math.sqrt((1 - (index * Math.sqrt(3)) / 2) / 2)), 12)
    expect([fractionBeyond(2 / Math.sqrt(3), 3, 's'), fractionBeyond(1.5, 3, 's'), fractionBeyond(-1.5, 3, 's')]).toEqual([0, 0, 1])
  })
})

describe('what is said while values come in', () => {
  const plan = { method: 's', sampleSize: 7, k: 1.5, sigma: null } as const
  const words = (limits: { lower: number | null; upper: number | null }, mean: number, deviation: number, count: number, unit: string) =>
    describeVariablesSoFar(judgeVariables(plan, limits, { count, mean, deviation }), count, 7, unit, 1)

  it('are the quality indices, the fractions beyond each limit, and the largest that is accepted', () => {
    expect(words({ lower: 0, upper: 10 }, 5, 1, 3, 'mm')).toBe(
      'By variables so far, 3 of 7: mean 5.0 mm, s 1; QL 5, 0 % estimated below; QU 5, 0 % estimated above; together 0 %, M 0 % → these alone would be accepted',
    )
    expect(words({ lower: 4, upper: 10 }, 5, 0.816, 4, 'mm')).toContain('these alone would not be accepted')
  })

  it('go by k at one limit', () => {
    expect(words({ lower: null, upper: 10 }, 5, Math.SQRT2, 2, '')).toBe(
      'By variables so far, 2 of 7: mean 5.0, s 1.414; QU 3.536; k 1.5 → these alone would be accepted',
    )
  })
})
