import type { Area } from '../../kernel/area'
import type { App } from '../../people/app'
import { freeByFinding } from './decide'
import { decisionRoutes } from './routes'

/** What becomes of pieces that are held. */
export const decisions: Area<App> = {
  name: 'contain/decisions',
  routes: decisionRoutes,
  subscribe: (events) => events.on('freedByFinding', freeByFinding),
}
