import type { Area } from '../kernel/area'
import type { House } from '../people/house'
import { freeByFinding } from './decisions/decide'
import { containRoutes } from './routes'

/** What becomes of pieces that are held. */
export const contain: Area<House> = {
  name: 'contain',
  routes: containRoutes,
  hears: (happenings) => happenings.on('freedByFinding', freeByFinding),
}
