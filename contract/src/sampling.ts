import {
  aqlSeries,
  countModels,
  countings,
  inspectionLevels,
  roundings,
  severities,
  stageForms,
  variablesLevels,
  variablesMethods,
} from '@nemawashi/core'
import { z } from 'zod'

export const Stage = z.strictObject({ sampleSize: z.number(), accept: z.number().nullable(), reject: z.number() })

const points = {
  goodPercent: z.number(),
  producersRisk: z.number(),
  poorPercent: z.number(),
  consumersRisk: z.number(),
}

/** How many pieces of a lot are looked at, and what is accepted. Percentages 0–100, risks 0–1. */
export const SamplingRule = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('everyPiece'), accept: z.number() }),
  z.strictObject({ kind: z.literal('fixedNumber'), sampleSize: z.number(), accept: z.number() }),
  z.strictObject({ kind: z.literal('percentage'), percent: z.number(), rounding: z.enum(roundings), accept: z.number() }),
  z.strictObject({ kind: z.literal('squareRoot'), accept: z.number() }),
  z.strictObject({ kind: z.literal('positions'), first: z.number(), last: z.number(), every: z.number().nullable(), accept: z.number() }),
  z.strictObject({
    kind: z.literal('attributesScheme'),
    level: z.enum(inspectionLevels),
    aqlPercent: z.number().describe(`One of ${aqlSeries.join(', ')}; nonconformities per 100 units go on to 1000`),
    severity: z.enum(severities).optional(),
    form: z.enum(stageForms).optional(),
    counting: z.enum(countings).optional(),
  }),
  z.strictObject({ kind: z.literal('stages'), stages: z.array(Stage).min(1).max(20).readonly() }),
  z.strictObject({ kind: z.literal('zeroAcceptance'), limitingPercent: z.number(), consumersRisk: z.number() }),
  z.strictObject({ kind: z.literal('twoPoints'), model: z.enum(countModels), ...points }),
  z.strictObject({
    kind: z.literal('variablesScheme'),
    level: z.enum(variablesLevels),
    aqlPercent: z.number(),
    severity: z.enum(['normal', 'tightened']),
  }),
  z.strictObject({
    kind: z.literal('variablesPlan'),
    method: z.enum(variablesMethods),
    sampleSize: z.number(),
    k: z.number(),
    sigma: z.number().nullable(),
  }),
  z.strictObject({ kind: z.literal('variablesTwoPoints'), method: z.enum(variablesMethods), sigma: z.number().nullable(), ...points }),
])

/** By mean and standard deviation: what the sample of a line is judged by instead of its counts. */
/** What a line's verdict rests on; the core's `sayLine` puts it into words. */
export const LineReason = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('open'), of: z.int(), stage: z.int().nullable(), isRequired: z.boolean() }),
  z.strictObject({ kind: z.literal('noted'), count: z.int() }),
  z.strictObject({
    kind: z.literal('counted'),
    stage: z.int().nullable(),
    accept: z.int().nullable(),
    reject: z.int().nullable(),
    returnsToNormal: z.boolean(),
  }),
  z.strictObject({
    kind: z.literal('measured'),
    method: z.enum(variablesMethods),
    mean: z.number(),
    spread: z.number(),
    k: z.number(),
    lowerIndex: z.number().nullable(),
    upperIndex: z.number().nullable(),
    fraction: z.number().nullable(),
    largest: z.number().nullable(),
  }),
  z.strictObject({ kind: z.literal('noSpread'), isTooFew: z.boolean() }),
  z.strictObject({ kind: z.literal('said'), words: z.string() }),
])

export const VariablesPlan = z.strictObject({ method: z.enum(variablesMethods), sampleSize: z.number(), k: z.number(), sigma: z.number().nullable() })
