import type { Area } from '../../kernel/area'
import { OrderStepEntity, ProductionOrderEntity, StepReportEntity } from './entities'
import { ordersFound } from './repository'
import { productionRoutes } from './routes'
import { lookingAtTheClock } from './stepClock'

/** What is made: orders, their steps one after the other, and what is reported of each. */
export const production: Area = {
  name: 'run/production',
  entities: [ProductionOrderEntity, OrderStepEntity, StepReportEntity],
  routes: productionRoutes,
  subjects: { 'production order': { table: 'production_order', column: 'code' } },
  jobs: [lookingAtTheClock()],
  searchProviders: [ordersFound],
}
