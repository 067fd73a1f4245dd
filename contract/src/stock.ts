import { inspectionStates, standings } from '@nemawashi/core'
import { z } from 'zod'
import { Id } from './endpoint'

export const InspectionState = z.enum(inspectionStates)
export const verdicts = ['acceptable', 'notAcceptable', 'notJudged'] as const

export const BalanceRow = z.strictObject({
  containerId: Id.nullable(),
  containerLabel: z.string().nullable(),
  placeId: Id,
  placeName: z.string(),
  standing: z.enum(standings),
  quantity: z.int(),
  /** What the plant calls it more finely; null where it does not. */
  finer: z.string().nullable(),
})
export type BalanceRow = z.infer<typeof BalanceRow>
