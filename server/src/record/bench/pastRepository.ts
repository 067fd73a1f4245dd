import type { Mark } from '@nemawashi/core'
import type { Reader } from '../../kernel/work/database'
import { adaptedSql } from '../../inspections/lineRepository'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

export interface LotRow {
  lineId: string
  id: string
  code: string
  partCode: string
  supplierName: string
  openedAt: string
  quantity: number
  order: string
  sampleSize: number
  accept: number
  details: string | null
}

const lotRowColumns: Columns<LotRow> = {
  lineId: 'text',
  id: 'text',
  code: 'text',
  partCode: 'text',
  supplierName: 'text',
  openedAt: 'text',
  quantity: 'number',
  order: 'text',
  sampleSize: 'number',
  accept: 'number',
  details: 'text?',
}

/** The last recorded lots of a characteristic, the newest first. */
export async function recordedLots(
  reader: Reader,
  characteristicId: string,
  query: { partId?: string | undefined; supplierId?: string | undefined },
  most: number,
): Promise<LotRow[]> {
  const filters = [query.partId === undefined ? '' : 'AND l.part_id = ?', query.supplierId === undefined ? '' : 'AND l.supplier_id = ?'].join(' ')
  const values = [query.partId, query.supplierId].filter((value) => value !== undefined)
  return rowsOf<LotRow>(
    reader,
    lotRowColumns,
    `SELECT n.id AS line_id, l.id, l.code, t.code AS part_code, s.name AS supplier_name, i.opened_at, i.lot_size AS quantity, COALESCE(v.order_number, '') AS "order", ${adaptedSql('size', 'n')} AS sample_size, ${adaptedSql('accept', 'n')} AS accept, c.details
     FROM characteristic_revision c JOIN inspection_line n ON n.characteristic_revision_id = c.id JOIN inspection i ON i.id = n.inspection_id
     JOIN lot l ON l.id = i.lot_id LEFT JOIN occasion v ON v.id = l.origin_id JOIN part t ON t.id = l.part_id LEFT JOIN partner s ON s.id = l.supplier_id
     WHERE c.characteristic_id = ? AND i.state IN ('finished', 'decided') ${filters}
     ORDER BY i.opened_at DESC, i.id DESC LIMIT ?`,
    [characteristicId, ...values, most],
  )
}

/** The answers that stand on these lines. */
export async function answersOf(reader: Reader, lineIds: readonly string[]) {
  return rowsOf<{ lineId: string; value: string | null; mark: Mark }>(
    reader,
    { lineId: 'text', value: 'text?', mark: 'text' },
    `SELECT r.line_id, r.value, r.mark FROM inspection_line n CROSS JOIN reading r
       WHERE r.inspection_id = n.inspection_id AND r.line_id = n.id AND n.id IN (${lineIds.map(() => '?').join()})
         AND r.correction = (SELECT MAX(m.correction) FROM reading m WHERE m.inspection_id = r.inspection_id AND m.line_id = r.line_id AND m.piece = r.piece)
       ORDER BY r.line_id, r.piece`,
    lineIds,
  )
}
