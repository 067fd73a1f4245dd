import { attributePlanFor, type TableLetter } from './attributePlans'
import type { CodeLetter } from './codeLetters'

/** AQLs for percent nonconforming, MIL-STD-105E, Table II-A (those above 10 count nonconformities per 100 units only). */
export const aqlSeries = [0.01, 0.015, 0.025, 0.04, 0.065, 0.1, 0.15, 0.25, 0.4, 0.65, 1, 1.5, 2.5, 4, 6.5, 10] as const

export interface SinglePlan {
  readonly codeLetter: TableLetter
  readonly sampleSize: number
  readonly accept: number
  readonly reject: number
  /** The letter that the arrows were followed from, when they were. */
  readonly arrowFrom: CodeLetter | null
}

/**
 * Single plan, normal inspection. Source: MIL-STD-105E, Table II-A.
 * @throws {CoreError} `aql_not_in_series` (names the neighbours in the series).
 */
export function singlePlanFor(codeLetter: CodeLetter, aqlPercent: number): SinglePlan {
  const { stages, ...plan } = attributePlanFor(codeLetter, aqlPercent)
  const [{ sampleSize, accept, reject }] = stages as [{ sampleSize: number; accept: number; reject: number }]
  return { codeLetter: plan.codeLetter, arrowFrom: plan.arrowFrom, sampleSize, accept, reject }
}
