import { answerVerdicts, bandBases, characteristicKinds, noteTypes } from '@nemawashi/core'
import { z } from 'zod'
import { Id } from '../wire/endpoint'

/** Code of a class from the list that the user keeps; critical, major and minor to begin with. */
export const ClassCode = z.string().trim().min(1).max(40)
const Decimal = z.string().max(40)
const Words = z.string().trim().max(2000)

export const MarginalBand = z.strictObject({
  side: z.enum(['inside', 'outside']),
  width: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('amount'), amount: Decimal }),
    z.strictObject({ kind: z.literal('percentage'), percent: Decimal, base: z.enum(bandBases) }),
  ]),
  countsAsConforming: z.boolean(),
})

export const ListAnswer = z.strictObject({
  code: z.string().trim().min(1).max(12),
  words: z.string().trim().min(1).max(120),
  verdict: z.enum(answerVerdicts),
  /** A plan that this answer asks for in addition. */
  followUpPlanId: Id.nullable().default(null),
})
export type ListAnswer = z.infer<typeof ListAnswer>

/** What belongs to one kind of characteristic only, and what few of them have. */
export const CharacteristicDetails = z.strictObject({
  /** The tolerance as it was typed, e.g. `25 H7`. */
  typed: z.string().max(80).nullable().default(null),
  band: MarginalBand.nullable().default(null),
  /** Place to round to before comparing (ASTM E29, rounding method); null compares the reading as it stands. */
  rounding: Decimal.nullable().default(null),
  recording: z.enum(['pieces', 'summary']).default('pieces'),
  answerListId: Id.nullable().default(null),
  answers: z.array(ListAnswer).max(40).default([]),
  faultCodes: z.array(z.string().trim().min(1).max(20)).max(60).default([]),
  countUnit: z.string().trim().max(40).nullable().default(null),
  noteType: z.enum(noteTypes).nullable().default(null),
  gaugeKind: z.string().trim().max(80).nullable().default(null),
  minutesPerPiece: z.number().min(0).max(10_000).nullable().default(null),
  responsible: z.string().trim().max(80).nullable().default(null),
  adviceOnFailure: Words.default(''),
  /** Whether a plan may set its own target and limits on a line. */
  isAdaptable: z.boolean().default(true),
  documentIds: z.array(Id).max(20).default([]),
})
export type CharacteristicDetails = z.infer<typeof CharacteristicDetails>

export const noDetails: CharacteristicDetails = CharacteristicDetails.parse({})

export const CharacteristicFields = z.strictObject({
  name: z.string().trim().min(1).max(120),
  kind: z.enum(characteristicKinds),
  class: ClassCode,
  method: Words,
  instruction: Words,
  nominal: Decimal.nullable(),
  lower: Decimal.nullable(),
  upper: Decimal.nullable(),
  unit: z.string().max(20).nullable(),
  resolution: Decimal.nullable(),
  acceptableState: Words.nullable(),
  details: CharacteristicDetails.default(noDetails),
})
export type CharacteristicFields = z.infer<typeof CharacteristicFields>
