import type { Area } from '../kernel/area'
import type { House } from '../people/house'
import { containRoutes } from './routes'

/** What becomes of pieces that are held. */
export const contain: Area<House> = { name: 'contain', routes: containRoutes }
