import { ServerError } from '../kernel/base/serverError'
import { isConstraint } from '../kernel/base/storage'
import type { Reading, ReadingInput } from '@nemawashi/contract'
import type { Reader, Store } from '../kernel/work/database'
import type { InspectionRow } from './entities'
import type { Mark } from '@nemawashi/core'
import { rowsOf, type Columns } from '../kernel/database/rowsOf'

export interface Stored {
  id: string
  value: string | null
  entered: string | null
  mark: Mark
}

/** An answer that is about to be stored: with the number that it is on its series, where one was measured. */
export interface Fresh extends Cell {
  number: number | null
  seriesId: string | null
  /** With which gauge, where one is named. */
  gaugeId: string | null
  /** Who inspected, where that was another than who typed. */
  inspectedById: string | null
}

export interface Cell extends Stored {
  /** The person said of a value outside the limits that it is what was measured. */
  isConfirmedOutside: boolean
  lineId: string
  piece: number
  correction: number
}

type InspectionProgress = Pick<InspectionRow, 'state' | 'version' | 'answered'>

/** Pieces of a line from one to another. */
export interface Stretch {
  readonly lineId: string
  readonly from: number
  readonly to: number
}

const cellColumns: Columns<Cell> = {
  isConfirmedOutside: 'flag',
  lineId: 'text',
  piece: 'number',
  correction: 'number',
  id: 'text',
  value: 'text?',
  entered: 'text?',
  mark: 'text',
}

/** Every answer in these stretches, earlier ones first. */
export async function answersIn(reader: Reader, inspectionId: string, stretches: readonly Stretch[]): Promise<Cell[]> {
  const rows: Cell[] = []
  for (const { lineId, from, to } of stretches) {
    rows.push(
      ...(await rowsOf<Cell>(
        reader,
        cellColumns,
        'SELECT id, line_id, piece, correction, value, entered, mark, is_confirmed_outside FROM reading WHERE inspection_id = ? AND line_id = ? AND piece BETWEEN ? AND ? ORDER BY piece, correction',
        [inspectionId, lineId, from, to],
      )),
    )
  }
  return rows
}

const inspectionProgressColumns: Columns<InspectionProgress> = { state: 'text', version: 'number', answered: 'number' }

/** How far an inspection is. */
export async function progressOf(reader: Reader, inspectionId: string): Promise<InspectionProgress | null> {
  const [head] = await rowsOf<InspectionProgress>(reader, inspectionProgressColumns, 'SELECT state, version, answered FROM inspection WHERE id = ?', [
    inspectionId,
  ])
  return head ?? null
}

export async function noteStarted(
  store: Store,
  inspectionId: string,
  { startedAt, startedById, version }: Pick<InspectionRow, 'startedAt' | 'startedById' | 'version'>,
): Promise<void> {
  await store.query(`UPDATE inspection SET state = 'started', started_at = ?, started_by_id = ?, version = ? WHERE id = ?`, [
    startedAt,
    startedById,
    version,
    inspectionId,
  ])
}

export async function noteAnswered(store: Store, inspectionId: string, answered: number): Promise<void> {
  await store.query('UPDATE inspection SET answered = ? WHERE id = ?', [answered, inspectionId])
}

/** The series that the values of each line go on. */
export async function seriesOfLines(reader: Reader, inspectionId: string): Promise<Map<string, string | null>> {
  const rows = await rowsOf(reader, { id: 'text', seriesId: 'text?' }, 'SELECT id, series_id FROM inspection_line WHERE inspection_id = ?', [
    inspectionId,
  ])
  return new Map(rows.map(({ id, seriesId }) => [id, seriesId]))
}

/** Rows in one statement: two statements stay prepared, this one and that of a single row. */
const rowsAtOnce = 50

const oneRow = '(?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)'

const insertInto =
  'INSERT INTO reading (id, inspection_id, line_id, piece, correction, value, entered, mark, is_confirmed_outside, typed_at, at, person_id, number, taken_at, series_id, gauge_id, inspected_by_id) VALUES '

const insertMany = insertInto + Array.from({ length: rowsAtOnce }, () => oneRow).join()

/** Adds answers. @throws {ServerError} `key_reused` where an id was used for another cell. */
export async function insertReadings(
  store: Store,
  inspectionId: string,
  rows: readonly Fresh[],
  inputs: readonly ReadingInput[],
  { now, personId }: { now: string; personId: string | null },
): Promise<void> {
  const values = rows.map((row, i) => [
    row.id,
    inspectionId,
    row.lineId,
    row.piece,
    row.correction,
    row.value,
    row.entered,
    row.mark,
    row.isConfirmedOutside ? 1 : 0,
    inputs[i]?.typedAt,
    now,
    personId,
    row.number,
    inputs[i]?.typedAt,
    row.seriesId,
    row.gaugeId,
    row.inspectedById,
  ])
  try {
    let at = 0
    for (; at + rowsAtOnce <= values.length; at += rowsAtOnce) await store.query(insertMany, values.slice(at, at + rowsAtOnce).flat())
    for (; at < values.length; at++) await store.query(insertInto + oneRow, values[at])
  } catch (error) {
    if (!isConstraint(error)) throw error
    throw new ServerError('key_reused', 'The id of a reading was used for another cell. Give each reading an id of its own.')
  }
}

type StoredReading = Omit<Reading, 'isSent'> & { isSent: number }

const readingColumns: Columns<StoredReading> = {
  id: 'text',
  lineId: 'text',
  piece: 'number',
  value: 'text?',
  entered: 'text?',
  mark: 'text',
  typedAt: 'text',
  recordedByName: 'text',
  inspectedByName: 'text?',
  gaugeCode: 'text?',
  isSent: 'number',
  corrections: 'number',
}

/** Every answer of an inspection, each cell's in the order in which they were given. */
export async function storedReadings(reader: Reader, inspectionId: string): Promise<Reading[]> {
  const rows = await rowsOf<StoredReading>(
    reader,
    readingColumns,
    `SELECT r.id, r.line_id, r.piece, r.value, r.entered, r.mark, r.typed_at, p.name AS recorded_by_name, o.name AS inspected_by_name, g.code AS gauge_code, CASE WHEN v.id IS NULL THEN 0 ELSE 1 END AS is_sent, r.correction AS corrections
     FROM reading r JOIN person p ON p.id = r.person_id LEFT JOIN gauge g ON g.id = r.gauge_id LEFT JOIN sent_value v ON g.id IS NOT NULL AND v.reading_id = r.id LEFT JOIN person o ON o.id = r.inspected_by_id WHERE r.inspection_id = ? ORDER BY r.line_id, r.piece, r.correction`,
    [inspectionId],
  )
  return rows.map((row) => ({ ...row, isSent: row.isSent === 1 }))
}
