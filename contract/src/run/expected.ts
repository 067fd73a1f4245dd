import { expectedStates, stockUnits } from '@nemawashi/core'
import { z } from 'zod'
import { clerk } from '../wire/access'
import { AskedOf, LoadFacts, noLoad } from './deliveryInput'
import { ById, endpoint, Id, Instant, listEndpoint, Quantity, Version, words } from '../wire/endpoint'
import { trackings } from '../define/masters'

const Day = z.iso.date('write a day')

/** A delivery that is told of before its receipt is posted. */
export const ExpectedDelivery = z.strictObject({
  id: Id,
  code: z.string(),
  supplierId: Id,
  supplierName: z.string(),
  orderNumber: z.string(),
  expectedOn: z.string().nullable(),
  state: z.enum(expectedStates),
  /** When and by whom it was announced; null where it came unannounced. */
  announcedAt: Instant.nullable(),
  announcedByName: z.string().nullable(),
  /** When and by whom it was registered at the dock; null where it was not. */
  registeredAt: Instant.nullable(),
  registeredByName: z.string().nullable(),
  /** Why it was turned away; empty where it was not. */
  reason: z.string(),
  version: Version,
  /** What was written down of the load, and what is asked of it before its receipt. */
  load: z.strictObject({ ...LoadFacts.shape, inspections: z.array(AskedOf) }),
  /** Why its receipt cannot be posted yet, in words; empty where it can. */
  gateReasons: z.array(z.string()),
  lines: z.array(
    z.strictObject({
      id: Id,
      partId: Id,
      partCode: z.string(),
      partName: z.string(),
      unit: z.enum(stockUnits),
      tracking: z.enum(trackings),
      packQuantity: z.int().nullable(),
      quantity: z.int(),
      supplierLot: z.string(),
      /** Pieces of it that came, after corrections; null before its receipt. */
      came: z.int().nullable(),
    }),
  ),
  /** What came with it and was not announced. */
  alsoCame: z.array(z.strictObject({ partId: Id, partCode: z.string(), partName: z.string(), unit: z.enum(stockUnits), quantity: z.int() })),
})
export type ExpectedDelivery = z.infer<typeof ExpectedDelivery>

export const ExpectedRow = z.strictObject({
  id: Id,
  code: z.string(),
  supplierName: z.string(),
  orderNumber: z.string(),
  partCodes: z.string(),
  expectedOn: z.string().nullable(),
  state: z.enum(expectedStates),
  openInspections: z.int(),
})
export type ExpectedRow = z.infer<typeof ExpectedRow>

export const ExpectedInput = z.strictObject({
  supplierId: Id,
  orderNumber: words(60),
  expectedOn: Day.nullable().default(null),
  load: LoadFacts.default(noLoad),
  lines: z
    .array(z.strictObject({ partId: Id, quantity: Quantity, supplierLot: z.string().trim().max(60, 'at most 60 characters').default('') }))
    .min(1, 'enter at least one line')
    .max(500, 'at most 500 lines'),
  /** It stands at the dock already: nobody announced it. */
  isHere: z.boolean().default(false),
  /** The same goods of this order are announced already, and these come in addition. */
  isAnother: z.boolean().default(false),
})
export type ExpectedInput = z.output<typeof ExpectedInput>

export const expected = {
  listExpected: listEndpoint('/api/v1/expected-deliveries', 'Deliveries that are told of before their receipt, newest first', ExpectedRow, {
    state: z.enum([...expectedStates, 'toCome']).optional(),
  }),
  getExpected: endpoint('GET', '/api/v1/expected-deliveries/:id', {
    access: 'signedIn',
    summary: 'A delivery before its receipt: what is to come, how, and what is asked of its load',
    params: ById,
    reply: ExpectedDelivery,
  }),
  announce: endpoint('POST', '/api/v1/expected-deliveries', {
    access: clerk,
    summary: 'Announce a delivery, or register one that stands at the dock unannounced; what is asked of its load opens by itself',
    body: ExpectedInput,
    reply: ExpectedDelivery,
  }),
  register: endpoint('POST', '/api/v1/expected-deliveries/:id/register', {
    access: clerk,
    summary: 'Register the vehicle of an announced delivery at the dock; what is asked of its load then opens by itself',
    params: ById,
    body: z.strictObject({ version: Version, load: LoadFacts }),
    reply: ExpectedDelivery,
  }),
  refuseDelivery: endpoint('POST', '/api/v1/expected-deliveries/:id/turn-away', {
    access: clerk,
    summary: 'Refuse a delivery before its receipt, with the reason; what is open of its load is cancelled',
    params: ById,
    body: z.strictObject({ version: Version, reason: words(300, 3) }),
    reply: ExpectedDelivery,
  }),
}
