import type { ExpectedState } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, int, mayReference, maybeText, references, text, uniqueText } from '../../kernel/database/columns'
import type { LoadFacts } from './entities'

export interface ExpectedDeliveryRow extends LoadFacts {
  /** That of the delivery, too, once its receipt is posted; so is its number. */
  id: string
  code: string
  supplierId: string
  orderNumber: string
  expectedOn: string | null
  state: ExpectedState
  /** The occasions at which it was announced and registered; null where it was not. */
  announcedId: string | null
  registeredId: string | null
  /** Why it was turned away; empty where it was not. */
  reason: string
  version: number
}
/** A delivery that is told of before its receipt is posted. */
export const ExpectedDeliveryEntity = new EntitySchema<ExpectedDeliveryRow>({
  name: 'expected_delivery',
  columns: {
    id,
    code: uniqueText,
    supplierId: references('partner'),
    orderNumber: text,
    expectedOn: maybeText,
    state: text,
    announcedId: mayReference('occasion'),
    registeredId: mayReference('occasion'),
    carrier: text,
    vehicle: text,
    driver: text,
    seal: text,
    loadNumber: text,
    reason: text,
    version: int,
  },
  indices: [{ name: 'expected_delivery_state', columns: ['state', 'expectedOn'] }],
})

export interface ExpectedLineRow {
  id: string
  deliveryId: string
  position: number
  partId: string
  quantity: number
  /** Empty where it was not said. */
  supplierLot: string
}
export const ExpectedLineEntity = new EntitySchema<ExpectedLineRow>({
  name: 'expected_line',
  columns: {
    id,
    deliveryId: references('expected_delivery'),
    position: int,
    partId: references('part'),
    quantity: int,
    supplierLot: text,
  },
  indices: [{ name: 'expected_line_delivery', columns: ['deliveryId'] }],
})
