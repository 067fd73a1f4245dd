import { judgeSample } from '../plans/judgeSample'
import type { Counting } from '../tables/attributePlans'
import { judgeLine, stagesOf, type LineMarks } from './finding'

/** The result of a line that no answer to come can change, and what it rests on. */
export interface Certainty {
  readonly verdict: 'acceptable' | 'notAcceptable'
  readonly nonconforming: number
  readonly counting: Counting
  /** Pieces of the sample, or of the stage that it stands in, that were not answered. */
  readonly blank: number
  readonly accept: number | null
  readonly reject: number
  /** Of a plan of several stages. */
  readonly stage: number | null
}

/**
 * Whether a line that still has blanks is certain already: as many are found as refuse it, or so few pieces are left that it cannot be refused
 * any more. Null while an answer can change it, where nothing is left to answer, and by variables, where every value moves the result; a
 * decisive line is refused by its first nonconforming piece all the same. Source: `judgeSample` (curtailment by definition).
 * @throws {CoreError} as `judgeSample`.
 */
export function certainLine(line: LineMarks): Certainty | null {
  const { verdict, blank, inspected, nonconforming, counting, accept } = judgeLine(line)
  if (line.summary || line.isStopped || blank === 0 || (verdict !== 'notJudged' && line.isRequired)) return null
  if (line.variables && !(line.isDecisive && nonconforming > 0)) return null
  const staged = stagesOf(line)
  const stages = staged ?? [{ sampleSize: line.sampleSize, accept, reject: accept + 1 }]
  const judged = judgeSample(stages, { inspected, found: nonconforming }, counting === 'nonconformities')
  const at = stages[judged.stage - 1]
  if (judged.verdict === 'goOn' || !judged.isEarly || at === undefined) return null
  // What another plan asks of the same pieces may still refuse it.
  if (judged.verdict === 'accept' && (line.also?.length ?? 0) > 0) return null
  return {
    verdict: judged.verdict === 'accept' ? 'acceptable' : 'notAcceptable',
    nonconforming,
    counting,
    blank,
    accept: at.accept,
    reject: at.reject,
    stage: stages.length > 1 ? judged.stage : null,
  }
}

/** The arithmetic of a certain line in a sentence, without the line's name. */
export function describeCertainty({ verdict, nonconforming, counting, blank, accept, reject, stage }: Certainty): string {
  const place = stage === null ? '' : `stage ${stage}: `
  const limit = verdict === 'acceptable' && accept !== null ? `Ac ${accept}` : `Re ${reject}`
  const result = verdict === 'acceptable' ? 'acceptable' : 'not acceptable'
  return `${place}${nonconforming} ${counting}, ${limit}, ${blank} not answered yet → certainly ${result}, whatever ${blank === 1 ? 'it is' : 'they are'}`
}
