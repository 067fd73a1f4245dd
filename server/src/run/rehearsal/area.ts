import type { Area } from '../../kernel/area'
import { rehearsalRoutes } from './routes'

/** What control points would ask, and what they would have asked: nothing is stored. */
export const rehearsal: Area = { name: 'run/rehearsal', routes: rehearsalRoutes }
