import { inspectionStates, placePurposes, standings } from '@nemawashi/core'
import { z } from 'zod'
import { Id } from '../wire/endpoint'

export const InspectionState = z.enum(inspectionStates)
export const verdicts = ['acceptable', 'notAcceptable', 'notJudged'] as const

/** The pieces of a lot that operation events set apart: the ids of the events, joined with "/"; empty for the rest of the lot. */
export const Sublot = z.string().max(2000)

export const BalanceRow = z.strictObject({
  containerId: Id.nullable(),
  containerLabel: z.string().nullable(),
  placeId: Id,
  placeName: z.string(),
  placePurpose: z.enum(placePurposes),
  standing: z.enum(standings),
  /** Which of the lot's pieces they are; see `Sublot`. */
  sublot: Sublot,
  /** The number of what set them apart from the rest of the lot: a dispatch, a return, a transfer; null where nothing did. */
  sublotCode: z.string().nullable(),
  quantity: z.int(),
  /** What the plant calls it more finely; null where it does not. */
  finer: z.string().nullable(),
})
export type BalanceRow = z.infer<typeof BalanceRow>
