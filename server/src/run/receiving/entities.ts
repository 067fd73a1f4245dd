import type { DispatchState, CorrectedField, Standing } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, int, mayReference, maybeText, references, text, uniqueText } from '../../kernel/database/columns'

/** How a load came: what is written down of it at the dock; empty where nothing was. */
export interface LoadFacts {
  carrier: string
  vehicle: string
  driver: string
  seal: string
  loadNumber: string
}
export interface DeliveryRow extends LoadFacts {
  id: string
  code: string
}
const said = { type: 'text', default: '' } as const
/** What an occasion has in addition when it is a delivery. */
export const DeliveryEntity = new EntitySchema<DeliveryRow>({
  name: 'delivery',
  columns: {
    id: { type: 'text', primary: true, foreignKey: { target: 'occasion' } },
    code: uniqueText,
    carrier: said,
    vehicle: said,
    driver: said,
    seal: said,
    loadNumber: said,
  },
})

export interface DeliveryCorrectionRow {
  id: string
  deliveryId: string
  /** The lot that it is about; null where the whole delivery is, as for its supplier. */
  lotId: string | null
  field: CorrectedField
  before: string
  after: string
  /** Pieces that arrived beyond what was entered; null where none did. */
  arrived: number | null
  reason: string
  at: string
  personId: string
}
/** What was entered wrongly and is put right, with a reason. Only added to. */
export const DeliveryCorrectionEntity = new EntitySchema<DeliveryCorrectionRow>({
  name: 'delivery_correction',
  columns: {
    id,
    deliveryId: references('delivery'),
    lotId: mayReference('lot'),
    field: text,
    before: text,
    after: text,
    arrived: { type: 'integer', nullable: true },
    reason: text,
    at: text,
    personId: references('person'),
  },
  indices: [
    { name: 'delivery_correction_delivery', columns: ['deliveryId', 'at'] },
    { name: 'delivery_correction_lot', columns: ['lotId'] },
  ],
})

export interface DispatchRow {
  id: string
  code: string
  state: DispatchState
  /** The day on which it is to leave; null where nobody said. */
  leavesOn: string | null
  /** Null while it is only planned. */
  pickedAt: string | null
  pickedById: string | null
  sentAt: string | null
  version: number
}
/** What an occasion has in addition when it is a dispatch. */
export const DispatchEntity = new EntitySchema<DispatchRow>({
  name: 'dispatch',
  columns: {
    id: { type: 'text', primary: true, foreignKey: { target: 'occasion' } },
    code: uniqueText,
    state: text,
    leavesOn: maybeText,
    pickedAt: maybeText,
    pickedById: maybeText,
    sentAt: maybeText,
    version: int,
  },
})

export interface DispatchLineRow {
  id: string
  dispatchId: string
  position: number
  partId: string
  quantity: number
}
/** What a planned dispatch is to be picked from: parts, not lots. */
export const DispatchLineEntity = new EntitySchema<DispatchLineRow>({
  name: 'dispatch_line',
  columns: { id, dispatchId: references('dispatch'), position: int, partId: references('part'), quantity: int },
  indices: [{ name: 'dispatch_line_dispatch', columns: ['dispatchId'] }],
})

export interface DispatchPickRow {
  id: string
  dispatchId: string
  lotId: string
  containerId: string | null
  quantity: number
  /** Where it was taken from: it goes back there when the dispatch is called off. */
  fromPlaceId: string
  /** How many of them left; null as long as it has not. */
  shipped: number | null
}
export const DispatchPickEntity = new EntitySchema<DispatchPickRow>({
  name: 'dispatch_pick',
  columns: {
    id,
    dispatchId: references('dispatch'),
    lotId: references('lot'),
    containerId: mayReference('container'),
    quantity: int,
    fromPlaceId: references('place'),
    shipped: { type: 'integer', nullable: true },
  },
  indices: [
    { name: 'dispatch_pick_dispatch', columns: ['dispatchId'] },
    { name: 'dispatch_pick_lot', columns: ['lotId'] },
  ],
})

export interface CustomerReturnRow {
  id: string
  code: string
  dispatchId: string
  lotId: string
  /** What was picked of which it came back; null where an earlier release did not say. */
  pickId: string | null
  quantity: number
  reason: string
}
/** What an occasion has in addition when a customer sends something back. */
export const CustomerReturnEntity = new EntitySchema<CustomerReturnRow>({
  name: 'customer_return',
  columns: {
    id: { type: 'text', primary: true, foreignKey: { target: 'occasion' } },
    code: uniqueText,
    dispatchId: references('dispatch'),
    lotId: references('lot'),
    pickId: maybeText,
    quantity: int,
    reason: text,
  },
  indices: [{ name: 'customer_return_dispatch', columns: ['dispatchId'] }],
})

export interface TransferRow {
  id: string
  code: string
  lotId: string
  containerId: string | null
  quantity: number
  standing: Standing
  /** The rule that sent it there; null where a person chose the place. */
  ruleId: string | null
}
/** What an occasion has in addition when pieces are taken from one place to another. */
export const TransferEntity = new EntitySchema<TransferRow>({
  name: 'transfer',
  columns: {
    id: { type: 'text', primary: true, foreignKey: { target: 'occasion' } },
    code: uniqueText,
    lotId: references('lot'),
    containerId: mayReference('container'),
    quantity: int,
    standing: text,
    ruleId: mayReference('put_away_rule'),
  },
  indices: [{ name: 'transfer_lot', columns: ['lotId'] }],
})
