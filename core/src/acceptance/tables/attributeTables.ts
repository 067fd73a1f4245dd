/**
 * The tables of MIL-STD-105E for sampling by attributes: II-A to C (single), III-A to C (double), IV-A to C (multiple).
 * Sample sizes and AQLs both climb in steps of about 10^(1/5), so that letter index + AQL index (the diagonal) fixes sample size × AQL and
 * with it the acceptance numbers: each table is a list of sample sizes and a list of numbers by diagonal.
 * Values from memory of the standard; `attributePlans.test.ts` holds the three forms of every plan against each other (their operating
 * curves nearly agree by design) and the cells against published examples.
 */
export const severities = ['normal', 'tightened', 'reduced'] as const
export type Severity = (typeof severities)[number]

export const stageForms = ['single', 'double', 'multiple'] as const
export type StageForm = (typeof stageForms)[number]

/** Percent nonconforming up to 10; above 10 nonconformities per 100 units only. */
export const fullAqlSeries = [
  0.01, 0.015, 0.025, 0.04, 0.065, 0.1, 0.15, 0.25, 0.4, 0.65, 1, 1.5, 2.5, 4, 6.5, 10, 15, 25, 40, 65, 100, 150, 250, 400, 650, 1000,
] as const

/** Accept and reject numbers by stage; null: this stage cannot accept. */
export type Numbers = readonly (readonly [accept: number | null, reject: number])[]

interface AttributeTable {
  /** Sample size of each stage by letter index (A = 0 … R = 15, S = 16); null: the form has no plan for the letter. */
  readonly sizes: readonly (number | null)[]
  /** Numbers by diagonal, from `firstDiagonal` on. */
  readonly numbers: readonly Numbers[]
}

export const largeLetters = 5
/** The two largest sets of numbers stand only in the rows A to E. */
export const lastDiagonalBelowF = 26
export const lastDiagonalFromF = 24

/** Accept-on-zero diagonal, then those that point up (a row back) or down (a row on), then the first with an acceptance number of 1 or a gap. */
export const diagonals: Readonly<Record<Severity, { readonly zero: number; readonly up: number | null; readonly first: number }>> = {
  normal: { zero: 14, up: 15, first: 17 },
  tightened: { zero: 15, up: null, first: 18 },
  reduced: { zero: 14, up: 15, first: 17 },
}

const none = null
const singleSizes = [2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200, 315, 500, 800, 1250, 2000]
const doubleSizes = [none, 2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200, 315, 500, 800, 1250]
const multipleSizes = [none, none, none, 2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200, 315, 500]

/** `# 2 | 0 3`: stages by bars, # for a stage that cannot accept. */
function read(text: string): Numbers {
  return text.split('|').map((stage) => {
    const [accept, reject] = stage.trim().split(' ')
    return [accept === '#' ? null : Number(accept), Number(reject)] as const
  })
}
const rows = (text: string) => text.trim().split('\n').map(read)

export const attributeTables: Readonly<Record<StageForm, Readonly<Record<Severity, AttributeTable>>>> = {
  single: {
    normal: { sizes: singleSizes, numbers: [1, 2, 3, 5, 7, 10, 14, 21, 30, 44].map((accept) => [[accept, accept + 1]]) },
    tightened: { sizes: [...singleSizes, 3150], numbers: [1, 2, 3, 5, 8, 12, 18, 27, 41].map((accept) => [[accept, accept + 1]]) },
    reduced: {
      sizes: [2, 2, 2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200, 315, 500, 800],
      numbers: rows('0 2\n1 3\n1 4\n2 5\n3 6\n5 8\n7 10\n10 13\n14 17\n21 24'),
    },
  },
  double: {
    normal: {
      sizes: doubleSizes,
      numbers: rows(`0 2|1 2
0 3|3 4
1 4|4 5
2 5|6 7
3 7|8 9
5 9|12 13
7 11|18 19
11 16|26 27
17 22|37 38
25 31|56 57`),
    },
    tightened: {
      sizes: [...doubleSizes, 2000],
      numbers: rows(`0 2|1 2
0 3|3 4
1 4|4 5
2 5|6 7
3 7|11 12
6 10|15 16
9 14|23 24
15 20|34 35
23 29|52 53`),
    },
    reduced: {
      sizes: [none, none, none, 2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200, 315, 500],
      numbers: rows(`0 2|0 2
0 3|0 4
0 4|1 5
0 4|3 6
1 5|4 7
2 7|6 9
3 8|8 12
5 10|12 16
7 12|18 22
11 17|26 30`),
    },
  },
  multiple: {
    normal: {
      sizes: multipleSizes,
      numbers: rows(`# 2|# 2|0 2|0 3|1 3|1 3|2 3
# 2|0 3|0 3|1 4|2 4|3 5|4 5
# 3|0 3|1 4|2 5|3 6|4 6|6 7
# 4|1 5|2 6|3 7|5 8|7 9|9 10
0 4|1 6|3 8|5 10|7 11|10 12|13 14
0 5|3 8|6 10|8 13|11 15|14 17|18 19
1 7|4 10|8 13|12 17|17 20|21 23|25 26
2 9|7 14|13 19|19 25|25 29|31 33|37 38
4 12|11 19|19 27|27 34|36 40|45 47|53 54
6 16|17 27|29 39|40 49|53 58|65 68|77 78`),
    },
    tightened: {
      sizes: [...multipleSizes, 800],
      numbers: rows(`# 2|# 2|0 2|0 3|1 3|1 3|2 3
# 2|0 3|0 3|1 4|2 4|3 5|4 5
# 3|0 3|1 4|2 5|3 6|4 6|6 7
# 4|1 5|2 6|3 7|5 8|7 9|9 10
0 4|2 7|4 9|6 11|9 12|12 14|14 15
0 6|3 9|7 12|10 15|14 17|18 20|21 22
1 8|6 12|11 17|16 22|22 25|27 29|32 33
3 10|10 17|17 24|24 31|32 37|40 43|48 49
6 15|16 25|26 36|37 46|49 55|61 64|72 73`),
    },
    reduced: {
      sizes: [none, none, none, none, none, 2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200],
      numbers: rows(`# 2|# 2|0 2|0 3|0 3|0 3|1 3
# 2|# 3|0 3|0 4|0 4|1 5|1 5
# 3|# 3|0 4|0 5|1 6|1 6|2 7
# 3|0 4|0 5|1 6|2 7|3 7|4 8
# 4|0 5|1 6|2 7|3 8|4 9|6 10
0 4|1 6|2 8|3 10|5 11|7 12|9 14
0 5|1 7|3 9|5 12|7 13|10 15|13 17
0 6|3 9|6 12|8 15|11 17|14 20|18 22`),
    },
  },
}

/** Reduced single plans of the rows A and B: their sample is that of a larger letter, so their numbers are too. */
export const smallReducedNumbers: Readonly<Record<'A' | 'B', Readonly<Record<number, readonly [number, number]>>>> = {
  A: { 17: [1, 2], 18: [2, 3], 19: [3, 4], 20: [5, 6], 21: [7, 8], 22: [10, 11], 23: [14, 15], 24: [21, 22], 25: [30, 31] },
  B: { 17: [0, 2], 18: [1, 3], 19: [2, 4], 20: [3, 5], 21: [5, 6], 22: [7, 8], 23: [10, 11], 24: [14, 15], 25: [21, 22], 26: [30, 31] },
}
