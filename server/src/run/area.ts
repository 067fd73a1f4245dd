import { dispatchesFound } from './dispatchRepository'
import { ordersFound } from './orderRepository'
import { deliveriesFound } from './repository'
import type { Area } from '../kernel/area'
import {
  CustomerReturnEntity,
  DeliveryCorrectionEntity,
  DeliveryEntity,
  DispatchEntity,
  DispatchPickEntity,
  OrderStepEntity,
  ProductionOrderEntity,
} from './entities'
import { runRoutes } from './routes'

/** What happens to lots on their way. */
export const run: Area = {
  name: 'run',
  entities: [
    DeliveryCorrectionEntity,
    DeliveryEntity,
    ProductionOrderEntity,
    OrderStepEntity,
    DispatchEntity,
    DispatchPickEntity,
    CustomerReturnEntity,
  ],
  routes: runRoutes,
  subjects: {
    delivery: { table: 'delivery', column: 'code' },
    'production order': { table: 'production_order', column: 'code' },
    dispatch: { table: 'dispatch', column: 'code' },
    'customer return': { table: 'customer_return', column: 'code' },
  },
  finds: [deliveriesFound, ordersFound, dispatchesFound],
}
