import { holdExtents, onFailures, stockUnits } from '@nemawashi/core'
import { z } from 'zod'
import { dispatches } from './dispatches'
import { ById, endpoint, Id, Instant, listEndpoint, Quantity, words } from './endpoint'
import { orders } from './orders'
import { Due } from './sampling'
import { BalanceRow, InspectionState } from './stock'

const Short = words(60)

/** Without a label a container gets the plant's next number. */
export const ContainerInput = z.strictObject({ label: Short.nullable(), quantity: Quantity })
export const DeliveryLineInput = z.strictObject({
  partId: Id,
  supplierLot: Short,
  quantity: Quantity,
  containers: z.array(ContainerInput).max(200, 'at most 200 containers'),
})
export type DeliveryLineInput = z.infer<typeof DeliveryLineInput>

/** How a load came, as it is written down at the dock; empty where nothing was. */
const said = z.string().trim().max(60, 'at most 60 characters').default('')
export const LoadFacts = z.strictObject({ carrier: said, vehicle: said, driver: said, seal: said, loadNumber: said })
export type LoadFacts = z.output<typeof LoadFacts>

const AskedOf = z.strictObject({
  id: Id,
  code: z.string(),
  planName: z.string(),
  state: InspectionState,
  isGate: z.boolean(),
  /** What is, or was, on hold for it, null for nothing; and what happens when it fails without being a gate. */
  holds: z.enum(holdExtents).nullable(),
  onFailure: z.enum(onFailures),
  holdPlaceName: z.string().nullable(),
  lines: z.array(z.strictObject({ name: z.string(), sampleSize: z.int(), accept: z.int(), reasoning: z.string() })),
})

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
  passedBy: z.array(z.strictObject({ id: Id, planName: z.string(), due: Due })),
  /** Why put-away is refused, in words; empty when the gate is open. */
  gateReasons: z.array(z.string()),
})
export type DeliveredLot = z.infer<typeof DeliveredLot>

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
  onHold: z.int(),
})
export type DeliveryRow = z.infer<typeof DeliveryRow>

/** What of a delivery can be put right after it was entered. */
export const correctedFields = ['quantity', 'supplierLot', 'supplier', 'orderNumber'] as const
export type CorrectedField = (typeof correctedFields)[number]

const clerk = ['receivingClerk', 'qualityEngineer', 'administrator'] as const

export const run = {
  ...orders,
  ...dispatches,
  listDeliveries: listEndpoint('/api/deliveries', 'Deliveries, newest first', DeliveryRow),
  getDelivery: endpoint('GET', '/api/deliveries/:id', {
    access: 'signedIn',
    summary: 'A delivery, where its lots stand and what holds them',
    params: ById,
    reply: Delivery,
  }),
  receiveDelivery: endpoint('POST', '/api/deliveries', {
    access: clerk,
    summary: 'Enter a delivery; its inspections open by themselves and its quantities go on hold where a gate asks for it',
    body: z.strictObject({
      supplierId: Id,
      orderNumber: Short,
      load: LoadFacts.default({ carrier: '', vehicle: '', driver: '', seal: '', loadNumber: '' }),
      lines: z.array(DeliveryLineInput).min(1, 'enter at least one lot').max(50, 'at most 50 lots'),
      /** Says that the same supplier, order and lot has come once more. */
      isAnother: z.boolean().default(false),
    }),
    reply: Delivery,
  }),
  putAway: endpoint('POST', '/api/lots/:id/put-away', {
    access: clerk,
    summary: 'Move released quantity of a lot to a store, wherever it came from; refused while a gate is closed',
    params: ById,
    body: z.strictObject({ containerId: Id.nullable(), fromPlaceId: Id, quantity: Quantity, toPlaceId: Id }),
    reply: z.strictObject({ balances: z.array(BalanceRow) }),
  }),
}
