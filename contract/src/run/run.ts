import { answerPlaces, correctedFields, holdExtents, maxSerials, pointSubjects, stockUnits } from '@nemawashi/core'
import { z } from 'zod'
import { clerk } from '../wire/access'
import { LineAsked } from '../attach/rehearsal'
import { AskedOf, ContainerInput, LoadFacts, noLoad, paperKinds } from './deliveryInput'
import { dispatches } from './dispatches'
import { ById, endpoint, file, Id, Instant, listEndpoint, Quantity, words } from '../wire/endpoint'
import { expected } from './expected'
import { feed } from './feed'
import { orders } from './orders'
import { purchases } from './purchases'
import { Due } from '../define/sampling'
import { BalanceRow, Sublot } from '../stock/stock'
import { transfers } from './transfers'

const Short = words(60)

export const DeliveryLineInput = z.strictObject({
  partId: Id,
  supplierLot: Short,
  quantity: Quantity,
  containers: z.array(ContainerInput).max(200, 'at most 200 containers'),
  /** Of pieces that are traced one by one: a number for each. */
  serials: z.array(Short).max(maxSerials, `at most ${maxSerials} serial numbers`).default([]),
})
export type DeliveryLineInput = z.output<typeof DeliveryLineInput>

export const DeliveredLot = z.strictObject({
  id: Id,
  code: z.string(),
  partId: Id,
  partCode: z.string(),
  partName: z.string(),
  unit: z.enum(stockUnits),
  supplierLot: z.string(),
  quantity: z.int(),
  putAwayPlaceId: Id.nullable(),
  balances: z.array(BalanceRow),
  inspections: z.array(AskedOf),
  /** What its control points let pass by, and why. */
  skippedByRule: z.array(z.strictObject({ id: Id, planName: z.string(), due: Due })),
  /** Why put-away is refused, in words; empty when the gate is open. */
  gateReasons: z.array(z.string()),
})
export type DeliveredLot = z.infer<typeof DeliveredLot>

/** How it should have been entered: how many of a lot (or in one of its containers) came, what its supplier calls it, who sent it, on which order. */
export const Correction = z.discriminatedUnion('field', [
  z.strictObject({
    field: z.literal('quantity'),
    lotId: Id,
    containerId: Id.nullable().default(null),
    quantity: z.int('write a whole number').min(0, 'at least 0'),
  }),
  z.strictObject({ field: z.literal('supplierLot'), lotId: Id, supplierLot: Short }),
  z.strictObject({ field: z.literal('supplier'), supplierId: Id }),
  z.strictObject({ field: z.literal('orderNumber'), orderNumber: Short }),
])
export type Correction = z.infer<typeof Correction>

/** What a correction does to inspections: one that nobody has begun gets another sample, one keeps a sample that would be another now, is asked for no longer, or opens in addition. */
export const correctionEffects = ['newSample', 'keepsSample', 'noLonger', 'opens'] as const
export const CorrectionEffect = z.strictObject({
  effect: z.enum(correctionEffects),
  lotCode: z.string(),
  planName: z.string(),
  /** Null where it is not open yet. */
  inspectionId: Id.nullable(),
  inspectionCode: z.string().nullable(),
  /** The largest sample that was asked for, and the one that would be asked for now. */
  sampleSize: z.int().nullable(),
  sampleNow: z.int().nullable(),
})
export type CorrectionEffect = z.infer<typeof CorrectionEffect>
const CorrectionDone = z.strictObject({
  id: Id,
  lotCode: z.string().nullable(),
  field: z.enum(correctedFields),
  before: z.string(),
  after: z.string(),
  reason: z.string(),
  at: Instant,
  byName: z.string(),
})

export const Delivery = z.strictObject({
  id: Id,
  code: z.string(),
  supplierId: Id,
  supplierName: z.string(),
  orderNumber: z.string(),
  receivedAt: Instant,
  receivedByName: z.string(),
  isFree: z.boolean(),
  /** What was written down of the load, and what is asked of it as one. */
  load: z.strictObject({ ...LoadFacts.shape, inspections: z.array(AskedOf) }),
  /** What came with it on paper, oldest first. */
  papers: z.array(
    z.strictObject({
      id: Id,
      documentId: Id,
      kind: z.enum(paperKinds),
      /** The lot that it is about; null for the whole delivery. */
      lotId: Id.nullable(),
      lotCode: z.string().nullable(),
      at: Instant,
      byName: z.string(),
    }),
  ),
  /** What was entered wrongly and put right, oldest first. */
  corrections: z.array(CorrectionDone),
  lots: z.array(DeliveredLot),
})
export type Delivery = z.infer<typeof Delivery>

export const DeliveryRow = z.strictObject({
  id: Id,
  code: z.string(),
  supplierName: z.string(),
  orderNumber: z.string(),
  partCodes: z.string(),
  receivedAt: Instant,
  openInspections: z.int(),
  /** In the units of its parts, added up. */
  onHold: z.number(),
})
export type DeliveryRow = z.infer<typeof DeliveryRow>

/** What a control point would ask of a line, or of the load; where its frequency lets it pass by, nothing. */
const AskedLine = z.strictObject({
  pointId: Id,
  planName: z.string(),
  due: Due,
  /** Whether only the booking will draw it: what it asks is told as if it were drawn. */
  isByChance: z.boolean(),
  /** What it looks at, and how many of them it opens for. */
  subject: z.enum(pointSubjects),
  times: z.int(),
  isGate: z.boolean(),
  holds: z.enum(holdExtents),
  answeredAt: z.enum(answerPlaces),
  lines: z.array(LineAsked),
})
export type AskedLine = z.infer<typeof AskedLine>
/** A line of a delivery before it is booked in: where it is to be taken, and where else if something is drawn that keeps it; null: the same place. */
const PreviewedLine = z.strictObject({ placeName: z.string(), placeIfDrawn: z.string().nullable(), asked: z.array(AskedLine) })
export type PreviewedLine = z.infer<typeof PreviewedLine>

export const run = {
  ...purchases,
  ...expected,
  ...orders,
  ...dispatches,
  ...feed,
  ...transfers,
  listDeliveries: listEndpoint('/api/v1/deliveries', 'Deliveries, newest first', DeliveryRow),
  getDelivery: endpoint('GET', '/api/v1/deliveries/:id', {
    access: 'signedIn',
    summary: 'A delivery, where its lots stand and what holds them',
    params: ById,
    reply: Delivery,
  }),
  previewDelivery: endpoint('POST', '/api/v1/delivery-preview', {
    access: clerk,
    summary: 'What the lines of a delivery would ask for, and where they would be taken; writes nothing',
    body: z.strictObject({
      supplierId: Id,
      orderNumber: z.string().max(60).default(''),
      lines: z
        .array(
          z.strictObject({
            partId: Id,
            quantity: Quantity,
            /** How much is in each container, and how many pieces have serial numbers. */
            containers: z.array(Quantity).max(200).default([]),
            serials: z.int().min(0).max(maxSerials).default(0),
          }),
        )
        .min(1, 'enter at least one line')
        .max(50, 'at most 50 lines'),
    }),
    reply: z.strictObject({ load: z.array(AskedLine), lines: z.array(PreviewedLine) }),
  }),
  receiveDelivery: endpoint('POST', '/api/v1/deliveries', {
    access: clerk,
    summary: 'Enter a delivery; its inspections open by themselves and its quantities go on hold where a gate asks for it',
    body: z.strictObject({
      supplierId: Id,
      orderNumber: Short,
      load: LoadFacts.default(noLoad),
      lines: z.array(DeliveryLineInput).min(1, 'enter at least one lot').max(500, 'at most 500 lots'),
      /** The delivery that it is, where it was announced or registered before. */
      expectedId: Id.nullable().default(null),
      /** Says that the same supplier, order and lot has come once more. */
      isAnother: z.boolean().default(false),
      /** The order is closed, or these goods were not announced, and it is right all the same. */
      isUnusual: z.boolean().default(false),
    }),
    reply: Delivery,
  }),
  checkCorrection: endpoint('POST', '/api/v1/deliveries/:id/correction-check', {
    access: clerk,
    summary: 'What putting something right would do to the inspections of a delivery; changes nothing',
    params: ById,
    body: z.strictObject({ correction: Correction }),
    reply: z.strictObject({ effects: z.array(CorrectionEffect) }),
  }),
  correctDelivery: endpoint('POST', '/api/v1/deliveries/:id/corrections', {
    access: clerk,
    summary: 'Put right what was entered wrongly, with a reason; what was entered first is kept, in the ledger and in the chain',
    params: ById,
    body: z.strictObject({ correction: Correction, reason: words(500) }),
    reply: Delivery,
  }),
  addPaper: endpoint('POST', '/api/v1/deliveries/:id/papers', {
    access: [...clerk, 'inspector'],
    summary: 'Put a document to a delivery, or to one of its lots: a certificate, a delivery note. It stays',
    params: ById,
    body: z.strictObject({ documentId: Id, kind: z.enum(paperKinds), lotId: Id.nullable().default(null) }),
    reply: Delivery,
  }),
  getLabelsPdf: endpoint('GET', '/api/v1/deliveries/:id/labels.pdf', {
    access: 'signedIn',
    summary: 'Labels of the containers of a delivery as PDF, each with its number as Code 128',
    params: ById,
    reply: file('PDF'),
  }),
  putAway: endpoint('POST', '/api/v1/lots/:id/put-away', {
    access: clerk,
    summary: 'Move quantity of a lot to a store, wherever it came from; refused while a gate keeps it from being put away',
    params: ById,
    body: z.strictObject({
      containerId: Id.nullable(),
      fromPlaceId: Id,
      /** Which of the lot's pieces there; without it, whichever are there. */
      sublot: Sublot.optional(),
      quantity: Quantity,
      toPlaceId: Id,
      /** What is on hold stays on hold in the store. */
      standing: z.enum(['released', 'onHold']).default('released'),
    }),
    reply: z.strictObject({ balances: z.array(BalanceRow) }),
  }),
}
