import type { Area } from '../kernel/area'
import { AdaptationEntity, AssignmentEntity } from './assignmentEntities'
import { ConsiderationEntity, InspectionEntity, InspectionLineEntity, ReadingEntity, SeriesEntity } from './entities'
import { EvidenceEntity } from './evidenceEntity'
import { GaugeUseEntity } from './gaugeUseEntity'
import { inspectionsFound } from './repository'

/** What an inspection is: opened below recording and running, which both use it. */
export const inspections: Area = {
  name: 'inspections',
  entities: [
    SeriesEntity,
    InspectionEntity,
    InspectionLineEntity,
    ReadingEntity,
    GaugeUseEntity,
    EvidenceEntity,
    ConsiderationEntity,
    AssignmentEntity,
    AdaptationEntity,
  ],
  subjects: { inspection: { table: 'inspection', column: 'code' } },
  searchProviders: [inspectionsFound],
}
