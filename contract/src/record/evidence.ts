import { z } from 'zod'
import { Id, Instant, words } from '../wire/endpoint'

const Place = z.strictObject({ x: z.int(), y: z.int() })

/** What was said of a piece, a line or the inspection beyond its answers: a fault, words, a file, a place on a picture. */
export const Evidence = z.strictObject({
  id: Id,
  lineId: Id.nullable(),
  piece: z.int().nullable(),
  faultCode: z.string().nullable(),
  faultName: z.string().nullable(),
  count: z.int().nullable(),
  words: z.string(),
  document: z.strictObject({ id: Id, name: z.string(), mediaType: z.string() }).nullable(),
  /** Where on the picture, in thousandths of its width and height. */
  place: Place.nullable(),
  at: Instant,
  byName: z.string(),
})
export type Evidence = z.infer<typeof Evidence>

export const EvidenceInput = z.strictObject({
  /** Null: of the inspection as a whole. */
  lineId: Id.nullable(),
  /** Null: of the line as a whole. */
  piece: z.int('write a whole number').nullable(),
  faultCode: z.string().max(40).nullable(),
  count: z.int('write a whole number').nullable(),
  words: words(1000, 0),
  documentId: Id.nullable(),
  place: Place.nullable(),
})
export type EvidenceInput = z.infer<typeof EvidenceInput>
