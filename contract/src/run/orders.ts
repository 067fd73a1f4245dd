import { answerPlaces, dispositions, moments, maxSerials, onFailures, reportKinds, stockUnits } from '@nemawashi/core'
import { z } from 'zod'
import { ById, endpoint, Id, Instant, listEndpoint, Quantity, Version, words } from '../wire/endpoint'
import { trackings } from '../define/masters'
import { BalanceRow, InspectionState } from '../stock/stock'

export const orderStates = ['planned', 'released', 'finished', 'cancelled'] as const
export const stepStates = ['waiting', 'running', 'confirmed'] as const

/** A check that an occasion opened, as the machine side and the dispatch show it. */
export const OpenedCheck = z.strictObject({
  id: Id,
  code: z.string(),
  planName: z.string(),
  moment: z.enum(moments),
  state: InspectionState,
  verdict: z.enum(['acceptable', 'notAcceptable']).nullable(),
  isGate: z.boolean(),
  /** Where it is answered: at the bench, or by the operator of the step. */
  answeredAt: z.enum(answerPlaces),
  responsible: z.string(),
  dueAt: Instant.nullable(),
  finishedAt: Instant.nullable(),
  /** Null where it looks at a dispatch as one. */
  lotCode: z.string().nullable(),
  /** What follows where it is not acceptable. */
  onFailure: z.enum(onFailures),
  /** How far the step was when it came up, where it came up while it ran: pieces made, minutes run. */
  after: z.strictObject({ pieces: z.int(), minutes: z.int() }).nullable(),
  /** What is to be done where it is not acceptable, as its control point says. */
  advice: z.string(),
  /** What was decided on its pieces: how many of them, together. */
  decided: z.array(z.strictObject({ disposition: z.enum(dispositions), quantity: z.int() })),
})
export type OpenedCheck = z.infer<typeof OpenedCheck>

/** What a running step told of itself. */
export const StepReport = z.strictObject({
  id: Id,
  kind: z.enum(reportKinds),
  good: z.int(),
  scrapped: z.int(),
  setAside: z.int(),
  /** Pieces of the step that were made up to then, and whole minutes that it had run. */
  done: z.int(),
  minutes: z.int(),
  note: z.string(),
  at: Instant,
  byName: z.string(),
})
export type StepReport = z.infer<typeof StepReport>

const note = words(200, 3)
const Serials = z.array(words(60)).max(maxSerials).optional()
/** Pieces of a step, with the serial numbers of those that are no longer among the good ones where pieces have serial numbers. */
const StepPieces = z.strictObject({ good: Quantity, scrapped: Quantity, setAside: Quantity, scrappedSerials: Serials, setAsideSerials: Serials })
export type StepPieces = z.output<typeof StepPieces>
/** What a machine side can tell; time passes by itself. */
export const StepReportInput = z.discriminatedUnion('kind', [
  StepPieces.extend({ kind: z.literal('pieces') }),
  z.strictObject({ kind: z.literal('setUp'), note }),
  z.strictObject({ kind: z.literal('lastPiece') }),
  z.strictObject({ kind: z.literal('paused'), note }),
  z.strictObject({ kind: z.literal('resumed') }),
])
export type StepReportInput = z.output<typeof StepReportInput>

export const OrderStep = z.strictObject({
  id: Id,
  position: z.int(),
  operationId: Id,
  operationName: z.string(),
  state: z.enum(stepStates),
  startedAt: Instant.nullable(),
  confirmedAt: Instant.nullable(),
  good: z.int(),
  scrapped: z.int(),
  setAside: z.int(),
  reports: z.array(StepReport),
  /** Whether it stands still. */
  isPaused: z.boolean(),
  checks: z.array(OpenedCheck),
})
export type OrderStep = z.infer<typeof OrderStep>

/** What can be done next, and what stands in its way: the machine side shows this, and the server refuses by it. */
export const NextStep = z.strictObject({
  act: z.enum(['release', 'start', 'confirm', 'finish']),
  stepId: Id.nullable(),
  /** Pieces that the step can still account for. */
  quantity: z.int(),
  /** Serial numbers of them, in order; empty where they have none. */
  serials: z.array(z.string()),
  /** Gates that are not decided: the checks that are waited for. */
  gates: z.array(z.strictObject({ id: Id, code: z.string(), planName: z.string(), state: InspectionState })),
})
export type NextStep = z.infer<typeof NextStep>

export const ProductionOrder = z.strictObject({
  id: Id,
  code: z.string(),
  partId: Id,
  partCode: z.string(),
  partName: z.string(),
  unit: z.enum(stockUnits),
  tracking: z.enum(trackings),
  quantity: z.int(),
  orderNumber: z.string(),
  customerId: Id.nullable(),
  customerName: z.string().nullable(),
  lotId: Id.nullable(),
  lotCode: z.string().nullable(),
  state: z.enum(orderStates),
  createdAt: Instant,
  version: Version,
  steps: z.array(OrderStep),
  balances: z.array(BalanceRow),
  components: z.array(
    z.strictObject({ lotId: Id, lotCode: z.string(), partCode: z.string(), quantity: z.int(), unit: z.enum(stockUnits), at: Instant }),
  ),
  next: NextStep.nullable(),
})
export type ProductionOrder = z.infer<typeof ProductionOrder>

export const ProductionOrderRow = z.strictObject({
  id: Id,
  code: z.string(),
  partCode: z.string(),
  partName: z.string(),
  quantity: z.int(),
  unit: z.enum(stockUnits),
  orderNumber: z.string(),
  lotCode: z.string(),
  state: z.enum(orderStates),
  stepName: z.string(),
  openChecks: z.int(),
  failedChecks: z.int(),
  createdAt: Instant,
})
export type ProductionOrderRow = z.infer<typeof ProductionOrderRow>

const planner = ['productionOperator', 'qualityEngineer', 'administrator'] as const
const byVersion = z.strictObject({ version: Version })

export const orders = {
  listOrders: listEndpoint('/api/v1/production-orders', 'Production orders, newest first', ProductionOrderRow, {
    state: z.enum(orderStates).optional(),
  }),
  getOrder: endpoint('GET', '/api/v1/production-orders/:id', {
    access: 'signedIn',
    summary: 'A production order: its steps, what they check, where its pieces stand, and what can be done next',
    params: ById,
    reply: ProductionOrder,
  }),
  createOrder: endpoint('POST', '/api/v1/production-orders', {
    access: planner,
    summary: 'Plan a production order; its steps are those of the routing of the part',
    body: z.strictObject({
      partId: Id,
      quantity: Quantity,
      orderNumber: z.string().trim().max(60, 'at most 60 characters'),
      customerId: Id.nullable(),
    }),
    reply: ProductionOrder,
  }),
  releaseOrder: endpoint('POST', '/api/v1/production-orders/:id/release', {
    access: planner,
    summary: 'Release an order: its lot is given, before the first check, and serial numbers where its part has them',
    params: ById,
    body: byVersion.extend({
      /** Null: the plant gives them, where the part has serial numbers. */
      serials: z.array(words(60)).max(maxSerials).nullable().default(null),
    }),
    reply: ProductionOrder,
  }),
  issueComponent: endpoint('POST', '/api/v1/production-orders/:id/components', {
    access: planner,
    summary: 'Issue pieces of a lot to an order: they are used, and the lots are kin from then on',
    params: ById,
    body: z.strictObject({ version: Version, lotId: Id, containerId: Id.nullable(), placeId: Id, quantity: Quantity }),
    reply: ProductionOrder,
  }),
  startStep: endpoint('POST', '/api/v1/production-orders/:id/start', {
    access: planner,
    summary: 'Start the next step; refused while a gate before it is not decided',
    params: ById,
    body: byVersion,
    reply: ProductionOrder,
  }),
  reportStep: endpoint('POST', '/api/v1/production-orders/:id/report', {
    access: planner,
    summary: 'Tell of the running step: pieces made, a set-up change, the last piece, a pause or its end; opens what comes up by it',
    params: ById,
    body: z.strictObject({ version: Version, report: StepReportInput }),
    reply: ProductionOrder,
  }),
  confirmStep: endpoint('POST', '/api/v1/production-orders/:id/confirm', {
    access: planner,
    summary: 'Confirm the running step with its quantities; refused while a check of its start is not decided',
    params: ById,
    body: StepPieces.extend({ version: Version }),
    reply: ProductionOrder,
  }),
  cancelOrder: endpoint('POST', '/api/v1/production-orders/:id/cancel', {
    access: planner,
    summary: 'Call an order off that has made nothing; its open inspections are cancelled with it',
    params: ById,
    body: byVersion.extend({ reason: words(300, 3) }),
    reply: ProductionOrder,
  }),
  finishOrder: endpoint('POST', '/api/v1/production-orders/:id/finish', {
    access: planner,
    summary: 'Finish an order: what is released goes to its store; refused while a gate is not decided',
    params: ById,
    body: byVersion,
    reply: ProductionOrder,
  }),
}
