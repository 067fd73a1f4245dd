import type { DispatchState } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, int, mayReference, maybeText, references, text, uniqueText } from '../../kernel/database/columns'

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
  indices: [
    { name: 'customer_return_dispatch', columns: ['dispatchId'] },
    { name: 'customer_return_pick', columns: ['pickId'], where: '"pick_id" IS NOT NULL' },
  ],
})
