import { describe, expect, it } from 'vitest'
import { attributePlanFor } from './attributePlans'
import type { CodeLetter } from './codeLetters'
import type { Stage } from '../plans/stagedPlan'
import { variablesLetterFor, variablesPlanFor } from './variablesTables'

/** MIL-STD-105E, Tables II-A to C, III-A and IV-A, and MIL-STD-414, Tables A-2 and B-1, written out by rows. All from memory. */
const numbers = (stages: readonly Stage[]) => stages.map(({ accept, reject }) => `${accept ?? '#'} ${reject}`).join(', ')

/** Where a cell holds an arrow, the plan at its end is given with its own letter. */
function row(letter: CodeLetter, severity: 'normal' | 'tightened' | 'reduced', aqls: readonly number[]): string {
  return aqls
    .map((aql) => {
      const { codeLetter, stages } = attributePlanFor(letter, aql, severity)
      return `${codeLetter === letter ? '' : `${codeLetter}:`}${stages[0]?.accept}/${stages[0]?.reject}`
    })
    .join(' ')
}
const aqls = [0.1, 0.15, 0.25, 0.4, 0.65, 1, 1.5, 2.5, 4, 6.5, 10] as const

describe('single plans, row by row', () => {
  it.each([
    ['K', 'normal', 125, '0/1 J:0/1 L:1/2 1/2 2/3 3/4 5/6 7/8 10/11 14/15 21/22'],
    ['K', 'tightened', 125, 'L:0/1 0/1 M:1/2 L:1/2 1/2 2/3 3/4 5/6 8/9 12/13 18/19'],
    ['K', 'reduced', 50, '0/1 J:0/1 L:0/2 0/2 1/3 1/4 2/5 3/6 5/8 7/10 10/13'],
    ['H', 'normal', 50, 'K:0/1 J:0/1 0/1 G:0/1 J:1/2 1/2 2/3 3/4 5/6 7/8 10/11'],
    ['F', 'normal', 20, 'K:0/1 J:0/1 H:0/1 G:0/1 0/1 E:0/1 G:1/2 1/2 2/3 3/4 5/6'],
    ['M', 'normal', 315, 'N:1/2 1/2 2/3 3/4 5/6 7/8 10/11 14/15 21/22 L:21/22 K:21/22'],
  ] as const)('letter %s, %s inspection, %d pieces: %s', (letter, severity, size, wanted) => {
    expect(row(letter, severity, aqls)).toBe(wanted)
    expect(aqls.map((aql) => attributePlanFor(letter, aql, severity)).find(({ codeLetter }) => codeLetter === letter)?.stages[0]?.sampleSize).toBe(
      size,
    )
  })
})

/** What the tables of double and multiple plans (normal inspection) put where the single one accepts on so many. */
const byAccept = {
  1: ['0 2, 1 2', '# 2, # 2, 0 2, 0 3, 1 3, 1 3, 2 3'],
  2: ['0 3, 3 4', '# 2, 0 3, 0 3, 1 4, 2 4, 3 5, 4 5'],
  3: ['1 4, 4 5', '# 3, 0 3, 1 4, 2 5, 3 6, 4 6, 6 7'],
  5: ['2 5, 6 7', '# 4, 1 5, 2 6, 3 7, 5 8, 7 9, 9 10'],
  7: ['3 7, 8 9', '0 4, 1 6, 3 8, 5 10, 7 11, 10 12, 13 14'],
  10: ['5 9, 12 13', '0 5, 3 8, 6 10, 8 13, 11 15, 14 17, 18 19'],
  14: ['7 11, 18 19', '1 7, 4 10, 8 13, 12 17, 17 20, 21 23, 25 26'],
  21: ['11 16, 26 27', '2 9, 7 14, 13 19, 19 25, 25 29, 31 33, 37 38'],
} as const
const sizes = {
  G: [32, 20, 8],
  H: [50, 32, 13],
  J: [80, 50, 20],
  K: [125, 80, 32],
  L: [200, 125, 50],
  M: [315, 200, 80],
  N: [500, 315, 125],
  P: [800, 500, 200],
} as const

describe('double and multiple plans of normal inspection', () => {
  it.each(Object.entries(sizes))('letter %s has the sizes of its row and the numbers of its diagonals', (letter, [single, double, multiple]) => {
    let compared = 0
    for (const aql of aqls) {
      const plans = (['single', 'double', 'multiple'] as const).map((form) => attributePlanFor(letter as CodeLetter, aql, 'normal', form))
      const [one, two, seven] = plans
      const accept = one?.stages[0]?.accept ?? 0
      if (!one || !two || !seven || one.codeLetter !== letter || accept === 0) continue
      const [inTwo, inSeven] = byAccept[accept as keyof typeof byAccept]
      expect([numbers(two.stages), numbers(seven.stages)], `${letter} ${aql}`).toEqual([inTwo, inSeven])
      expect([one, two, seven].map((plan) => plan.stages.map(({ sampleSize }) => sampleSize))).toEqual([
        [single],
        [double, double],
        Array.from({ length: 7 }, () => multiple),
      ])
      compared += 1
    }
    expect(compared).toBeGreaterThanOrEqual(5)
  })
})

describe('plans by variables, MIL-STD-414', () => {
  it.each([
    [8, 'IV', 'B'],
    [40, 'IV', 'D'],
    [110, 'IV', 'F'],
    [300, 'IV', 'H'],
    [500, 'IV', 'I'],
    [3200, 'IV', 'L'],
    [8000, 'IV', 'M'],
    [500, 'V', 'K'],
    [500, 'II', 'E'],
  ] as const)('a lot of %d at level %s has the letter %s', (lot, level, letter) => {
    expect(variablesLetterFor(lot, level)).toBe(letter)
  })

  it.each([
    ['B', 4, 3, 0.958],
    ['D', 1, 5, 1.53],
    ['F', 1, 10, 1.72],
    ['G', 1, 15, 1.79],
    ['I', 1, 25, 1.85],
    ['H', 10, 20, 0.917],
  ] as const)('letter %s at an AQL of %d %% measures %d pieces with k %d', (letter, aql, sampleSize, k) => {
    expect(variablesPlanFor(letter, aql, 'normal')).toMatchObject({ sampleSize, k })
  })

  it('is tightened by one step of the AQL', () => {
    for (const letter of ['F', 'I', 'K'] as const) {
      expect(variablesPlanFor(letter, 1, 'tightened').k).toBe(variablesPlanFor(letter, 0.65, 'normal').k)
    }
  })
})
