import {
  answerPlaces,
  onFailures,
  whenConformings,
  gateSteps,
  holdExtents,
  moments,
  pointSubjects,
  scopeMismatches,
  unitKinds,
  precedence,
} from '@nemawashi/core'
import { z } from 'zod'
import { PlanLine } from '../define/define'
import { endpoint, Id, Instant } from '../wire/endpoint'
import { Due, FrequencyRule } from '../define/sampling'

/** A line as it would be asked; `askedBy` names the plan that asks it in its stead, null where it asks itself. */
export const LineAsked = z.strictObject({
  name: z.string(),
  sampleSize: z.int(),
  accept: z.int(),
  reject: z.int(),
  reasoning: z.string(),
  askedBy: z.string().nullable(),
})
export type LineAsked = z.infer<typeof LineAsked>

/** What becomes of one control point for one lot. */
export const Considered = z.strictObject({
  pointId: Id,
  code: z.string(),
  moment: z.enum(moments),
  every: z.int().nullable(),
  planName: z.string(),
  level: z.enum(precedence),
  supersededBy: z.enum(precedence).nullable(),
  mismatches: z.array(z.enum(scopeMismatches)),
  /** Null where it does not reach so far that its frequency was asked. */
  due: Due.nullable(),
  opens: z.boolean(),
  /** How often it comes up in a lot, each time to be asked by its frequency; null where that rests on how long the step takes. */
  times: z.int().nullable(),
  subject: z.enum(pointSubjects),
  isGate: z.boolean(),
  holds: z.enum(holdExtents),
  blocks: z.enum(gateSteps).nullable(),
  holdPlaceName: z.string().nullable(),
  responsible: z.string(),
  dueAt: Instant.nullable(),
  /** What follows from its finding. */
  whenConforming: z.enum(whenConformings),
  setsAside: z.boolean(),
  onFailure: z.enum(onFailures),
  answeredAt: z.enum(answerPlaces),
  advice: z.string(),
  followPlanName: z.string().nullable(),
  tells: z.int(),
  lines: z.array(LineAsked),
})
export type Considered = z.infer<typeof Considered>

export const Rehearsal = z.strictObject({
  operationName: z.string(),
  lots: z.array(z.strictObject({ number: z.int(), considered: z.array(Considered) })),
})
export type Rehearsal = z.infer<typeof Rehearsal>

/** What happened in the past, and the control points in force, for playing the one under the other; the page plays it. */
export const PastOccasions = z.strictObject({
  /** The first day that is asked about; what came before it is there for the histories that rules look back on. */
  from: z.iso.date(),
  until: z.iso.date(),
  points: z.array(
    z.strictObject({
      id: Id,
      code: z.string(),
      planId: Id,
      planName: z.string(),
      operationId: Id,
      operationName: z.string(),
      moment: z.enum(moments),
      every: z.int().nullable(),
      subject: z.enum(pointSubjects),
      partId: Id.nullable(),
      familyId: Id.nullable(),
      supplierId: Id.nullable(),
      customerId: Id.nullable(),
      supplierGroup: z.string().nullable(),
      contract: z.string().nullable(),
      frequency: FrequencyRule,
      isGate: z.boolean(),
      holds: z.enum(holdExtents),
    }),
  ),
  plans: z.array(
    z.strictObject({
      id: Id,
      lines: z.array(
        z.strictObject({
          characteristicId: Id,
          sampling: PlanLine.shape.sampling,
          minutesPerPiece: z.number().nullable(),
          isRequired: z.boolean(),
          isDecisive: z.boolean(),
          targets: PlanLine.shape.targets,
          detached: PlanLine.shape.detached,
        }),
      ),
    }),
  ),
  /** Oldest first. */
  occasions: z.array(
    z.strictObject({
      id: z.string(),
      occasionId: Id,
      day: z.iso.date(),
      atHours: z.number(),
      order: z.string(),
      operationId: Id,
      moment: z.enum(moments),
      partId: Id,
      familyId: Id.nullable(),
      supplierId: Id.nullable(),
      customerId: Id.nullable(),
      supplierGroup: z.string().nullable(),
      contract: z.string().nullable(),
      quantity: z.int(),
      counted: z.strictObject({ before: z.number(), after: z.number() }).nullable(),
      /** What the pieces were told apart by. */
      units: z.array(z.strictObject({ kind: z.enum(unitKinds), quantity: z.int() })),
      failed: z.array(Id),
      judged: z.array(
        z.strictObject({
          planId: Id,
          characteristicId: Id,
          isAccepted: z.boolean(),
          isAcceptedTighter: z.boolean(),
          isAcceptedEarly: z.boolean(),
          isInGap: z.boolean(),
        }),
      ),
      opened: z.int(),
    }),
  ),
  /** Whether occasions further back were left out. */
  isCut: z.boolean(),
})
export type PastOccasions = z.infer<typeof PastOccasions>

export const rehearsal = {
  rehearse: endpoint('GET', '/api/v1/rehearsal', {
    access: 'signedIn',
    summary: 'Play a happening without writing: what opens, with which samples, and what does not, and why',
    query: z.strictObject({
      operationId: Id,
      partId: Id,
      partnerId: Id.optional(),
      /** The contract that the order is under, where it comes from a supplier. */
      contract: z.string().max(60).optional(),
      quantity: z.coerce.number(),
      /** How many lots of that quantity come, one after another; each is taken to be accepted. */
      lots: z.coerce.number().int('write a whole number').min(1, 'at least 1').max(100, 'at most 100').default(1),
      at: Instant.optional(),
    }),
    reply: Rehearsal,
  }),
  getPastOccasions: endpoint('GET', '/api/v1/past-occasions', {
    access: 'signedIn',
    summary: 'What happened in the last days to a part, a family or every part, with the control points in force, for playing other rules on it',
    query: z.strictObject({
      partId: Id.optional(),
      familyId: Id.optional(),
      /** A plan whose lines are wanted though it hangs nowhere yet. */
      planId: Id.optional(),
      days: z.coerce.number().int('write a whole number').min(1, 'at least 1').max(400, 'at most 400').default(365),
    }),
    reply: PastOccasions,
  }),
}
