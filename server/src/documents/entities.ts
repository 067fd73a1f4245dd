import { EntitySchema } from 'typeorm'
import { id, int, references, text } from '../kernel/database/columns'

export interface DocumentRow {
  id: string
  name: string
  mediaType: string
  size: number
  /** SHA-256 of the content, hexadecimal. */
  hash: string
  at: string
  personId: string
  content: Buffer
}
/** Pictures, PDFs and models that definitions show; kept in the database, so that a backup holds everything. */
export const DocumentEntity = new EntitySchema<DocumentRow>({
  name: 'document',
  columns: { id, name: text, mediaType: text, size: int, hash: text, at: text, personId: references('person'), content: { type: 'blob' } },
  indices: [{ name: 'document_person', columns: ['personId', 'at'] }],
})
