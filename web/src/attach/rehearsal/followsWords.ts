import { answerPlaceWords, spotExtentOf, type AnswerPlace, type Moment, type WhenConforming } from '@nemawashi/core'

/** What follows from the finding of a control point, one thing a line; nothing is said of what is usual. */
export function followsWords(of: {
  readonly moment: Moment
  readonly answeredAt: AnswerPlace
  readonly whenConforming: WhenConforming
  readonly followPlanName: string | null
  readonly setsAside: boolean
}): string[] {
  return [
    of.answeredAt === 'bench' ? '' : `answered ${answerPlaceWords(of.answeredAt, spotExtentOf(of.moment))}`,
    of.whenConforming === 'free' ? 'what conforms is free at once' : '',
    of.setsAside ? 'nonconforming pieces are set aside' : '',
    of.followPlanName === null ? '' : `a failure asks for ${of.followPlanName}`,
  ].filter(Boolean)
}
