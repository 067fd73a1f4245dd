import { EntitySchema } from 'typeorm'
import { uniqueText } from '../kernel/columns'

export interface DeliveryRow {
  id: string
  code: string
}
/** What an occasion has in addition when it is a delivery. */
export const DeliveryEntity = new EntitySchema<DeliveryRow>({
  name: 'delivery',
  columns: { id: { type: 'text', primary: true, foreignKey: { target: 'occasion' } }, code: uniqueText },
})
