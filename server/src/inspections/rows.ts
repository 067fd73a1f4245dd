import { readRows } from '../kernel/database/readRows'
import { AssignmentEntity } from './assignmentEntities'
import { EvidenceEntity, InspectionEntity, InspectionLineEntity } from './entities'

/** Rows that other areas read here; only this one writes them. */
export const assignmentRows = readRows(AssignmentEntity)
export const evidenceRows = readRows(EvidenceEntity)
export const inspectionRows = readRows(InspectionEntity)
export const inspectionLineRows = readRows(InspectionLineEntity)
