import type { Area } from '../../kernel/area'
import { passportRoutes } from './routes'

/** The whole story of a lot. */
export const passport: Area = { name: 'trace/passport', routes: passportRoutes }
