import type { Area } from '../kernel/area'
import { InspectionEntity, InspectionLineEntity, ReadingEntity, SeriesEntity } from './entities'
import { openFollowUps } from './followUps'
import { recordRoutes } from './routes'

/** Inspections: opened, recorded, judged. */
export const record: Area = {
  name: 'record',
  entities: [SeriesEntity, InspectionEntity, InspectionLineEntity, ReadingEntity],
  routes: recordRoutes,
  subjects: {
    inspection: { table: 'inspection', column: 'code' },
  },
  finds: [
    {
      kind: 'inspection',
      sql: `SELECT i.id, i.code AS title, pl.name || ' · lot ' || l.code AS detail FROM inspection i JOIN lot l ON l.id = i.lot_id
          JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan pl ON pl.id = r.plan_id
          WHERE i.code LIKE ? ESCAPE '\\' OR pl.name LIKE ? ESCAPE '\\' ORDER BY i.opened_at DESC LIMIT 6`,
    },
  ],
  hears: (happenings) => happenings.on('inspectionFinished', openFollowUps),
}
