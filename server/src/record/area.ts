import { inspectionsFound } from '../inspections/repository'
import type { Area } from '../kernel/area'
import { hasColumn } from '../kernel/database/hasColumn'
import { AdaptationEntity, AssignmentEntity } from '../inspections/assignmentEntities'
import { ConsiderationEntity, InspectionEntity, InspectionLineEntity, ReadingEntity, SeriesEntity } from '../inspections/entities'
import { openFollowUps } from '../opening/followUps'
import { recordRoutes } from './routes'
import { AcceptanceStopEntity } from '../opening/stopEntities'
import { keepSeverity, replaySeverity, verifySeverity } from '../opening/severity'
import { LineSeverityEntity } from '../opening/severityEntities'
import { noteStops, withdrawStops } from '../opening/stops'
import { tellPeople, ToldEntity } from './bench/told'

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
