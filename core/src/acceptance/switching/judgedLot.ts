import type { LineFinding } from '../finding/finding'
import { chanceOfRecorded } from '../replay/replayChance'
import type { SamplingRule } from '../rules/samplingRule'
import { attributePlanFor } from '../tables/attributePlans'
import { fullAqlSeries } from '../tables/attributeTables'
import { codeLetterFor } from '../tables/codeLetters'
import type { JudgedLot } from './switching'

export type SchemeRule = SamplingRule & { readonly kind: 'attributesScheme' }

/** Would the lot have been accepted had the AQL been one step tighter? What the tighter plan's sample has beyond the recorded one is estimated. */
function isAcceptedTighter(rule: SchemeRule, lotSize: number, { inspected, nonconforming }: LineFinding): boolean {
  const tighter = fullAqlSeries[fullAqlSeries.findIndex((aql) => aql === rule.aqlPercent) - 1]
  if (tighter === undefined) return false
  const plan = attributePlanFor(codeLetterFor(lotSize, rule.level), tighter, 'normal', 'single', rule.counting)
  const [{ sampleSize, accept }] = plan.stages as [AttributeStage]
  const most = accept ?? 0
  const size = Math.min(sampleSize, lotSize)
  if (size <= inspected && nonconforming <= most) return true
  if (rule.counting === 'nonconformities') return nonconforming <= most
  return chanceOfRecorded([{ sampleSize: size, accept: most, reject: most + 1 }], inspected, nonconforming).accepted >= 0.5
}
type AttributeStage = ReturnType<typeof attributePlanFor>['stages'][number]

/**
 * A lot as the switching rules see it, from what was found on a line of it. Null where the line was not judged: it says nothing.
 * Shape: rule, whole lot size, LineFinding → JudgedLot. Source: MIL-STD-105E, 4.7; ISO 2859-1:1999, 9.3.3.2 (double and multiple plans:
 * accepted early on the first sample, the third of a multiple plan).
 * @throws {CoreError} `lot_size_invalid`, `aql_not_in_series`.
 */
export function judgedLotOf(rule: SchemeRule, lotSize: number, line: LineFinding): JudgedLot | null {
  if (line.verdict === 'notJudged') return null
  const { because } = line
  const stage = because.kind === 'counted' ? because.stage : null
  return {
    isAccepted: line.verdict === 'acceptable',
    accept: line.accept,
    isInGap: because.kind === 'counted' && because.returnsToNormal,
    isAcceptedEarly: stage !== null && stage <= (rule.form === 'multiple' ? 3 : 1),
    isAcceptedTighter: isAcceptedTighter(rule, lotSize, line),
  }
}
