import { readRows } from '../kernel/database/readRows'
import { AssignmentEntity } from './assignmentEntities'
import { InspectionEntity, InspectionLineEntity } from './entities'
import { EvidenceEntity } from './evidenceEntity'

/** Rows that other areas read here; only this one writes them. */
export const assignmentRows = readRows(AssignmentEntity)
export const evidenceRows = readRows(EvidenceEntity)
export const inspectionRows = readRows(InspectionEntity)
export const inspectionLineRows = readRows(InspectionLineEntity)
