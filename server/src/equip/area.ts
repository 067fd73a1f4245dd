import type { Area } from '../kernel/area'
import { GaugeEntity } from './entities'
import { gaugesFound } from './repository'
import { equipRoutes } from './routes'

/** What is measured with: the register of gauges, their calibration, and what each of them measured. */
export const equip: Area = {
  name: 'equip',
  entities: [GaugeEntity],
  routes: equipRoutes,
  subjects: { gauge: { table: 'gauge', column: 'code' } },
  searchProviders: [gaugesFound],
}
