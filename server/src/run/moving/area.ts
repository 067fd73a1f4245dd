import type { Area } from '../../kernel/area'
import { TransferEntity } from './entities'
import { transfersFound } from './repository'
import { movingRoutes } from './routes'

/** From place to place within the plant: put away, moved by rule or by hand, and what is where. */
export const moving: Area = {
  name: 'run/moving',
  entities: [TransferEntity],
  routes: movingRoutes,
  subjects: { transfer: { table: 'transfer', column: 'code' } },
  searchProviders: [transfersFound],
}
