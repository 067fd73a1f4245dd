import type { Area } from '../../kernel/area'
import { stopRoutes } from './routes'

/** Inspection that the switching rules have stopped, until somebody answers for going on. */
export const stops: Area = { name: 'contain/stops', routes: stopRoutes }
