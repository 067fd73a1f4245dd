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
  finds: [
    {
      kind: 'delivery',
      sql: `SELECT d.id, d.code AS title, s.name || ' · order ' || o.order_number AS detail FROM delivery d JOIN occasion o ON o.id = d.id JOIN partner s ON s.id = o.partner_id
          WHERE d.code LIKE ? ESCAPE '\\' OR o.order_number LIKE ? ESCAPE '\\' ORDER BY o.at DESC LIMIT 6`,
    },
  ],
}
