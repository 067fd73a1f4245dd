import { readRows } from '../../kernel/database/readRows'
import { DeliveryEntity } from './entities'

/** Rows that other areas read here; only this one writes them. */
export const deliveryRows = readRows(DeliveryEntity)
