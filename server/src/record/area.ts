import { inspectionsFound } from './repository'
import type { Area } from '../kernel/area'
import { ConsiderationEntity, InspectionEntity, InspectionLineEntity, ReadingEntity, SeriesEntity } from './entities'
import { openFollowUps } from './followUps'
import { recordRoutes } from './routes'

/** Inspections: opened, recorded, judged. */
export const record: Area = {
  name: 'record',
  entities: [SeriesEntity, InspectionEntity, InspectionLineEntity, ReadingEntity, ConsiderationEntity],
  routes: recordRoutes,
  subjects: {
    inspection: { table: 'inspection', column: 'code' },
  },
  finds: [inspectionsFound],
  hears: (happenings) => happenings.on('inspectionFinished', openFollowUps),
}
