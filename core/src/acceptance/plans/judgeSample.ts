import { CoreError } from '../../errors'
import { checkStages, type Stage } from './stagedPlan'

export interface SampleSoFar {
  /** Pieces looked at so far, over all stages. */
  readonly inspected: number
  /** Nonconforming pieces (or nonconformities) found so far. */
  readonly found: number
}

export interface SampleJudgement {
  readonly verdict: 'accept' | 'notAccept' | 'goOn'
  /** Stage that the count stands in, from 1. */
  readonly stage: number
  /** Pieces still to look at until this stage is complete; 0 once it is decided. */
  readonly stillNeeded: number
  /** True when the result stands before the stage is complete: no further piece can change it. */
  readonly isEarly: boolean
  /** Accepted on a count in the gap of a reduced plan: normal inspection comes back. Null while the lot is sure to pass but this is not. */
  readonly returnsToNormal: boolean | null
  /** Fewest further pieces after which the result could be certain, if all of them conform (accept) or none does (not accept). */
  readonly soonestAccept: number | null
  readonly soonestNotAccept: number | null
}

/**
 * What the counts so far say: accept, not accept, or go on. Curtailed where the result is certain.
 * Shape: Stage[], counts → SampleJudgement. Source: MIL-STD-105E, 4.10 to 4.12; curtailment by definition.
 * @throws {CoreError} as `checkStages`, `quantity_invalid` (counts that cannot be).
 */
export function judgeSample(stages: readonly Stage[], { inspected, found }: SampleSoFar, isPerUnit = false): SampleJudgement {
  checkStages(stages)
  const total = stages.reduce((sum, stage) => sum + stage.sampleSize, 0)
  const isWhole = Number.isSafeInteger(inspected) && Number.isSafeInteger(found) && inspected >= 0 && found >= 0
  if (!isWhole || inspected > total || (!isPerUnit && found > inspected)) {
    throw new CoreError(
      'quantity_invalid',
      `Received ${found} found in ${inspected} inspected; the plan looks at ${total} at most, and no piece counts twice.`,
      {
        inspected,
        found,
        total,
      },
    )
  }
  let end = 0
  for (const [i, { sampleSize, accept, reject }] of stages.entries()) {
    end += sampleSize
    // With pieces of the next stage looked at, this one let the sample go on.
    if (inspected > end) continue
    const isLast = i === stages.length - 1
    const top = isLast ? reject - 1 : (accept ?? -1)
    const left = end - inspected
    const base = { stage: i + 1, returnsToNormal: false, soonestAccept: null, soonestNotAccept: null, stillNeeded: 0 }
    if (found >= reject) return { ...base, verdict: 'notAccept', isEarly: left > 0 }
    // Every piece still to come could be nonconforming, and the count would still pass. Nonconformities have no such bound.
    const worst = isPerUnit && left > 0 ? Infinity : found + left
    if (worst <= top) {
      const isInGap = found > (accept ?? -1)
      return {
        ...base,
        verdict: 'accept',
        isEarly: left > 0,
        returnsToNormal: isLast ? (isInGap || worst <= (accept ?? -1) ? isInGap : null) : false,
      }
    }
    if (left > 0) {
      return { ...base, verdict: 'goOn', stillNeeded: left, isEarly: false, ...soonest(stages, i, left, found, isPerUnit) }
    }
  }
  throw new CoreError('stages_shrink', 'The last stage decides on no count.', {})
}

/**
 * Fewest further pieces to a certain result: to acceptance if all of them conform, to the other if none does. A stage that then decides on
 * neither leads on into the next one.
 */
function soonest(
  stages: readonly Stage[],
  from: number,
  left: number,
  found: number,
  isPerUnit: boolean,
): Pick<SampleJudgement, 'soonestAccept' | 'soonestNotAccept'> {
  let soonestAccept: number | null = null
  let soonestNotAccept: number | null = null
  let pieces = 0
  let worst = found
  for (let i = from; i < stages.length; i++) {
    const { sampleSize, accept, reject } = stages[i] as Stage
    const rest = i === from ? left : sampleSize
    const top = i === stages.length - 1 ? reject - 1 : (accept ?? -1)
    if (soonestAccept === null && found <= top) soonestAccept = pieces + (isPerUnit ? rest : Math.max(1, rest - (top - found)))
    if (soonestNotAccept === null && worst !== Infinity) {
      // One unit can hold as many nonconformities as there are.
      const missing = isPerUnit ? 1 : reject - worst
      if (missing <= rest) soonestNotAccept = pieces + missing
      else {
        worst += rest
        // None conforms, and the stage accepts all the same: this way there is no refusal.
        if (worst <= top) worst = Infinity
      }
    }
    pieces += rest
  }
  return { soonestAccept, soonestNotAccept }
}
