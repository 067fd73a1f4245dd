import { answerPlaces, holdExtents, keptFroms, moments, needs, onFailures, pointSubjects, whenConformings } from '@nemawashi/core'
import { z } from 'zod'
import { revisionStates } from '@nemawashi/core'
import { PlanLine } from '../define/define'
import { ById, endpoint, Id, Instant, listEndpoint, Nothing, Version, words } from '../wire/endpoint'
import { operationKinds } from '../define/masters'
import { rehearsal } from './rehearsal'
import { FrequencyRule } from '../define/sampling'

export const pointStates = ['active', 'retired'] as const

const pointShape = {
  operationId: Id,
  /** When at the operation it asks. */
  moment: z.enum(moments),
  /** After how many pieces or minutes it asks again, where its moment has an interval. */
  every: z.int('write a whole number').min(1, 'at least 1').max(1_000_000, 'at most 1000000').nullable(),
  planId: Id,
  /** A part, a family, or neither: every part that passes the operation. */
  partId: Id.nullable(),
  familyId: Id.nullable(),
  supplierId: Id.nullable(),
  customerId: Id.nullable(),
  /** Suppliers that share this word; goods on orders under this contract. Null for every one. */
  supplierGroup: z.string().trim().min(1).max(40, 'at most 40 characters').nullable(),
  contract: z.string().trim().min(1).max(60, 'at most 60 characters').nullable(),
  /** What is looked at: each lot, the load that they come on once, or each container or serial number. */
  subject: z.enum(pointSubjects),
  /** What a gate holds: all that came, or no more than the sample. */
  holds: z.enum(holdExtents),
  /** Which arrivals are looked at at all. */
  frequency: FrequencyRule,
  /** Who is to do it, and within how many hours of the occasion; empty and null: nobody by name, no day. */
  responsible: z.string().trim().max(80, 'at most 80 characters'),
  dueHours: z.number('write a number').gt(0, 'more than 0').max(10_000, 'at most 10000 hours').nullable(),
  holdPlaceId: Id.nullable(),
  isGate: z.boolean(),
  /** What becomes of the pieces when an inspection that is no gate fails. */
  onFailure: z.enum(onFailures),
  /** What becomes of what it finds conforming. */
  whenConforming: z.enum(whenConformings),
  /** What to do when it is not acceptable, and the plan that is asked then in addition; empty and null for none. */
  advice: z.string().trim().max(500, 'at most 500 characters'),
  followPlanId: Id.nullable(),
  /** Where its lines are answered: at the bench, or as quick questions where the goods arrive. */
  answeredAt: z.enum(answerPlaces),
  /** People who are told when it is not acceptable. */
  tells: z.array(Id).max(20, 'at most 20 people'),
  /** What a gate keeps goods from that lie here: put-away, or use, picking and sending alone. */
  keepsFrom: z.enum(keptFroms),
  /** Whether nonconforming pieces of the sample are set aside, and not released with the others. */
  setsAside: z.boolean(),
  /** Whether a person with the right may change its samples or drop its lines, with a reason. */
  need: z.enum(needs),
  /** The first and the last day on which it is in force; null for no such day. */
  validFrom: z.iso.date().nullable(),
  validUntil: z.iso.date().nullable(),
}

/** What is left out when one is hung is what mostly is wanted; an answer leaves nothing out. */
const ControlPointInput = z.strictObject({
  ...pointShape,
  moment: pointShape.moment.default('arrival'),
  every: pointShape.every.default(null),
  customerId: pointShape.customerId.default(null),
  supplierGroup: pointShape.supplierGroup.default(null),
  contract: pointShape.contract.default(null),
  subject: pointShape.subject.default('lot'),
  holds: pointShape.holds.default('all'),
  frequency: pointShape.frequency.default({ kind: 'everyArrival' }),
  responsible: pointShape.responsible.default(''),
  dueHours: pointShape.dueHours.default(null),
  onFailure: pointShape.onFailure.default('hold'),
  whenConforming: pointShape.whenConforming.default('decide'),
  advice: pointShape.advice.default(''),
  followPlanId: pointShape.followPlanId.default(null),
  answeredAt: pointShape.answeredAt.default('bench'),
  tells: pointShape.tells.default([]),
  keepsFrom: pointShape.keepsFrom.default('putAway'),
  setsAside: pointShape.setsAside.default(false),
  need: pointShape.need.default('fixed'),
  validFrom: pointShape.validFrom.default(null),
  validUntil: pointShape.validUntil.default(null),
})

export const ControlPoint = z.strictObject({
  ...pointShape,
  id: Id,
  code: z.string(),
  state: z.enum(pointStates),
  version: Version,
  operationName: z.string(),
  planCode: z.string(),
  planName: z.string(),
  partCode: z.string().nullable(),
  familyName: z.string().nullable(),
  supplierName: z.string().nullable(),
  customerName: z.string().nullable(),
  holdPlaceName: z.string().nullable(),
  followPlanName: z.string().nullable(),
})
export type ControlPoint = z.infer<typeof ControlPoint>

const FlowPoint = ControlPoint.extend({
  planRevision: z.int().nullable(),
  planState: z.enum(revisionStates),
  lines: z.array(PlanLine),
  /** Whether it is in force today; one that is not opens nothing. */
  isInForce: z.boolean(),
  opens: z.boolean(),
  why: z.string(),
})
export type FlowPoint = z.infer<typeof FlowPoint>

/** A flow line is seen as that of one part, or as that of any part of its family: without what is set for single parts. */
export const flowLenses = ['part', 'family'] as const
export type FlowLens = (typeof flowLenses)[number]

export const Flow = z.strictObject({
  /** The family of the part, with its parts and how many control points each has of its own; null where it is of none. */
  family: z.strictObject({ id: Id, name: z.string(), parts: z.array(z.strictObject({ id: Id, code: z.string(), own: z.int() })) }).nullable(),
  stops: z.array(
    z.strictObject({
      operationId: Id,
      code: z.string(),
      name: z.string(),
      kind: z.enum(operationKinds),
      points: z.array(FlowPoint),
      /** Days on which a plan that is asked before and after is not asked, for the same part and partner. */
      gaps: z.array(z.strictObject({ planCode: z.string(), from: z.iso.date(), until: z.iso.date() })),
      /** Why nothing is checked here, where somebody looked and left it open. */
      leftOpen: z.strictObject({ reason: z.string(), byName: z.string(), at: Instant }).nullable(),
    }),
  ),
  /** What hung there before: retired, or ended with its day. */
  before: z.array(
    z.strictObject({
      id: Id,
      code: z.string(),
      planName: z.string(),
      operationName: z.string(),
      state: z.enum(pointStates),
      validUntil: z.string().nullable(),
    }),
  ),
})
export type Flow = z.infer<typeof Flow>

/** A change of a control point: what was done, and which of its fields said what before and after. */
const PointChange = z.strictObject({
  at: Instant,
  byName: z.string(),
  action: z.string(),
  fields: z.array(z.strictObject({ field: z.string(), before: z.string(), after: z.string() })),
})
export type PointChange = z.infer<typeof PointChange>

const engineer = ['qualityEngineer', 'administrator'] as const

export const attach = {
  leaveOpen: endpoint('PUT', '/api/v1/parts/:id/open-stops', {
    access: engineer,
    summary: 'Say why nothing is checked at an operation of a part, or take it back (null)',
    params: ById,
    body: z.strictObject({ operationId: Id, reason: words(200, 3).nullable() }),
    reply: Nothing,
  }),
  listControlPoints: listEndpoint('/api/v1/control-points', 'Control points', ControlPoint, { state: z.enum(pointStates).optional() }),
  getFlow: endpoint('GET', '/api/v1/parts/:id/flow', {
    access: 'signedIn',
    summary: 'The flow line of a part: its operations with the control points that reach it, and which of them open with a partner',
    params: ById,
    query: z.strictObject({ partnerId: Id.optional(), lens: z.enum(flowLenses).default('part') }),
    reply: Flow,
  }),
  ...rehearsal,
  createControlPoint: endpoint('POST', '/api/v1/control-points', {
    access: engineer,
    summary: 'Hang a plan on an operation of the way of a part',
    body: ControlPointInput,
    reply: ControlPoint,
  }),
  updateControlPoint: endpoint('PUT', '/api/v1/control-points/:id', {
    access: engineer,
    summary: 'Change a control point',
    params: ById,
    body: ControlPointInput.extend({ version: Version }),
    reply: ControlPoint,
  }),
  replaceControlPoint: endpoint('POST', '/api/v1/control-points/:id/successor', {
    access: engineer,
    summary: 'Change a control point from a day on: it ends the day before, and its successor begins',
    params: ById,
    body: ControlPointInput.omit({ validFrom: true }).extend({ version: Version, validFrom: z.iso.date() }),
    reply: ControlPoint,
  }),
  getControlPointPast: endpoint('GET', '/api/v1/control-points/:id/past', {
    access: 'signedIn',
    summary: 'What a control point has said before: each change of it, by whom and when, newest first; retired ones too',
    params: ById,
    reply: z.strictObject({ changes: z.array(PointChange) }),
  }),
  retireControlPoint: endpoint('POST', '/api/v1/control-points/:id/retire', {
    access: engineer,
    summary: 'Retire a control point; open inspections go on',
    params: ById,
    body: z.strictObject({ version: Version }),
    reply: ControlPoint,
  }),
}
