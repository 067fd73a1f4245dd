import type { Area } from '../../kernel/area'
import { PurchaseLineEntity, PurchaseOrderEntity } from './entities'
import { purchasesFound } from './repository'
import { purchasingRoutes } from './routes'

/** What was ordered of suppliers, and how much of it has come. */
export const purchasing: Area = {
  name: 'run/purchasing',
  entities: [PurchaseOrderEntity, PurchaseLineEntity],
  routes: purchasingRoutes,
  subjects: { 'purchase order': { table: 'purchase_order', column: 'order_number' } },
  searchProviders: [purchasesFound],
}
