import { attributePlanFor, type Counting } from '../tables/attributePlans'
import { fullAqlSeries, type Severity } from '../tables/attributeTables'
import { codeLetterFor, type InspectionLevel } from '../tables/codeLetters'
import { chanceOfRecorded } from '../replay/replayChance'
import type { Stage } from '../plans/stagedPlan'
import { switching, type JudgedLot, type SwitchingOptions, type SwitchStep } from './switching'

/** A recorded lot as the switching rules see it. */
export interface RecordedLot {
  readonly quantity: number
  /** Pieces recorded, and nonconforming ones among them. */
  readonly recorded: number
  readonly found: number
}

export interface SwitchingScheme {
  readonly level: InspectionLevel
  readonly aqlPercent: number
  readonly counting?: Counting | undefined
}

export interface SwitchedLot extends SwitchStep {
  readonly judged: JudgedLot
}

/**
 * A lot under the plan in force: accepted when the sample of that plan, drawn from what was recorded and estimated beyond it, is likelier
 * to pass than not. Counts are never held against the number of a sample of another size.
 */
function judge(scheme: SwitchingScheme, lot: RecordedLot, severity: Severity): JudgedLot {
  const letter = codeLetterFor(lot.quantity, scheme.level)
  const planFor = (aqlPercent: number) => {
    const plan = attributePlanFor(letter, aqlPercent, severity, 'single', scheme.counting).stages[0] as Stage
    // A plan larger than the lot means every piece.
    return { ...plan, sampleSize: Math.min(plan.sampleSize, lot.quantity) }
  }
  const passes = (stage: Stage, most: number) =>
    chanceOfRecorded([{ ...stage, accept: most, reject: most + 1 }], lot.recorded, lot.found).accepted >= 0.5
  const stage = planFor(scheme.aqlPercent)
  const accept = stage.accept ?? 0
  const isAccepted = passes(stage, stage.reject - 1)
  const tighter = fullAqlSeries[fullAqlSeries.findIndex((aql) => aql === scheme.aqlPercent) - 1]
  return {
    isAccepted,
    isInGap: isAccepted && !passes(stage, accept),
    isAcceptedTighter: tighter !== undefined && passes(planFor(tighter), planFor(tighter).accept ?? 0),
    accept,
  }
}

/**
 * Recorded lots, in the order of their arrival, run through the switching rules: each is judged under the inspection that the ones
 * before it led to. Its time grows with the number of lots and no faster.
 * Shape: RecordedLot[] → SwitchedLot[] of the same length. Source: MIL-STD-105E, 4.7 and 4.8; score ISO 2859-1:1999, 9.3.3.2.
 * @throws {CoreError} as `codeLetterFor`, `attributePlanFor`.
 */
export function switchingHistory(lots: readonly RecordedLot[], scheme: SwitchingScheme, options: SwitchingOptions): SwitchedLot[] {
  const next = switching(options)
  let state = options.start === 'reduced' && !options.allowsReduced ? 'normal' : (options.start ?? 'normal')
  return lots.map((lot) => {
    const judged = judge(scheme, lot, state === 'discontinued' ? 'tightened' : state)
    const step = next(judged)
    state = step.next
    return { ...step, judged }
  })
}
