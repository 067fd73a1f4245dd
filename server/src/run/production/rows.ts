import { readRows } from '../../kernel/database/readRows'
import { OrderStepEntity, ProductionOrderEntity } from './entities'

/** Rows that other areas read here; only this one writes them. */
export const orderStepRows = readRows(OrderStepEntity)
export const productionOrderRows = readRows(ProductionOrderEntity)
