import type { Area } from '../../kernel/area'
import type { House } from '../../people/house'
import { freeByFinding } from './decide'
import { decisionRoutes } from './routes'

/** What becomes of pieces that are held. */
export const decisions: Area<House> = {
  name: 'contain/decisions',
  routes: decisionRoutes,
  hears: (happenings) => happenings.on('freedByFinding', freeByFinding),
}
