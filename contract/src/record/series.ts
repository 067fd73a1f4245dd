import { z } from 'zod'
import { Id, Instant } from '../wire/endpoint'

/** How many values of a series are given at once, the latest ones. */
export const maxSeriesValues = 1000

/** The values that a line's go on with: of its characteristic, on its part, where it is measured. */
export const LineSeries = z.strictObject({
  values: z
    .array(z.strictObject({ number: z.number(), takenAt: Instant, piece: z.int(), inspectionId: Id, code: z.string() }))
    .describe(`The last ${maxSeriesValues} values in order of time, as last corrected, without those of cancelled inspections`),
  total: z.int().describe('How many values the series has in this unit'),
})
export type LineSeries = z.infer<typeof LineSeries>
