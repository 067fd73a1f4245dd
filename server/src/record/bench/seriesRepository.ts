import type { Reader } from '../../kernel/work/database'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

export interface SeriesValue {
  number: number
  takenAt: string
  piece: number
  inspectionId: string
  code: string
}

/** The series of a line and the unit of its numbers; null where there is no such line. */
export async function seriesOfLine(reader: Reader, lineId: string): Promise<{ seriesId: string | null; unit: string } | null> {
  const [line] = await rowsOf<{ seriesId: string | null; unit: string }>(
    reader,
    { seriesId: 'text?', unit: 'text' },
    `SELECT l.series_id, COALESCE(c.unit, '') AS unit FROM inspection_line l JOIN characteristic_revision c ON c.id = l.characteristic_revision_id
     WHERE l.id = ?`,
    [lineId],
  )
  return line ?? null
}

/** Numbers of a series in one unit: each cell as last corrected, nothing of what was cancelled. */
const standingSql = `FROM reading r JOIN inspection i ON i.id = r.inspection_id JOIN inspection_line l ON l.id = r.line_id
  JOIN characteristic_revision c ON c.id = l.characteristic_revision_id
  WHERE r.series_id = ? AND r.number IS NOT NULL AND COALESCE(c.unit, '') = ? AND i.state <> 'cancelled'
  AND NOT EXISTS (SELECT 1 FROM reading x WHERE x.inspection_id = r.inspection_id AND x.line_id = r.line_id AND x.piece = r.piece AND x.correction > r.correction)`

const seriesValueColumns: Columns<SeriesValue> = { number: 'number', takenAt: 'text', piece: 'number', inspectionId: 'text', code: 'text' }

/** The latest values, the newest first. */
export async function lastValues(reader: Reader, seriesId: string, unit: string, count: number): Promise<SeriesValue[]> {
  return rowsOf<SeriesValue>(
    reader,
    seriesValueColumns,
    `SELECT r.number, r.taken_at, r.piece, r.inspection_id, i.code ${standingSql} ORDER BY r.taken_at DESC, r.id DESC LIMIT ?`,
    [seriesId, unit, count],
  )
}

export async function countValues(reader: Reader, seriesId: string, unit: string): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(reader, { n: 'number' }, `SELECT COUNT(*) AS n ${standingSql}`, [seriesId, unit])
  return row?.n ?? 0
}
