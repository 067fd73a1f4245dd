import type { Area } from '../kernel/area'
import { ControlPointEntity, OpenStopEntity } from './entities'
import { attachRoutes } from './routes'

/** Where on a part's way which plan is asked for. */
export const attach: Area = {
  name: 'attach',
  entities: [ControlPointEntity, OpenStopEntity],
  routes: attachRoutes,
  subjects: {
    'control point': { table: 'control_point', column: 'code' },
  },
}
