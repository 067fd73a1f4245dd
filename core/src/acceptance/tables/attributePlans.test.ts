import { describe, expect, it } from 'vitest'
import { findRoot } from '../../numeric/findRoot'
import { attributePlanFor } from './attributePlans'
import { fullAqlSeries, severities } from './attributeTables'
import { codeLetters } from './codeLetters'
import { checkStages, walkStages, type Stage } from '../plans/stagedPlan'

const code = (expected: string) => expect.objectContaining({ code: expected })
const numbers = (stages: readonly Stage[]) => stages.map(({ sampleSize, accept, reject }) => `${sampleSize}: ${accept ?? '#'} ${reject}`).join(', ')
/** Nonconformities per unit at which a plan accepts this share. */
const rateAt = (stages: readonly Stage[], share: number) =>
  findRoot((rate) => walkStages(stages, { kind: 'perUnit', nonconformities: rate }).accepted, 1e-9, 100, share)

describe('the plans of MIL-STD-105E', () => {
  it.each([
    // Single, Tables II-A to C; the example of lot 2000, level II, AQL 0.65 % stands in D. C. Montgomery, Introduction to Statistical Quality Control.
    ['K', 0.65, 'normal', 'single', '125: 2 3'],
    ['K', 0.65, 'tightened', 'single', '125: 1 2'],
    ['K', 0.65, 'reduced', 'single', '50: 1 3'],
    // The rest from memory of the tables.
    ['F', 65, 'normal', 'single', '20: 21 22'],
    ['A', 1000, 'normal', 'single', '2: 30 31'],
    ['E', 250, 'normal', 'single', '13: 44 45'],
    ['F', 100, 'normal', 'single', '13: 21 22'],
    ['G', 1, 'tightened', 'single', '80: 1 2'],
    ['Q', 0.025, 'tightened', 'single', '3150: 1 2'],
    ['R', 0.015, 'tightened', 'single', '1250: 0 1'],
    ['B', 100, 'reduced', 'single', '2: 5 6'],
    ['A', 25, 'reduced', 'single', '2: 1 2'],
    ['L', 1, 'normal', 'double', '125: 2 5, 125: 6 7'],
    ['K', 4, 'tightened', 'double', '80: 3 7, 80: 11 12'],
    ['J', 1.5, 'reduced', 'double', '20: 0 4, 20: 1 5'],
    ['H', 4, 'normal', 'multiple', '13: # 4, 13: 1 5, 13: 2 6, 13: 3 7, 13: 5 8, 13: 7 9, 13: 9 10'],
    ['N', 1, 'tightened', 'multiple', '125: 0 4, 125: 2 7, 125: 4 9, 125: 6 11, 125: 9 12, 125: 12 14, 125: 14 15'],
    ['F', 2.5, 'reduced', 'multiple', '2: # 2, 2: # 2, 2: 0 2, 2: 0 3, 2: 0 3, 2: 0 3, 2: 1 3'],
  ] as const)('letter %s, AQL %d, %s, %s: %s', (letter, aql, severity, form, wanted) => {
    expect(numbers(attributePlanFor(letter, aql, severity, form, 'nonconformities').stages)).toBe(wanted)
  })

  it('send small letters and acceptance on zero to the single plan, and multiple to double where only that exists', () => {
    expect(attributePlanFor('A', 25, 'normal', 'double', 'nonconformities').form).toBe('single')
    expect(attributePlanFor('F', 0.65, 'normal', 'multiple').form).toBe('single')
    expect(attributePlanFor('C', 10, 'normal', 'multiple').form).toBe('double')
  })

  it('can be carried out, all of them', () => {
    let checked = 0
    for (const severity of severities) {
      for (const form of ['single', 'double', 'multiple'] as const) {
        for (const letter of codeLetters)
          for (const aql of fullAqlSeries) checkStages(attributePlanFor(letter, aql, severity, form, 'nonconformities').stages)
        checked += codeLetters.length * fullAqlSeries.length
      }
    }
    expect(checked).toBe(3 * 3 * 16 * 26)
  })

  it('have double and multiple forms whose curves follow the single one at half acceptance, as the tables were made', () => {
    for (const severity of severities) {
      for (const letter of ['F', 'H', 'K', 'N', 'R'] as const) {
        for (const aql of fullAqlSeries) {
          const single = attributePlanFor(letter, aql, severity, 'single', 'nonconformities')
          for (const form of ['double', 'multiple'] as const) {
            const staged = attributePlanFor(letter, aql, severity, form, 'nonconformities')
            const ratio = rateAt(staged.stages, 0.5) / rateAt(single.stages, 0.5)
            expect(Math.abs(ratio - 1), `${letter} ${aql} ${severity} ${form}: ${ratio.toFixed(3)}`).toBeLessThan(0.2)
          }
        }
      }
    }
  })

  it('are never laxer tightened than normal, at the AQL', () => {
    for (const letter of codeLetters) {
      for (const aql of fullAqlSeries) {
        const passes = (severity: 'normal' | 'tightened') =>
          walkStages(attributePlanFor(letter, aql, severity, 'single', 'nonconformities').stages, { kind: 'perUnit', nonconformities: aql / 100 })
            .accepted
        expect(passes('tightened'), `${letter} ${aql}`).toBeLessThanOrEqual(passes('normal') + 1e-12)
      }
    }
  })

  it('name the neighbours of an AQL outside the series, and tell per cent from counts', () => {
    expect(() => attributePlanFor('K', 0.7)).toThrow(/0.65 % or 1 % is the nearest/)
    expect(() => attributePlanFor('K', 15)).toThrow(/counts nonconformities per 100 units/)
    expect(() => attributePlanFor('K', 2000, 'normal', 'single', 'nonconformities')).toThrow(code('aql_not_in_series'))
  })
})
