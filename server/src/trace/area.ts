import type { Area } from '../kernel/area'
import { traceRoutes } from './routes'

/** The whole story of a lot, and of the day. */
export const trace: Area = { name: 'trace', routes: traceRoutes }
