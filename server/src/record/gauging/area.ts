import type { Area } from '../../kernel/area'
import { gaugingRoutes } from './routes'

/** With what an inspection is measured: the gauge of a line, and what instruments send to its bench. */
export const gauging: Area = { name: 'record/gauging', routes: gaugingRoutes }
