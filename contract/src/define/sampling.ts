import {
  aqlSeries,
  countModels,
  countings,
  inspectionLevels,
  roundings,
  severities,
  stageForms,
  switchings,
  switchStates,
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
    switching: z.enum(switchings).optional(),
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

const whole = z.int('write a whole number').min(1, 'at least 1').max(500, 'at most 500')
const afterFailure = { fullAfterFailure: z.int().min(0).max(100).optional() }

/** Which arrivals are looked at at all. */
export const FrequencyRule = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('everyArrival'), ...afterFailure }),
  z.strictObject({ kind: z.literal('oneIn'), k: whole, ...afterFailure }),
  z.strictObject({ kind: z.literal('randomShare'), percent: z.number('write a number').gt(0).max(100, 'at most 100 %'), ...afterFailure }),
  z.strictObject({ kind: z.literal('oncePer'), period: z.enum(['day', 'week', 'month']), ...afterFailure }),
  z.strictObject({ kind: z.literal('oncePerOrder'), ...afterFailure }),
  z.strictObject({ kind: z.literal('perPieces'), pieces: z.int('write a whole number').min(1, 'at least 1'), ...afterFailure }),
  z.strictObject({ kind: z.literal('perHours'), hours: z.number('write a number').gt(0, 'more than 0'), ...afterFailure }),
  z.strictObject({ kind: z.literal('certificateOnly'), clearance: whole, ...afterFailure }),
  z.strictObject({ kind: z.literal('earnedSkipping'), clearance: whole, k: whole, ...afterFailure }),
])

/** What a frequency rule rests on; the core's `describeDue` puts it into words. */
export const Due = z.strictObject({
  isDue: z.boolean(),
  because: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('every') }),
    z.strictObject({ kind: z.literal('first') }),
    z.strictObject({ kind: z.literal('afterFailure'), lots: z.int() }),
    z.strictObject({ kind: z.literal('interval'), since: z.int(), k: z.int() }),
    z.strictObject({ kind: z.literal('drawn'), percent: z.number() }),
    z.strictObject({ kind: z.literal('period'), period: z.enum(['day', 'week', 'month']) }),
    z.strictObject({ kind: z.literal('order'), order: z.string() }),
    z.strictObject({ kind: z.literal('pieces'), since: z.int(), pieces: z.int() }),
    z.strictObject({ kind: z.literal('hours'), since: z.number(), hours: z.number() }),
    z.strictObject({ kind: z.literal('standing'), row: z.int(), clearance: z.int() }),
    z.strictObject({
      kind: z.literal('earned'),
      row: z.int(),
      clearance: z.int(),
      interval: z.object({ since: z.int(), k: z.int() }).nullable(),
    }),
  ]),
})
export type Due = z.infer<typeof Due>

/** Which inspection a line got by its history, and why; the core's `describeSeverity` puts it into words. */
export const SeverityNow = z.strictObject({
  state: z.enum(switchStates),
  because: z
    .discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('refused'), refused: z.int(), of: z.int() }),
      z.strictObject({ kind: z.literal('score'), score: z.int() }),
      z.strictObject({ kind: z.literal('refusedTightened'), refused: z.int() }),
      z.strictObject({ kind: z.literal('accepted'), lots: z.int() }),
      z.strictObject({ kind: z.literal('refusedReduced') }),
      z.strictObject({ kind: z.literal('gap') }),
      z.strictObject({ kind: z.literal('answered') }),
    ])
    .nullable(),
  score: z.int(),
})
export type SeverityNow = z.infer<typeof SeverityNow>

/** What a line's verdict rests on; the core's `describeLine` puts it into words. */
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
  z.strictObject({ kind: z.literal('stopped') }),
  z.strictObject({
    kind: z.literal('shared'),
    planName: z.string(),
    inspected: z.int(),
    nonconforming: z.int(),
    accept: z.int(),
    reject: z.int().nullable(),
  }),
  z.strictObject({ kind: z.literal('said'), words: z.string() }),
])

/** By mean and standard deviation: what the sample of a line is judged by instead of its counts. */
export const VariablesPlan = z.strictObject({ method: z.enum(variablesMethods), sampleSize: z.number(), k: z.number(), sigma: z.number().nullable() })
