import { AdaptationEntity, AssignmentEntity, type AdaptationRow, type AssignmentRow } from './assignmentEntities'
import {
  ConsiderationEntity,
  InspectionEntity,
  InspectionLineEntity,
  type ConsiderationRow,
  type InspectionLineRow,
  type InspectionRow,
} from './entities'
import { EvidenceEntity, type EvidenceRow } from './evidenceEntity'
import { GaugeUseEntity, type GaugeUseRow } from './gaugeUseEntity'
import { loadAt, saveNext } from '../kernel/work/versioned'
import type { Work } from '../kernel/work/unitOfWork'

/** What opening, recording, planning and deciding write of an inspection: its tables are written here and nowhere else. */

/** An inspection for changing. @throws {ServerError} `not_found`, `stale_version` */
export const loadInspectionAt = (work: Work, id: string, version: number): Promise<InspectionRow> =>
  loadAt(work, InspectionEntity, 'inspection', id, version)

/** The next version of an inspection, told to the chain as `action`. */
export const saveInspection = (work: Work, action: string, current: InspectionRow, changes: Partial<InspectionRow>, why?: string): Promise<void> =>
  saveNext(work, InspectionEntity, 'inspection', action, current, changes, why)

export async function insertInspection(work: Work, row: InspectionRow, lines: readonly InspectionLineRow[]): Promise<void> {
  await work.manager.insert(InspectionEntity, { ...row })
  for (const line of lines) await work.manager.insert(InspectionLineEntity, { ...line })
}

/** Who opened an inspection that no control point asked for, and why: part of its being opened. */
export async function noteOpenedByHand(work: Work, id: string, reason: string): Promise<void> {
  await work.manager.update(InspectionEntity, { id }, { openedById: work.personId, openReason: reason })
}

export async function updateInspectionLine(
  work: Work,
  id: string,
  changes: Pick<InspectionLineRow, 'sampleSize' | 'accept' | 'scheme'>,
): Promise<void> {
  await work.manager.update(InspectionLineEntity, { id }, changes)
}

export async function insertAdaptation(work: Work, row: AdaptationRow): Promise<void> {
  await work.manager.insert(AdaptationEntity, row)
}

/** What a frequency rule said of an arrival. */
export async function insertConsideration(work: Work, row: ConsiderationRow): Promise<void> {
  await work.manager.insert(ConsiderationEntity, row)
}

export async function insertAssignment(work: Work, row: AssignmentRow): Promise<void> {
  await work.manager.insert(AssignmentEntity, row)
}

export async function updateAssignment(work: Work, id: string, changes: Partial<AssignmentRow>): Promise<void> {
  await work.manager.update(AssignmentEntity, { id }, changes)
}

/** Which gauge lines are measured with from now on. */
export async function insertGaugeUses(work: Work, rows: readonly GaugeUseRow[]): Promise<void> {
  for (const row of rows) await work.manager.insert(GaugeUseEntity, row)
}

export async function insertEvidence(work: Work, row: EvidenceRow): Promise<void> {
  await work.manager.insert(EvidenceEntity, row)
}

/** Takes back what was said. */
export async function withdrawEvidenceRow(work: Work, id: string): Promise<void> {
  await work.manager.update(EvidenceEntity, { id }, { withdrawnAt: work.now, withdrawnById: work.personId })
}
