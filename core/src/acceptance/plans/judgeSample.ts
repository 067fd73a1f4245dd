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
  const { stage, end } = stageAt(stages, inspected, found)
  const left = end - inspected
  const base = { stage: stage + 1, isEarly: left > 0, returnsToNormal: false, soonestAccept: null, soonestNotAccept: null, stillNeeded: 0 }
  const can = outcomes(stages, stage, left, found, isPerUnit)
  if (!can.accept && !can.acceptInGap) return { ...base, verdict: 'notAccept' }
  if (!can.notAccept) return { ...base, verdict: 'accept', returnsToNormal: can.accept && can.acceptInGap ? null : can.acceptInGap }
  return { ...base, verdict: 'goOn', isEarly: false, stillNeeded: left, ...soonest(stages, stage, left, found, isPerUnit) }
}

/** The stage that so many pieces stand in, from 0, and how many there are at its end. A stage that is complete and went on leads into the next. */
function stageAt(stages: readonly Stage[], inspected: number, found: number): { stage: number; end: number } {
  let end = 0
  for (const [stage, { sampleSize, accept, reject }] of stages.entries()) {
    end += sampleSize
    const goesOn = stage < stages.length - 1 && found > (accept ?? -1) && found < reject
    if (inspected < end || (inspected === end && !goesOn)) return { stage, end }
  }
  return { stage: stages.length - 1, end }
}

/**
 * What can still come of a count, whatever the pieces to come are: all counts between the least and the most can. Nonconformities of a unit have no
 * most.
 */
function outcomes(stages: readonly Stage[], from: number, left: number, found: number, isPerUnit: boolean) {
  const can = { accept: false, acceptInGap: false, notAccept: false }
  let [least, most] = [found, found]
  for (let i = from; i < stages.length && least <= most; i++) {
    const { sampleSize, accept, reject } = stages[i] as Stage
    const rest = i === from ? left : sampleSize
    most = isPerUnit && rest > 0 ? Infinity : most + rest
    can.accept ||= least <= (accept ?? -1)
    can.notAccept ||= most >= reject
    least = Math.max(least, (accept ?? -1) + 1)
    most = Math.min(most, reject - 1)
    if (i === stages.length - 1) can.acceptInGap ||= least <= most
  }
  return can
}

/** The least of 1 … most for which something holds, where it holds for all above once it does, and for the most. */
function firstOf(most: number, holds: (m: number) => boolean): number {
  let [low, high] = [1, most]
  while (low < high) {
    const middle = Math.floor((low + high) / 2)
    if (holds(middle)) high = middle
    else low = middle + 1
  }
  return low
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
  const along = (step: number, isReached: (can: ReturnType<typeof outcomes>) => boolean) => {
    let pieces = 0
    let count = found
    for (let i = from; i < stages.length; i++) {
      const rest = i === from ? left : (stages[i] as Stage).sampleSize
      const after = (m: number) => outcomes(stages, i, rest - m, count + m * step, isPerUnit)
      if (isReached(after(rest))) return pieces + firstOf(rest, (m) => isReached(after(m)))
      const { accept, reject } = stages[i] as Stage
      count += rest * step
      pieces += rest
      // The stage ends it the other way.
      if (count >= reject || count <= (accept ?? -1)) return null
    }
    return null
  }
  const isRefused = ({ accept, acceptInGap }: ReturnType<typeof outcomes>) => !accept && !acceptInGap
  // One unit can hold as many nonconformities as there are.
  const most = Math.max(...stages.map(({ reject }) => reject))
  return { soonestAccept: along(0, ({ notAccept }) => !notAccept), soonestNotAccept: along(isPerUnit ? most : 1, isRefused) }
}
