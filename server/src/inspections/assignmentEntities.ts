import { EntitySchema } from 'typeorm'
import { id, int, mayReference, maybeText, references, text } from '../kernel/database/columns'

export interface AssignmentRow {
  /** The inspection's own. */
  id: string
  /** For whom it is planned, and for which day of the plant. */
  personId: string | null
  day: string | null
  /** Who took it; null with a moment where it was put back, null without where nobody ever took it: whoever began it has it then. */
  holderId: string | null
  heldAt: string | null
  version: number
}
/** For whom an inspection is planned and who has it: beside it, as planning changes nothing of the inspection itself. */
export const AssignmentEntity = new EntitySchema<AssignmentRow>({
  name: 'assignment',
  columns: {
    id: { ...id, foreignKey: { target: 'inspection' } },
    personId: mayReference('person'),
    day: maybeText,
    holderId: mayReference('person'),
    heldAt: maybeText,
    version: int,
  },
  indices: [
    { name: 'assignment_person', columns: ['personId', 'day'] },
    { name: 'assignment_holder', columns: ['holderId'] },
  ],
})

export interface AdaptationRow {
  id: string
  inspectionId: string
  lineId: string
  beforeSize: number
  beforeAccept: number
  /** 0 where the line was dropped. */
  afterSize: number
  afterAccept: number
  reason: string
  at: string
  personId: string
}
/** Samples that somebody changed, or lines that somebody dropped, where the control point allows it: with the reason. Only added to. */
export const AdaptationEntity = new EntitySchema<AdaptationRow>({
  name: 'adaptation',
  columns: {
    id,
    inspectionId: references('inspection'),
    lineId: references('inspection_line'),
    beforeSize: int,
    beforeAccept: int,
    afterSize: int,
    afterAccept: int,
    reason: text,
    at: text,
    personId: references('person'),
  },
  indices: [
    { name: 'adaptation_inspection', columns: ['inspectionId', 'at'] },
    { name: 'adaptation_line', columns: ['lineId', 'at'] },
  ],
})
