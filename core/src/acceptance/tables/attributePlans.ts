import { CoreError } from '../../errors'
import {
  attributeTables,
  diagonals,
  fullAqlSeries,
  largeLetters,
  lastDiagonalBelowF,
  lastDiagonalFromF,
  smallReducedNumbers,
  type Numbers,
  type Severity,
  type StageForm,
} from './attributeTables'
import { codeLetters, type CodeLetter } from './codeLetters'
import type { Stage } from '../plans/stagedPlan'

export const countings = ['nonconforming', 'nonconformities'] as const
/** Per cent nonconforming, or nonconformities per 100 units. */
export type Counting = (typeof countings)[number]

/** A letter of the tables; S stands for the one tightened plan below R. */
export type TableLetter = CodeLetter | 'S'

export interface AttributePlan {
  readonly codeLetter: TableLetter
  readonly severity: Severity
  /** The form that was found; tables of double and multiple plans send small letters and accept-on-zero to the single plan. */
  readonly form: StageForm
  readonly stages: readonly Stage[]
  /** The letter that the arrows were followed from, when they were. */
  readonly arrowFrom: CodeLetter | null
}

const letterAt = (index: number): TableLetter => codeLetters[index] ?? 'S'

/**
 * Place of an AQL in the series.
 * @throws {CoreError} `aql_not_in_series` (names the neighbours), also for an AQL above 10 that is meant as per cent.
 */
export function aqlIndex(aql: number, counting: Counting): number {
  const index = fullAqlSeries.findIndex((known) => known === aql)
  const isTooLarge = counting === 'nonconforming' && aql > 10
  if (index >= 0 && !isTooLarge) return index
  const known = counting === 'nonconforming' ? fullAqlSeries.filter((value) => value <= 10) : fullAqlSeries
  const above = known.find((value) => value > aql) ?? null
  const below = known.findLast((value) => value < aql) ?? null
  const unit = counting === 'nonconforming' ? ' %' : ' per 100 units'
  throw new CoreError(
    'aql_not_in_series',
    isTooLarge && index >= 0
      ? `An AQL of ${aql} counts nonconformities per 100 units. Per cent nonconforming goes up to 10 %.`
      : `An AQL of ${aql}${unit} is not in the series of MIL-STD-105E. ${[below, above].filter((near) => near !== null).join(`${unit} or `)}${unit} is the nearest.`,
    { received: aql, below, above, field: 'aqlPercent' },
  )
}

type Cell = Numbers | 'zero' | 'up' | 'down'

/** One cell of a single-sampling table: its numbers, or where its arrow points. */
function singleCell(letter: number, aql: number, severity: Severity): Cell {
  const diagonal = letter + aql
  const { zero, up, first } = diagonals[severity]
  const lastLetter = codeLetters.length - 1
  if (diagonal < zero) return 'down'
  if (diagonal === zero) return 'zero'
  if (letter > lastLetter) return attributeTables.single[severity].numbers[diagonal - first] ?? 'up'
  if (diagonal === up) return letter === 0 ? 'down' : 'up'
  if (diagonal < first) {
    // The last row has nothing below it, save for the one plan of letter S in the tightened table.
    const isAboveS = severity === 'tightened' && diagonal === first - 1
    return letter === lastLetter && !isAboveS ? 'up' : 'down'
  }
  if (diagonal > (letter < largeLetters ? lastDiagonalBelowF : lastDiagonalFromF)) return 'up'
  if (severity === 'reduced' && letter < 2) {
    const numbers = smallReducedNumbers[letter === 0 ? 'A' : 'B'][diagonal]
    return numbers ? [numbers] : 'up'
  }
  return attributeTables.single[severity].numbers[diagonal - first] ?? 'up'
}

function stagesOf(size: number, numbers: Numbers): readonly Stage[] {
  return numbers.map(([accept, reject]) => ({ sampleSize: size, accept, reject }))
}

/** The wished form where the tables have it, else the next simpler one. */
function inForm(form: StageForm, severity: Severity, letter: number, diagonal: number): { form: StageForm; stages: readonly Stage[] } | null {
  const table = attributeTables[form][severity]
  const size = table.sizes[letter]
  const numbers = table.numbers[diagonal - diagonals[severity].first]
  return typeof size === 'number' && numbers ? { form, stages: stagesOf(size, numbers) } : null
}

/**
 * The plan of MIL-STD-105E for a code letter and an AQL. Arrows are followed to the first plan above or below, with its own sample size.
 * Shape: letter, AQL in per cent (or per 100 units), severity, wished form → AttributePlan.
 * Source: MIL-STD-105E, Tables II-A to C, III-A to C, IV-A to C.
 * @throws {CoreError} `aql_not_in_series`.
 */
export function attributePlanFor(
  codeLetter: CodeLetter,
  aql: number,
  severity: Severity = 'normal',
  form: StageForm = 'single',
  counting: Counting = 'nonconforming',
): AttributePlan {
  const column = aqlIndex(aql, counting)
  const start = codeLetters.indexOf(codeLetter)
  let row = start
  let cell = singleCell(row, column, severity)
  while (cell === 'up' || cell === 'down') {
    row += cell === 'up' ? -1 : 1
    cell = singleCell(row, column, severity)
  }
  const found = { codeLetter: letterAt(row), severity, arrowFrom: row === start ? null : codeLetter }
  const singleSize = attributeTables.single[severity].sizes[row] as number
  if (cell === 'zero') return { ...found, form: 'single', stages: [{ sampleSize: singleSize, accept: 0, reject: 1 }] }
  const diagonal = row + column
  const staged =
    (form === 'multiple' ? inForm('multiple', severity, row, diagonal) : null) ??
    (form !== 'single' ? inForm('double', severity, row, diagonal) : null)
  return { ...found, ...(staged ?? { form: 'single', stages: stagesOf(singleSize, cell) }) }
}
