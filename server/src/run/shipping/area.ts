import type { Area } from '../../kernel/area'
import { CustomerReturnEntity, DispatchEntity, DispatchLineEntity, DispatchPickEntity } from './entities'
import { dispatchesFound } from './repository'
import { shippingRoutes } from './routes'

/** What leaves: planned, picked, sent, and what comes back of it. */
export const shipping: Area = {
  name: 'run/shipping',
  entities: [DispatchEntity, DispatchLineEntity, DispatchPickEntity, CustomerReturnEntity],
  routes: shippingRoutes,
  subjects: {
    dispatch: { table: 'dispatch', column: 'code' },
    'customer return': { table: 'customer_return', column: 'code' },
  },
  searchProviders: [dispatchesFound],
}
