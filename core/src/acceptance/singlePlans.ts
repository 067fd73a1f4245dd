import { CoreError } from '../errors'
import { codeLetters, type CodeLetter } from './codeLetters'

/** AQLs for percent nonconforming, MIL-STD-105E, Table II-A (those above 10 count nonconformities per 100 units only). */
export const aqlSeries = [0.01, 0.015, 0.025, 0.04, 0.065, 0.1, 0.15, 0.25, 0.4, 0.65, 1, 1.5, 2.5, 4, 6.5, 10] as const

const sampleSizes = [2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200, 315, 500, 800, 1250, 2000] as const
const acceptanceNumbers = [1, 2, 3, 5, 7, 10, 14, 21] as const

export interface SinglePlan {
  readonly codeLetter: CodeLetter
  readonly sampleSize: number
  readonly accept: number
  readonly reject: number
  /** The letter that the arrows were followed from, when they were. */
  readonly arrowFrom: CodeLetter | null
}

type Cell = number | 'up' | 'down'

/**
 * One cell of Table II-A. The table is built on diagonals: sample sizes and AQLs are both steps of about 10^(1/5),
 * so letter index + AQL index fixes n × AQL, and with it the acceptance number; the two diagonals between 0 and 1 hold the arrows.
 */
function cell(letter: number, aql: number): Cell {
  const diagonal = letter + aql
  if (diagonal < 14) return 'down'
  if (diagonal === 14) return 0
  if (diagonal === 15) return letter === 0 ? 'down' : 'up'
  if (diagonal === 16) return letter === codeLetters.length - 1 ? 'up' : 'down'
  return acceptanceNumbers[diagonal - 17] ?? 'up'
}

/**
 * Single plan, normal inspection. Arrows are followed to the first plan above or below, with its own sample size.
 * Source: MIL-STD-105E, Table II-A.
 * @throws {CoreError} `aql_not_in_series` (names the neighbours in the series).
 */
export function singlePlanFor(codeLetter: CodeLetter, aqlPercent: number): SinglePlan {
  const aql = aqlSeries.findIndex((known) => known === aqlPercent)
  if (aql < 0) {
    const above = aqlSeries.find((known) => known > aqlPercent) ?? null
    const below = aqlSeries.findLast((known) => known < aqlPercent) ?? null
    throw new CoreError(
      'aql_not_in_series',
      `An AQL of ${aqlPercent} % is not in the series of MIL-STD-105E. ${[below, above].filter((near) => near !== null).join(' % or ')} % is the nearest.`,
      { received: aqlPercent, below, above, field: 'aqlPercent' },
    )
  }
  const start = codeLetters.indexOf(codeLetter)
  let row = start
  let entry = cell(row, aql)
  while (typeof entry !== 'number') {
    row += entry === 'up' ? -1 : 1
    entry = cell(row, aql)
  }
  return {
    codeLetter: codeLetters[row] as CodeLetter,
    sampleSize: sampleSizes[row] as number,
    accept: entry,
    reject: entry + 1,
    arrowFrom: row === start ? null : codeLetter,
  }
}
