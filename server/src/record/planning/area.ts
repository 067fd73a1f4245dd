import type { Area } from '../../kernel/area'
import { planningRoutes } from './routes'

/** What there is to do at the bench, who does it, and when. */
export const planning: Area = { name: 'record/planning', routes: planningRoutes }
