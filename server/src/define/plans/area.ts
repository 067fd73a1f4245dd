import type { Area } from '../../kernel/area'
import { PlanEntity, PlanLineEntity, PlanRevisionEntity } from './entities'
import { planExchangeRoutes } from './planExchange'
import { planRoutes } from './plans'
import { takeAllEffect } from './planSchedule'

/** How it is inspected: plans with their lines and revisions. */
export const plans: Area = {
  name: 'define/plans',
  entities: [PlanEntity, PlanRevisionEntity, PlanLineEntity],
  routes(routes, kernel) {
    planRoutes(routes, kernel)
    planExchangeRoutes(routes, kernel)
  },
  subjects: { plan: { table: 'plan', column: 'code' } },
  jobs: [{ words: 'putting plans into effect', everyMs: 5 * 60_000, run: takeAllEffect }],
}
