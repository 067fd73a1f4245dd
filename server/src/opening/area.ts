import type { Area } from '../kernel/area'
import { hasColumn } from '../kernel/database/hasColumn'
import { openFollowUps } from './followUps'
import { openingRoutes } from './routes'
import { keepSeverity, replaySeverity, verifySeverity } from './severity'
import { LineSeverityEntity } from './severityEntities'
import { AcceptanceStopEntity } from './stopEntities'
import { noteStops, withdrawStops } from './stops'

/** From what happens at an operation to inspections that are open: what looks at it, how often, how much, and what follows from a finding. */
export const opening: Area = {
  name: 'opening',
  entities: [AcceptanceStopEntity, LineSeverityEntity],
  routes: openingRoutes,
  subjects: { 'acceptance stop': { table: 'acceptance_stop', column: 'id' } },
  verify: async (connection) => ((await hasColumn(connection, 'line_severity', 'kept')) ? verifySeverity(connection) : []),
  subscribe: (events) => {
    events.on('inspectionFinished', openFollowUps)
    events.on('inspectionFinished', keepSeverity)
    events.on('inspectionFinished', noteStops)
    events.on('inspectionReopened', withdrawStops)
    events.on('inspectionReopened', (work, { inspection }) => replaySeverity(work, inspection.id))
  },
}
