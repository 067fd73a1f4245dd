import { inspectionsFound } from './repository'
import type { Area } from '../kernel/area'
import { hasColumn } from '../kernel/dialect/hasColumn'
import { AdaptationEntity, AssignmentEntity } from './assignmentEntities'
import { ConsiderationEntity, InspectionEntity, InspectionLineEntity, ReadingEntity, SeriesEntity } from './entities'
import { openFollowUps } from './followUps'
import { recordRoutes } from './routes'
import { AcceptanceStopEntity } from './stopEntities'
import { keepSeverity, replaySeverity, verifySeverity } from './severity'
import { LineSeverityEntity } from './severityEntities'
import { noteStops, withdrawStops } from './stops'
import { tellPeople, ToldEntity } from './told'

/** Inspections: opened, recorded, judged. */
export const record: Area = {
  name: 'record',
  entities: [
    SeriesEntity,
    InspectionEntity,
    InspectionLineEntity,
    ReadingEntity,
    ConsiderationEntity,
    AcceptanceStopEntity,
    AssignmentEntity,
    AdaptationEntity,
    ToldEntity,
    LineSeverityEntity,
  ],
  routes: recordRoutes,
  subjects: {
    inspection: { table: 'inspection', column: 'code' },
    'acceptance stop': { table: 'acceptance_stop', column: 'id' },
  },
  finds: [inspectionsFound],
  verify: async (connection) => ((await hasColumn(connection, 'line_severity', 'kept')) ? verifySeverity(connection) : []),
  hears: (happenings) => {
    happenings.on('inspectionFinished', openFollowUps)
    happenings.on('inspectionFinished', keepSeverity)
    happenings.on('inspectionFinished', noteStops)
    happenings.on('inspectionFinished', tellPeople)
    happenings.on('inspectionReopened', withdrawStops)
    happenings.on('inspectionReopened', (work, { inspection }) => replaySeverity(work, inspection.id))
  },
}
