import { describe, expect, it } from 'vitest'
import { sampleWords } from './sampleWords'

describe('why a line asks for its sample', () => {
  it('is said from the rule and the lot', () => {
    expect(sampleWords({ kind: 'percentage', percent: 10, rounding: 'up', accept: 1 }, 95, { sampleSize: 10, accept: 1 })).toContain('10 % of 95')
  })

  it('says what was asked for where the rule gives another sample now, or is not known', () => {
    expect(sampleWords({ kind: 'fixedNumber', sampleSize: 8, accept: 0 }, 95, { sampleSize: 5, accept: 0 })).toBe('8 pieces, Ac 0: n 5, Ac 0')
    expect(sampleWords(null, 95, { sampleSize: 5, accept: 1 })).toBe('n 5, Ac 1')
  })
})
