import type { Area } from '../../kernel/area'
import { reportRoutes } from './routes'

/** Reports of an inspection: on paper, as a table, as data. */
export const reports: Area = { name: 'trace/reports', routes: reportRoutes }
