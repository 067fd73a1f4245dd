import { stockUnits } from '@nemawashi/core'
import { z } from 'zod'
import { clerk } from '../wire/access'
import { ById, endpoint, Id, Instant, listEndpoint, Quantity, Version, words } from '../wire/endpoint'
import { trackings } from '../define/masters'

const Day = z.iso.date('write a day')
const Maybe = z.string().trim().max(60, 'at most 60 characters')

export const PurchaseOrder = z.strictObject({
  id: Id,
  /** As the plant and its supplier call it. */
  orderNumber: z.string(),
  supplierId: Id,
  supplierName: z.string(),
  /** The contract that it was placed under; empty where there is none. */
  contract: z.string(),
  /** Nothing more is waited for, whatever is open. */
  isClosed: z.boolean(),
  enteredAt: Instant,
  enteredByName: z.string(),
  version: Version,
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
      dueOn: z.string().nullable(),
      /** What came on it, and what is still to come. */
      received: z.int(),
      open: z.int(),
    }),
  ),
  deliveries: z.array(z.strictObject({ id: Id, code: z.string(), receivedAt: Instant })),
})
export type PurchaseOrder = z.infer<typeof PurchaseOrder>

export const PurchaseOrderRow = z.strictObject({
  id: Id,
  orderNumber: z.string(),
  supplierName: z.string(),
  contract: z.string(),
  partCodes: z.string(),
  dueOn: z.string().nullable(),
  /** What was ordered, and what of its parts came on it, in the units of the parts, added up. */
  ordered: z.number(),
  received: z.number(),
  isClosed: z.boolean(),
  enteredAt: Instant,
})
export type PurchaseOrderRow = z.infer<typeof PurchaseOrderRow>

export const PurchaseOrderInput = z.strictObject({
  supplierId: Id,
  orderNumber: words(60),
  contract: Maybe.default(''),
  lines: z
    .array(z.strictObject({ partId: Id, quantity: Quantity, dueOn: Day.nullable().default(null) }))
    .min(1, 'enter at least one line')
    .max(200, 'at most 200 lines'),
})
export type PurchaseOrderInput = z.output<typeof PurchaseOrderInput>

export const purchases = {
  listPurchaseOrders: listEndpoint('/api/v1/purchase-orders', 'Purchase orders, newest first', PurchaseOrderRow, {
    supplierId: Id.optional(),
    /** Only those on which something is still to come, or only those that are closed. */
    state: z.enum(['open', 'closed']).optional(),
  }),
  getPurchaseOrder: endpoint('GET', '/api/v1/purchase-orders/:id', {
    access: 'signedIn',
    summary: 'A purchase order: what was ordered, what came and what is open, line by line',
    params: ById,
    reply: PurchaseOrder,
  }),
  createPurchaseOrder: endpoint('POST', '/api/v1/purchase-orders', {
    access: clerk,
    summary: 'Enter a purchase order as it was placed with a supplier',
    body: PurchaseOrderInput,
    reply: PurchaseOrder,
  }),
  closePurchaseOrder: endpoint('POST', '/api/v1/purchase-orders/:id/close', {
    access: clerk,
    summary: 'Close a purchase order: nothing more is waited for; or open it again',
    params: ById,
    body: z.strictObject({ version: Version, isClosed: z.boolean() }),
    reply: PurchaseOrder,
  }),
}
