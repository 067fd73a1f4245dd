import type { AnswerPlace } from './consequence'
import type { Moment, OperationKind } from './moments'

/** Who stands beside the goods where a control point asks. */
export const spotAnswerers = ['receivingClerk', 'productionOperator'] as const
export type SpotAnswerer = (typeof spotAnswerers)[number]

/** What may be answered on the spot: quick questions alone, with yes or no; or any line, as at the bench. */
export type SpotExtent = 'quick' | 'any'

/**
 * What may be answered on the spot where goods arrive or a step runs; null: nothing. Whoever receives has a vehicle waiting, and is asked what an
 * eye can answer; the operator measures what the own step makes (self-inspection, common practice).
 */
export function onSpotAt(kind: OperationKind, moment: Moment): SpotExtent | null {
  if (kind === 'production') return 'any'
  return kind === 'receiving' && spotExtentOf(moment) === 'quick' ? 'quick' : null
}

/** How far it goes where something is answered on the spot: the moment tells arriving goods from a step. */
export function spotExtentOf(moment: Moment): SpotExtent {
  return moment === 'arrival' ? 'quick' : 'any'
}

/** Who, beside those at the bench, records what a control point of an operation asks; null: nobody. */
export function spotAnswererOf(kind: OperationKind, answeredAt: AnswerPlace): SpotAnswerer | null {
  if (answeredAt !== 'spot') return null
  return kind === 'production' ? 'productionOperator' : kind === 'receiving' ? 'receivingClerk' : null
}

const onSpotWords: Readonly<Record<SpotExtent, string>> = {
  quick: 'on the spot by whoever receives (quick question)',
  any: 'at the step by its operator (self-inspection)',
}

/** Where a control point is answered, in words: `at the step by its operator (self-inspection)`. */
export function answerPlaceWords(place: AnswerPlace, extent: SpotExtent): string {
  return place === 'bench' ? 'at the bench' : onSpotWords[extent]
}
