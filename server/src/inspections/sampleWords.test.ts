import { describe, expect, it } from 'vitest'
import { sampleWords } from './sampleWords'

describe('why a line asks for its sample', () => {
  it('is said from the rule and the lot', () => {
    expect(
      sampleWords({ kind: 'percentage', percent: 10, rounding: 'up', accept: 1 }, 95, { sampleSize: 10, accept: 1, severity: null, kind: 'judged' }),
    ).toContain('10 % of 95')
  })

  it('says what was asked for where the rule gives another sample now, or is not known', () => {
    expect(sampleWords({ kind: 'fixedNumber', sampleSize: 8, accept: 0 }, 95, { sampleSize: 5, accept: 0, severity: null, kind: 'judged' })).toBe(
      '8 pieces, Ac 0: n 5, Ac 0',
    )
    expect(sampleWords(null, 95, { sampleSize: 5, accept: 1, severity: null, kind: 'judged' })).toBe('n 5, Ac 1')
  })

  it('says which inspection it got by its history, and why', () => {
    const scheme = { kind: 'attributesScheme', level: 'II', aqlPercent: 1, switching: 'withReduced' } as const
    const severity = { state: 'tightened', because: { kind: 'refused', refused: 2, of: 5 }, score: 0 } as const
    expect(sampleWords(scheme, 500, { sampleSize: 80, accept: 1, severity, kind: 'judged' })).toMatch(
      /AQL 1 %, tightened → 80 pieces, Ac 1; tightened inspection: 2 of 5 consecutive lots not accepted$/,
    )
  })
})
