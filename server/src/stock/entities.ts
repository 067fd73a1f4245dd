import type { MovementKind, Standing } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, int, mayReference, maybeText, references, text, uniqueText } from '../kernel/columns'

export interface DeliveryRow {
  id: string
  code: string
  supplierId: string
  orderNumber: string
  receivedAt: string
  receivedById: string
}
export const DeliveryEntity = new EntitySchema<DeliveryRow>({
  name: 'delivery',
  columns: { id, code: uniqueText, supplierId: references('partner'), orderNumber: text, receivedAt: text, receivedById: references('person') },
  indices: [{ name: 'delivery_received', columns: ['receivedAt', 'id'] }],
})

export interface LotRow {
  id: string
  code: string
  partId: string
  deliveryId: string
  supplierId: string
  supplierLot: string
  quantity: number
  receivedAt: string
}
export const LotEntity = new EntitySchema<LotRow>({
  name: 'lot',
  columns: {
    id,
    code: uniqueText,
    partId: references('part'),
    deliveryId: references('delivery'),
    supplierId: references('partner'),
    supplierLot: text,
    quantity: int,
    receivedAt: text,
  },
  indices: [
    { name: 'lot_delivery', columns: ['deliveryId'] },
    { name: 'lot_received', columns: ['receivedAt', 'id'] },
  ],
})

export interface ContainerRow {
  id: string
  lotId: string
  label: string
  quantity: number
}
export const ContainerEntity = new EntitySchema<ContainerRow>({
  name: 'container',
  columns: { id, lotId: references('lot'), label: text, quantity: int },
  uniques: [{ columns: ['lotId', 'label'] }],
})

export interface MovementRow {
  seq?: number
  lotId: string
  containerId: string | null
  quantity: number
  fromPlaceId: string | null
  fromStanding: Standing | null
  toPlaceId: string
  toStanding: Standing
  kind: MovementKind
  causeId: string | null
  at: string
  personId: string
}

/** The ledger. Triggers of the migrations refuse changing, deleting, overdrawing and a second arrival. */
export const MovementEntity = new EntitySchema<MovementRow>({
  name: 'movement',
  columns: {
    seq: { type: 'integer', primary: true, generated: 'increment' },
    lotId: references('lot'),
    containerId: mayReference('container'),
    quantity: int,
    fromPlaceId: mayReference('place'),
    fromStanding: maybeText,
    toPlaceId: references('place'),
    toStanding: text,
    kind: text,
    causeId: maybeText,
    at: text,
    personId: references('person'),
  },
  checks: [
    { name: 'movement_quantity', expression: `"quantity" > 0 AND typeof("quantity") = 'integer'` },
    { name: 'movement_from', expression: '("fromPlaceId" IS NULL) = ("fromStanding" IS NULL)' },
  ],
  indices: [{ name: 'movement_lot', columns: ['lotId', 'seq'] }],
})
