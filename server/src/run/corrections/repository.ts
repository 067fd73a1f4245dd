import type { InspectionState, SubjectKind } from '@nemawashi/core'
import type { Reader } from '../../kernel/work/database'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

export interface OpenOnLot {
  readonly id: string
  readonly code: string
  readonly controlPointId: string
  readonly planName: string
  readonly state: InspectionState
  readonly subjectKind: SubjectKind
  readonly subjectId: string
  readonly answered: number
  readonly lotSize: number
  readonly sampleMost: number | null
}

const openOnLotColumns: Columns<OpenOnLot> = {
  id: 'text',
  code: 'text',
  controlPointId: 'text',
  planName: 'text',
  state: 'text',
  subjectKind: 'text',
  subjectId: 'text',
  answered: 'number',
  lotSize: 'number',
  sampleMost: 'number?',
}

/** Inspections of a lot by itself that are not called off; those that follow another one left out. */
export async function standingOn(reader: Reader, lotId: string): Promise<OpenOnLot[]> {
  return rowsOf<OpenOnLot>(
    reader,
    openOnLotColumns,
    `SELECT i.id, i.code, i.control_point_id, p.name AS plan_name, i.state, i.subject_kind, i.subject_id, i.answered, i.lot_size, i.sample_most FROM inspection i
     JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id
     WHERE i.lot_id = ? AND i.state <> 'cancelled' AND i.follows_id IS NULL ORDER BY i.code`,
    [lotId],
  )
}

/** The history of frequencies and severities goes with the partner that it was. */
export async function moveHistory(reader: Reader, lotIds: readonly string[], occasionId: string, partnerId: string): Promise<void> {
  await reader.query(
    'UPDATE consideration SET partner_id = ? WHERE lot_id IN (SELECT value FROM json_each(?)) OR (lot_id IS NULL AND occasion_id = ?)',
    [partnerId, JSON.stringify(lotIds), occasionId],
  )
}
