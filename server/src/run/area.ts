import type { Area } from '../kernel/area'
import { runRoutes } from './routes'

/** What happens to lots on their way. */
export const run: Area = {
  name: 'run',
  routes: runRoutes,
  subjects: {
    delivery: { table: 'delivery', column: 'code' },
  },
  finds: [
    {
      kind: 'delivery',
      sql: `SELECT d.id, d.code AS title, s.name || ' · order ' || d.orderNumber AS detail FROM delivery d JOIN partner s ON s.id = d.supplierId
          WHERE d.code LIKE ? ESCAPE '\\' OR d.orderNumber LIKE ? ESCAPE '\\' ORDER BY d.receivedAt DESC LIMIT 6`,
    },
  ],
}
