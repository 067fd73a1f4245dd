import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { codeLetterFor, codeLetters, inspectionLevels } from '../tables/codeLetters'
import { sampleFor } from './sampleFor'
import type { SamplingRule } from './samplingRule'
import { aqlSeries, singlePlanFor } from '../tables/singlePlans'

const code = (expected: string) => expect.objectContaining({ code: expected })

/**
 * MIL-STD-105E (10 May 1989), Table II-A, AQL 0.010 to 10, one row a letter: acceptance numbers, `v` arrow down, `^` arrow up.
 * From memory.
 */
const tableTwoA: Record<string, string> = {
  A: 'v v v v v v v v v v v v v v 0 v',
  B: 'v v v v v v v v v v v v v 0 ^ v',
  C: 'v v v v v v v v v v v v 0 ^ v 1',
  D: 'v v v v v v v v v v v 0 ^ v 1 2',
  E: 'v v v v v v v v v v 0 ^ v 1 2 3',
  F: 'v v v v v v v v v 0 ^ v 1 2 3 5',
  G: 'v v v v v v v v 0 ^ v 1 2 3 5 7',
  H: 'v v v v v v v 0 ^ v 1 2 3 5 7 10',
  J: 'v v v v v v 0 ^ v 1 2 3 5 7 10 14',
  K: 'v v v v v 0 ^ v 1 2 3 5 7 10 14 21',
  L: 'v v v v 0 ^ v 1 2 3 5 7 10 14 21 ^',
  M: 'v v v 0 ^ v 1 2 3 5 7 10 14 21 ^ ^',
  N: 'v v 0 ^ v 1 2 3 5 7 10 14 21 ^ ^ ^',
  P: 'v 0 ^ v 1 2 3 5 7 10 14 21 ^ ^ ^ ^',
  Q: '0 ^ v 1 2 3 5 7 10 14 21 ^ ^ ^ ^ ^',
  R: '^ ^ 1 2 3 5 7 10 14 21 ^ ^ ^ ^ ^ ^',
}
const sizes: Record<string, number> = {
  A: 2,
  B: 3,
  C: 5,
  D: 8,
  E: 13,
  F: 20,
  G: 32,
  H: 50,
  J: 80,
  K: 125,
  L: 200,
  M: 315,
  N: 500,
  P: 800,
  Q: 1250,
  R: 2000,
}

describe('the attributes scheme of MIL-STD-105E', () => {
  it('gives the code letters of Table I at the edges of its rows (from memory)', () => {
    const seen = (lot: number) => inspectionLevels.map((level) => codeLetterFor(lot, level)).join('')
    expect(seen(1)).toBe('AAAAAAB')
    expect(seen(8)).toBe('AAAAAAB')
    expect(seen(9)).toBe('AAAAABC')
    expect(seen(150)).toBe('BBCDDFG')
    expect(seen(151)).toBe('BCDEEGH')
    expect(seen(501)).toBe('CCEFGJK')
    expect(seen(1_200)).toBe('CCEFGJK')
    expect(seen(1_201)).toBe('CDEGHKL')
    expect(seen(10_000)).toBe('CDFGJLM')
    expect(seen(35_001)).toBe('DEGJLNP')
    expect(seen(500_000)).toBe('DEGJMPQ')
    expect(seen(500_001)).toBe('DEHKNQR')
  })

  it('gives every plan of Table II-A, arrows followed', () => {
    for (const letter of codeLetters) {
      const cells = (tableTwoA[letter] ?? '').split(' ')
      expect(cells).toHaveLength(aqlSeries.length)
      cells.forEach((cell, j) => {
        let row = codeLetters.indexOf(letter)
        let entry = cell
        while (entry === 'v' || entry === '^') {
          row += entry === 'v' ? 1 : -1
          entry = (tableTwoA[codeLetters[row] ?? ''] ?? '').split(' ')[j] ?? ''
        }
        const plan = singlePlanFor(letter, aqlSeries[j] ?? 0)
        const found = codeLetters[row] ?? ''
        expect([plan.codeLetter, plan.sampleSize, plan.accept, plan.reject]).toEqual([found, sizes[found], Number(entry), Number(entry) + 1])
        expect(plan.arrowFrom).toBe(found === letter ? null : letter)
      })
    }
  })

  it('is refused for an AQL outside the series, naming the neighbours', () => {
    expect(() => singlePlanFor('J', 0.7)).toThrow(/0\.65 % or 1 %/)
    expect(() => singlePlanFor('J', 15)).toThrow(code('aql_not_in_series'))
    expect(() => singlePlanFor('J', NaN)).toThrow(code('aql_not_in_series'))
  })

  it('works out lot 1200, level II, AQL 0.65 as letter J: 80, accept 1', () => {
    const sample = sampleFor({ kind: 'attributesScheme', level: 'II', aqlPercent: 0.65 }, 1200)
    expect(sample).toMatchObject({ sampleSize: 80, accept: 1, reject: 2, codeLetter: 'J', isEveryPiece: false })
  })

  it('takes every piece when the sample reaches the lot', () => {
    const sample = sampleFor({ kind: 'attributesScheme', level: 'II', aqlPercent: 0.1 }, 60)
    expect(sample).toMatchObject({ sampleSize: 60, isEveryPiece: true, codeLetter: 'K' })
    expect(sample.reasoning).toContain('every piece')
  })
})

describe('a sampling rule', () => {
  it('of a percentage rounds as it says, and binary noise does not add a piece', () => {
    const percentage = (percent: number, rounding: 'up' | 'nearest' | 'down', lot: number) =>
      sampleFor({ kind: 'percentage', percent, rounding, accept: 0 }, lot).sampleSize
    expect([percentage(10, 'up', 101), percentage(10, 'nearest', 104), percentage(10, 'down', 109)]).toEqual([11, 10, 10])
    expect(percentage(7, 'up', 100)).toBe(7)
    expect(percentage(1, 'down', 5)).toBe(1)
  })

  it.each([0, -1, 1.5, 1e12, NaN])('is refused for a lot of %s', (lot) => {
    expect(() => sampleFor({ kind: 'everyPiece', accept: 0 }, lot)).toThrow(code('lot_size_invalid'))
  })

  it('is refused when it would accept everything', () => {
    expect(() => sampleFor({ kind: 'fixedNumber', sampleSize: 5, accept: 5 }, 100)).toThrow(code('acceptance_number_invalid'))
    expect(() => sampleFor({ kind: 'fixedNumber', sampleSize: 0, accept: 0 }, 100)).toThrow(code('sample_size_invalid'))
    expect(() => sampleFor({ kind: 'percentage', percent: 0, rounding: 'up', accept: 0 }, 100)).toThrow(code('percent_invalid'))
  })

  it('accepts none on a lot so small that its acceptance number would accept everything', () => {
    const sample = sampleFor({ kind: 'fixedNumber', sampleSize: 5, accept: 2 }, 2)
    expect(sample).toMatchObject({ sampleSize: 2, accept: 0, isEveryPiece: true })
    expect(sample.reasoning).toContain('2 would accept the whole sample')
  })

  it('never looks at more than the lot, and always at something', () => {
    const rule: fc.Arbitrary<SamplingRule> = fc.oneof(
      fc.constant({ kind: 'everyPiece', accept: 0 } as const),
      fc.record({ kind: fc.constant('fixedNumber' as const), sampleSize: fc.integer({ min: 1, max: 5000 }), accept: fc.constant(0) }),
      fc.record({
        kind: fc.constant('percentage' as const),
        percent: fc.double({ min: 0.01, max: 100, noNaN: true }),
        rounding: fc.constantFrom('up', 'nearest', 'down'),
        accept: fc.nat(3),
      }),
      fc.record({
        kind: fc.constant('attributesScheme' as const),
        level: fc.constantFrom(...inspectionLevels),
        aqlPercent: fc.constantFrom(...aqlSeries),
      }),
    )
    fc.assert(
      fc.property(rule, fc.integer({ min: 1, max: 600_000 }), (sampling, lot) => {
        const sample = sampleFor(sampling, lot)
        return (
          sample.sampleSize >= 1 &&
          sample.sampleSize <= lot &&
          sample.accept < sample.sampleSize &&
          sample.isEveryPiece === (sample.sampleSize === lot)
        )
      }),
    )
  })
})
