import { EntitySchema } from 'typeorm'
import { id, maybeText, mayReference, references, text } from '../kernel/database/columns'

export interface EvidenceRow {
  id: string
  inspectionId: string
  lineId: string | null
  piece: number | null
  faultCode: string | null
  count: number | null
  words: string
  documentId: string | null
  /** Where on the picture, in thousandths of its width and height. */
  placeX: number | null
  placeY: number | null
  personId: string
  at: string
  withdrawnAt: string | null
  withdrawnById: string | null
}
/** What was said of a piece, a line or an inspection beyond its answers. What is taken back stays, with who took it back. */
export const EvidenceEntity = new EntitySchema<EvidenceRow>({
  name: 'evidence',
  columns: {
    id,
    inspectionId: references('inspection'),
    lineId: mayReference('inspection_line'),
    piece: { type: 'integer', nullable: true },
    faultCode: maybeText,
    count: { type: 'integer', nullable: true },
    words: text,
    documentId: mayReference('document'),
    placeX: { type: 'integer', nullable: true },
    placeY: { type: 'integer', nullable: true },
    personId: references('person'),
    at: text,
    withdrawnAt: maybeText,
    withdrawnById: mayReference('person'),
  },
  checks: [
    { name: 'evidence_count', expression: '("fault_code" IS NULL) = ("count" IS NULL)' },
    { name: 'evidence_place', expression: '("place_x" IS NULL) = ("place_y" IS NULL)' },
  ],
  indices: [
    { name: 'evidence_inspection', columns: ['inspectionId', 'at'] },
    { name: 'evidence_fault', columns: ['faultCode'], where: '"fault_code" IS NOT NULL' },
  ],
})
