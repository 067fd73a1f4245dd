import { answerPlaceWords, spotExtentOf, type AnswerPlace, type Moment, type WhenConforming } from '@nemawashi/core'

/** What follows from the finding of a control point, one thing a line; nothing is said of what is usual. */
export function followsWords(point: {
  readonly moment: Moment
  readonly answeredAt: AnswerPlace
  readonly whenConforming: WhenConforming
  readonly followPlanName: string | null
  readonly setsAside: boolean
}): string[] {
  return [
    point.answeredAt === 'bench' ? '' : `answered ${answerPlaceWords(point.answeredAt, spotExtentOf(point.moment))}`,
    point.whenConforming === 'free' ? 'what is accepted is released at once' : '',
    point.setsAside ? 'nonconforming pieces are segregated' : '',
    point.followPlanName === null ? '' : `a failure asks for ${point.followPlanName}`,
  ].filter(Boolean)
}
