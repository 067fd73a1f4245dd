import { describe, expect, it } from 'vitest'
import { bellCurve, variablesSoFar } from './variablesSoFar'

const plan = { method: 's', sampleSize: 7, k: 1.5, sigma: null } as const

describe('what the values so far say by variables', () => {
  it('are the quality indices, the fractions beyond each limit, and the largest that is accepted', () => {
    const { words } = variablesSoFar(plan, { lower: 0, upper: 10 }, [4, 5, 6], 'mm', 1)
    expect(words).toBe(
      'By variables so far, 3 of 7: mean 5.0 mm, s 1; QL 5, 0 % estimated below; QU 5, 0 % estimated above; together 0 %, M 0 % → these alone would be accepted',
    )
    expect(variablesSoFar(plan, { lower: 4, upper: 10 }, [4, 5, 6, 5], 'mm', 1).words).toContain('these alone would not be accepted')
  })

  it('go by k at one limit, and say what is wrong where there is no spread', () => {
    const { words } = variablesSoFar(plan, { lower: null, upper: 10 }, [4, 6], '', 1)
    expect(words).toBe('By variables so far, 2 of 7: mean 5.0, s 1.414; QU 3.536; k 1.5 → these alone would be accepted')
    expect(() => variablesSoFar(plan, { lower: 0, upper: 10 }, [5, 5, 5], '', 1)).toThrow(/all are the same/)
  })
})

it('the picture shows what lies outside, and no area where nothing does', () => {
  const { facts } = variablesSoFar(plan, { lower: 0, upper: 10 }, [4, 5, 6], '', 1)
  expect(bellCurve(facts, { lower: 0, upper: 10 }, 100, 50)).toMatchObject({ outside: [], limits: [0, 100], mean: 50 })
  expect(bellCurve(facts, { lower: 4, upper: null }, 100, 50)).toMatchObject({ outside: [expect.stringMatching(/^M0 50L/)], limits: [37.5] })
})
