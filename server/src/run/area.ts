import { deliveriesFound } from './repository'
import type { Area } from '../kernel/area'
import { DeliveryEntity } from './entities'
import { runRoutes } from './routes'

/** What happens to lots on their way. */
export const run: Area = {
  name: 'run',
  entities: [DeliveryEntity],
  routes: runRoutes,
  subjects: {
    delivery: { table: 'delivery', column: 'code' },
  },
  finds: [deliveriesFound],
}
