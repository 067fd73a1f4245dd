import { dispatchStates, standings, stockUnits } from '@nemawashi/core'
import { z } from 'zod'
import { ById, endpoint, file, Id, Instant, listEndpoint, Quantity, Version, words } from '../wire/endpoint'
import { OpenedCheck } from './orders'
import { BalanceRow } from '../stock/stock'

export const PickInput = z.strictObject({ lotId: Id, containerId: Id.nullable(), placeId: Id, quantity: Quantity })
export type PickInput = z.infer<typeof PickInput>

export const Dispatch = z.strictObject({
  id: Id,
  code: z.string(),
  customerId: Id,
  customerName: z.string(),
  orderNumber: z.string(),
  state: z.enum(dispatchStates),
  /** When it was planned, or picked at once. */
  at: Instant,
  byName: z.string(),
  /** The day on which it is to leave; null where nobody said. */
  leavesOn: z.string().nullable(),
  /** Null while it is only planned. */
  pickedAt: Instant.nullable(),
  pickedByName: z.string(),
  sentAt: Instant.nullable(),
  version: Version,
  /** What was planned; empty where it was picked at once. */
  lines: z.array(
    z.strictObject({
      partId: Id,
      partCode: z.string(),
      partName: z.string(),
      unit: z.enum(stockUnits),
      quantity: z.int(),
      /** Of these, what was picked. */
      picked: z.int(),
      /** Pieces that may be picked now, over all lots. */
      free: z.int(),
      /** Other dispatches that are planned, not picked, and want the same part, by the day they leave. */
      alsoPlanned: z.array(z.strictObject({ id: Id, code: z.string(), quantity: z.int(), leavesOn: z.string().nullable() })),
    }),
  ),
  picks: z.array(
    z.strictObject({
      id: Id,
      lotId: Id,
      lotCode: z.string(),
      partId: Id,
      partCode: z.string(),
      partName: z.string(),
      unit: z.enum(stockUnits),
      containerLabel: z.string().nullable(),
      quantity: z.int(),
      /** Of these, what is at the door and free to leave; once it has left, what left. */
      leaving: z.int(),
      /** Of these, what is still at the door and on hold. */
      onHold: z.int(),
      /** Of these, what the customer has sent back. */
      returned: z.int(),
      putAwayPlaceId: Id.nullable(),
      /** Pieces of the lot that are free where they came back to. */
      backAndFree: z.array(BalanceRow),
    }),
  ),
  checks: z.array(OpenedCheck),
  /** Checks that keep it from being picked, or from leaving: gates that are not decided, and those of the load that are not acceptable. */
  gates: z.array(z.string()),
  returns: z.array(z.strictObject({ id: Id, code: z.string(), lotCode: z.string(), partId: Id, quantity: z.int(), reason: z.string(), at: Instant })),
})
export type Dispatch = z.infer<typeof Dispatch>

export const DispatchRow = z.strictObject({
  id: Id,
  code: z.string(),
  customerName: z.string(),
  orderNumber: z.string(),
  state: z.enum(dispatchStates),
  /** When it was planned, or picked at once. */
  at: Instant,
  leavesOn: z.string().nullable(),
  pickedAt: Instant.nullable(),
  /** Pieces that are picked; planned ones before that. */
  /** In the units of its parts, added up. */
  pieces: z.number(),
  openChecks: z.int(),
  /** Of these, the ones that are finished and not acceptable. */
  failedChecks: z.int(),
  returned: z.number(),
})
export type DispatchRow = z.infer<typeof DispatchRow>

/** Pieces that may be picked: released, in a store. */
export const Pickable = z.strictObject({
  id: z.string(),
  lotId: Id,
  /** The number of the lot, and what lies there, as it is chosen by. */
  code: z.string(),
  name: z.string(),
  partCode: z.string(),
  partName: z.string(),
  containerId: Id.nullable(),
  containerLabel: z.string().nullable(),
  placeId: Id,
  placeName: z.string(),
  quantity: z.int(),
  unit: z.enum(stockUnits),
  /** Pieces of the part that planned dispatches want. */
  planned: z.int(),
  since: Instant,
})
export type Pickable = z.infer<typeof Pickable>

/** Pieces of a lot in one place and standing. */
export const StockRow = z.strictObject({
  id: z.string(),
  lotId: Id,
  partCode: z.string(),
  partName: z.string(),
  lotCode: z.string(),
  supplierLot: z.string(),
  containerLabel: z.string().nullable(),
  placeName: z.string(),
  countsForPlanning: z.boolean(),
  standing: z.enum(standings),
  /** The number of what set them apart from the rest of the lot: a dispatch, a return, a transfer. */
  sublotCode: z.string().nullable(),
  quantity: z.int(),
  unit: z.enum(stockUnits),
  /** When the first of them came there. */
  since: Instant,
  /** Days that pieces of the part are planned to be on hold, where they are; null where nobody plans them. */
  holdDays: z.int().nullable(),
  /** Since when the last of what holds them does, wherever they were moved meanwhile; null where nothing does. */
  heldSince: Instant.nullable(),
  /** What the plant calls its standing more finely. */
  finer: z.string().nullable(),
  /** Other lots of the part in the same place whose numbers end alike. */
  looksLike: z.string().nullable(),
})
export type StockRow = z.infer<typeof StockRow>

const forCustomer = { customerId: Id, orderNumber: words(60) }
const Picks = z.array(PickInput).min(1, 'pick at least one lot').max(100, 'at most 100 lots')
const PlannedLines = z
  .array(z.strictObject({ partId: Id, quantity: Quantity }))
  .min(1, 'plan at least one part')
  .max(100, 'at most 100 parts')

const clerk = ['receivingClerk', 'productionOperator', 'qualityEngineer', 'administrator'] as const

export const dispatches = {
  listStock: listEndpoint('/api/v1/stock', 'Stock: what is where, and what may be done with it', StockRow, {
    standing: z.enum(standings).optional(),
    /** As it was then; without it, as it is now. */
    at: Instant.optional(),
  }),
  listPickable: listEndpoint('/api/v1/pickable', 'Released pieces in stores, oldest first', Pickable),
  listDispatches: listEndpoint('/api/v1/dispatches', 'Dispatches, newest first', DispatchRow, { state: z.enum(dispatchStates).optional() }),
  getDispatch: endpoint('GET', '/api/v1/dispatches/:id', {
    access: 'signedIn',
    summary: 'A dispatch: what was picked, what is checked before it leaves, and what came back',
    params: ById,
    reply: Dispatch,
  }),
  getNotePdf: endpoint('GET', '/api/v1/dispatches/:id/note.pdf', {
    access: 'signedIn',
    summary: 'The delivery note of a dispatch as PDF',
    params: ById,
    reply: file('PDF'),
  }),
  pickDispatch: endpoint('POST', '/api/v1/dispatches', {
    access: clerk,
    summary: 'Pick released pieces for a customer; the checks before dispatch open by themselves',
    body: z.strictObject({ ...forCustomer, picks: Picks }),
    reply: Dispatch,
  }),
  planDispatch: endpoint('POST', '/api/v1/planned-dispatches', {
    access: clerk,
    summary: 'Plan a dispatch: what is to be picked for whom; what is asked of it before that opens by itself',
    body: z.strictObject({ ...forCustomer, leavesOn: z.iso.date('write a day').nullable().default(null), lines: PlannedLines }),
    reply: Dispatch,
  }),
  pickPlanned: endpoint('POST', '/api/v1/dispatches/:id/pick', {
    access: clerk,
    summary: 'Pick a planned dispatch; refused while something that is asked before it is not acceptable',
    params: ById,
    body: z.strictObject({ version: Version, picks: Picks }),
    reply: Dispatch,
  }),
  sendDispatch: endpoint('POST', '/api/v1/dispatches/:id/send', {
    access: clerk,
    summary: 'Let a dispatch leave; refused while a gate of it is not decided, or pieces of it are no longer released',
    params: ById,
    body: z.strictObject({ version: Version }),
    reply: Dispatch,
  }),
  cancelDispatch: endpoint('POST', '/api/v1/dispatches/:id/cancel', {
    access: clerk,
    summary: 'Cancel a dispatch: what is still free goes back to where it was taken from, what is asked of its load is cancelled',
    params: ById,
    body: z.strictObject({ version: Version }),
    reply: Dispatch,
  }),
  receiveReturn: endpoint('POST', '/api/v1/dispatches/:id/returns', {
    access: clerk,
    summary: 'Take back what a customer returns: it is held, and what its return asks for opens',
    params: ById,
    body: z.strictObject({ pickId: Id, quantity: Quantity, reason: words(300, 3) }),
    reply: Dispatch,
  }),
}
