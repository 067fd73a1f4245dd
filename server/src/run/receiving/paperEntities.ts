import type { PaperKind } from '@nemawashi/contract'
import { EntitySchema } from 'typeorm'
import { id, mayReference, references, text } from '../../kernel/database/columns'

export interface DeliveryPaperRow {
  id: string
  deliveryId: string
  /** The lot that it is about; null where it is about the whole delivery. */
  lotId: string | null
  documentId: string
  kind: PaperKind
  at: string
  personId: string
}
/** What came with goods on paper: a supplier's certificate, a delivery note. Only added to. */
export const DeliveryPaperEntity = new EntitySchema<DeliveryPaperRow>({
  name: 'delivery_paper',
  columns: {
    id,
    deliveryId: references('delivery'),
    lotId: mayReference('lot'),
    documentId: references('document'),
    kind: text,
    at: text,
    personId: references('person'),
  },
  indices: [
    { name: 'delivery_paper_delivery', columns: ['deliveryId', 'at'] },
    { name: 'delivery_paper_document', columns: ['documentId'] },
  ],
})
