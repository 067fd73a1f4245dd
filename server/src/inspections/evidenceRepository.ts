import type { Evidence } from '@nemawashi/contract'
import { rowsOf } from '../kernel/database/rowsOf'
import type { Reader } from '../kernel/work/database'

/** What was said of an inspection's pieces and lines and stands, in the order in which it was said. */
export async function evidenceOf(reader: Reader, inspectionId: string): Promise<Evidence[]> {
  const rows = await rowsOf(
    reader,
    {
      id: 'text',
      lineId: 'text?',
      piece: 'number?',
      faultCode: 'text?',
      faultName: 'text?',
      count: 'number?',
      words: 'text',
      documentId: 'text?',
      documentName: 'text?',
      mediaType: 'text?',
      placeX: 'number?',
      placeY: 'number?',
      at: 'text',
      byName: 'text',
    },
    `SELECT e.id, e.line_id, e.piece, e.fault_code, f.name AS fault_name, e.count, e.words, e.document_id, d.name AS document_name, d.media_type,
            e.place_x, e.place_y, e.at, p.name AS by_name
     FROM evidence e JOIN person p ON p.id = e.person_id LEFT JOIN fault_code f ON f.code = e.fault_code LEFT JOIN document d ON d.id = e.document_id
     WHERE e.inspection_id = ? AND e.withdrawn_at IS NULL ORDER BY e.at, e.id`,
    [inspectionId],
  )
  return rows.map(({ documentId, documentName, mediaType, placeX, placeY, ...row }) => ({
    ...row,
    document: documentId === null ? null : { id: documentId, name: documentName ?? '', mediaType: mediaType ?? '' },
    place: placeX === null || placeY === null ? null : { x: placeX, y: placeY },
  }))
}
