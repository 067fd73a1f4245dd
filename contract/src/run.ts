import { onFailures, stockUnits } from '@nemawashi/core'
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
  inspections: z.array(
    z.strictObject({
      id: Id,
      code: z.string(),
      planName: z.string(),
      state: InspectionState,
      isGate: z.boolean(),
      /** Whether pieces are on hold for it; and what happens when it fails without being a gate. */
      holds: z.boolean(),
      onFailure: z.enum(onFailures),
      holdPlaceName: z.string().nullable(),
      lines: z.array(z.strictObject({ name: z.string(), sampleSize: z.int(), accept: z.int(), reasoning: z.string() })),
    }),
  ),
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
