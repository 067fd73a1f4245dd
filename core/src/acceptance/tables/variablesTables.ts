import { CoreError } from '../../errors'
import { checkLotSize } from '../../numeric/lotSize'

export const variablesLevels = ['I', 'II', 'III', 'IV', 'V'] as const
export type VariablesLevel = (typeof variablesLevels)[number]

/** AQLs of MIL-STD-414, per cent. */
export const variablesAqlSeries = [0.04, 0.065, 0.1, 0.15, 0.25, 0.4, 0.65, 1, 1.5, 2.5, 4, 6.5, 10, 15] as const

/** MIL-STD-414, Table A-2: largest lot of the row, then the letters of the levels I to V. From memory. */
const letterRows: readonly (readonly [number, string])[] = [
  [8, 'BBBBC'],
  [15, 'BBBBD'],
  [25, 'BBBCE'],
  [40, 'BBBDF'],
  [65, 'BBCEG'],
  [110, 'BBDFH'],
  [180, 'BCEGI'],
  [300, 'BDFHJ'],
  [500, 'CEGIK'],
  [800, 'DFHJL'],
  [1_300, 'EGIKL'],
  [3_200, 'FHJLM'],
  [8_000, 'GILMN'],
  [22_000, 'HJMNO'],
  [110_000, 'IKNOP'],
  [550_000, 'IKOPQ'],
  [Infinity, 'IKPQQ'],
]

/** MIL-STD-414, Table B-1 (s-method, one limit, k-form, normal inspection): n and k, right-aligned to an AQL of 15 %. From memory. */
const rows: Readonly<Record<string, readonly [number, string]>> = {
  B: [3, '1.12 .958 .765 .566 .341'],
  C: [4, '1.45 1.34 1.17 1.01 .814 .617 .393'],
  D: [5, '1.65 1.53 1.40 1.24 1.07 .874 .675 .455'],
  E: [7, '2.00 1.88 1.75 1.62 1.50 1.33 1.15 .955 .755 .536'],
  F: [10, '2.24 2.11 1.98 1.84 1.72 1.58 1.41 1.23 1.03 .828 .611'],
  G: [15, '2.64 2.53 2.42 2.32 2.20 2.06 1.91 1.79 1.65 1.47 1.30 1.09 .886 .664'],
  H: [20, '2.69 2.58 2.47 2.36 2.24 2.11 1.96 1.82 1.69 1.51 1.33 1.12 .917 .695'],
  I: [25, '2.72 2.61 2.50 2.40 2.26 2.14 1.98 1.85 1.72 1.53 1.35 1.14 .936 .712'],
  J: [30, '2.73 2.61 2.51 2.41 2.28 2.15 2.00 1.86 1.73 1.55 1.36 1.15 .946 .723'],
  K: [35, '2.77 2.65 2.54 2.45 2.31 2.18 2.03 1.89 1.76 1.57 1.39 1.18 .969 .745'],
  L: [40, '2.77 2.66 2.55 2.44 2.31 2.18 2.03 1.89 1.76 1.58 1.39 1.18 .971 .746'],
  M: [50, '2.83 2.71 2.60 2.50 2.35 2.22 2.08 1.93 1.80 1.61 1.42 1.21 1.00 .774'],
  N: [75, '2.90 2.77 2.66 2.55 2.41 2.27 2.12 1.98 1.84 1.65 1.46 1.24 1.03 .804'],
  O: [100, '2.92 2.80 2.69 2.58 2.43 2.29 2.14 2.00 1.86 1.67 1.48 1.26 1.05 .819'],
  P: [150, '2.96 2.84 2.73 2.61 2.47 2.33 2.18 2.03 1.89 1.70 1.51 1.29 1.07 .841'],
  Q: [200, '2.97 2.85 2.73 2.62 2.47 2.33 2.18 2.04 1.89 1.70 1.51 1.29 1.07 .845'],
}
const letters = Object.keys(rows)

export interface VariablesTablePlan {
  readonly codeLetter: string
  readonly sampleSize: number
  readonly k: number
  readonly arrowFrom: string | null
}

/** Code letter for a lot. Source: MIL-STD-414, Table A-2. A lot of one or two is read in the first row. @throws {CoreError} `lot_size_invalid`. */
export function variablesLetterFor(lotSize: number, level: VariablesLevel): string {
  checkLotSize(lotSize)
  return letterRows.find(([largest]) => lotSize <= largest)?.[1].charAt(variablesLevels.indexOf(level)) ?? 'Q'
}

/**
 * Plan by variables, variability unknown, s-method, k-form. Tightened inspection reads the column of the next smaller AQL.
 * Arrows lead down to the first plan below, with its own sample size.
 * Source: MIL-STD-414, Table B-1.
 * @throws {CoreError} `aql_not_in_series`, `plan_not_tabulated` (tightened at the smallest AQL).
 */
export function variablesPlanFor(codeLetter: string, aqlPercent: number, severity: 'normal' | 'tightened' = 'normal'): VariablesTablePlan {
  const column = variablesAqlSeries.findIndex((known) => known === aqlPercent)
  if (column < 0) {
    const above = variablesAqlSeries.find((known) => known > aqlPercent) ?? null
    const below = variablesAqlSeries.findLast((known) => known < aqlPercent) ?? null
    throw new CoreError(
      'aql_not_in_series',
      `An AQL of ${aqlPercent} % is not in the series of MIL-STD-414. ${[below, above].filter((near) => near !== null).join(' % or ')} % is the nearest.`,
      { received: aqlPercent, below, above, field: 'aqlPercent' },
    )
  }
  const read = severity === 'tightened' ? column - 1 : column
  if (read < 0) {
    throw new CoreError('plan_not_tabulated', 'MIL-STD-414 has no tightened plan for an AQL of 0.04 %. Choose 0.065 % or more.', {
      aqlPercent,
      severity,
      field: 'aqlPercent',
    })
  }
  if (!(letters as readonly string[]).includes(codeLetter)) {
    throw new CoreError('plan_not_tabulated', `Received the letter "${codeLetter}". MIL-STD-414 has plans for ${letters[0]} to ${letters.at(-1)}.`, {
      received: codeLetter,
      field: 'codeLetter',
    })
  }
  for (let i = letters.indexOf(codeLetter); i < letters.length; i++) {
    const letter = letters[i] as string
    const [sampleSize, text] = rows[letter] as readonly [number, string]
    const ks = text.split(' ')
    const k = ks[read - (variablesAqlSeries.length - ks.length)]
    if (k !== undefined) return { codeLetter: letter, sampleSize, k: Number(k), arrowFrom: letter === codeLetter ? null : codeLetter }
  }
  throw new CoreError('plan_not_tabulated', `Code letter ${codeLetter} is not in MIL-STD-414.`, { codeLetter })
}
