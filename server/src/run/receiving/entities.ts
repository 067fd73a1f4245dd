import type { CorrectedField } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, mayReference, references, text, uniqueText } from '../../kernel/database/columns'

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
