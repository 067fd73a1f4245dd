import { EntitySchema } from 'typeorm'
import { flag, id, int, maybeText, references, text } from '../../kernel/database/columns'

export interface PurchaseOrderRow {
  id: string
  supplierId: string
  orderNumber: string
  /** Empty where it was placed under none. */
  contract: string
  isClosed: boolean
  enteredAt: string
  personId: string
  version: number
}
/** What was ordered of a supplier. What came on it is read from the deliveries that name its number, and kept nowhere else. */
export const PurchaseOrderEntity = new EntitySchema<PurchaseOrderRow>({
  name: 'purchase_order',
  columns: {
    id,
    supplierId: references('partner'),
    orderNumber: text,
    contract: text,
    isClosed: flag,
    enteredAt: text,
    personId: references('person'),
    version: int,
  },
  uniques: [{ name: 'purchase_order_number', columns: ['supplierId', 'orderNumber'] }],
})

export interface PurchaseLineRow {
  id: string
  orderId: string
  position: number
  partId: string
  quantity: number
  dueOn: string | null
}
export const PurchaseLineEntity = new EntitySchema<PurchaseLineRow>({
  name: 'purchase_order_line',
  columns: { id, orderId: references('purchase_order'), position: int, partId: references('part'), quantity: int, dueOn: maybeText },
  indices: [{ name: 'purchase_order_line_order', columns: ['orderId'] }],
})
