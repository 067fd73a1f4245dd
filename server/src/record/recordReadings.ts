import { cellCount, CoreError, documentIn, inspectionStateWords, isOpen, readAnswer, type Mark } from '@nemawashi/core'
import { askedOf, type InspectionLine, type ReadingInput } from '@nemawashi/contract'
import { ServerError } from '../kernel/serverError'
import { isConstraint } from '../kernel/storage'
import type { Work } from '../kernel/unitOfWork'
import type { InspectionRow } from './entities'
import { loadInspectionLines } from './inspections'

interface Stored {
  id: string
  value: string | null
  entered: string | null
  mark: Mark
}

/** An answer that is about to be stored: with the number that it is on its series, where one was measured. */
interface Fresh extends Cell {
  number: number | null
  seriesId: string | null
}

interface Cell extends Stored {
  /** The person said of a value outside the limits that it is what was measured. */
  isConfirmedOutside: boolean
  lineId: string
  piece: number
  correction: number
}

type Head = Pick<InspectionRow, 'state' | 'version' | 'answered'>

const mostCached = 500

type CachedLine = InspectionLine & { readonly seriesId: string | null }

/** Lines of inspections never change once opened, so the bench need not load them for each reading. */
export class LineCache {
  private readonly lines = new Map<string, ReadonlyMap<string, CachedLine>>()

  async of(work: Work, inspectionId: string): Promise<ReadonlyMap<string, CachedLine>> {
    const known = this.lines.get(inspectionId)
    if (known) return known
    const series = new Map(
      ((await work.manager.query('SELECT id, series_id FROM inspection_line WHERE inspection_id = ?', [inspectionId])) as CachedLine[]).map(
        ({ id, seriesId }) => [id, seriesId],
      ),
    )
    const lines = await loadInspectionLines(work.manager, inspectionId)
    const loaded = new Map(lines.map((line) => [line.id, { ...line, seriesId: series.get(line.id) ?? null }]))
    if (this.lines.size >= mostCached) this.lines.delete(this.lines.keys().next().value as string)
    this.lines.set(inspectionId, loaded)
    return loaded
  }
}

/** A single value outside the limits is asked about; a summary says itself how many are outside. */
function isDoubtful(line: InspectionLine, mark: Mark): boolean {
  return line.kind === 'measured' && line.details.recording === 'pieces' && mark === 'nonconforming'
}

function judge(line: InspectionLine, input: ReadingInput): Pick<Stored, 'value' | 'entered' | 'mark'> {
  if (input.value === null) return { value: null, entered: null, mark: 'notJudged' }
  const answer = readAnswer(askedOf(line), input.value)
  if (isDoubtful(line, answer.mark) && !input.isConfirmedOutside) {
    throw new ServerError(
      'outside_not_confirmed',
      `${answer.value} ${line.unit} is outside the limits ${line.lower ?? '…'} to ${line.upper ?? '…'}.`,
      {
        value: answer.value,
        lower: line.lower,
        upper: line.upper,
      },
    )
  }
  return answer
}

/** A document that is named as an answer has to be kept already. */
async function requireDocuments(work: Work, lines: ReadonlyMap<string, InspectionLine>, inputs: readonly ReadingInput[]): Promise<void> {
  for (const { id, lineId, value } of inputs) {
    if (value === null || lines.get(lineId)?.details.noteType !== 'document') continue
    const named = documentIn(value)
    if (named === null || ((await work.manager.query('SELECT 1 FROM document WHERE id = ?', [named.id])) as unknown[]).length > 0) continue
    throw new ServerError('reference_unknown', `The document ${named.name} is not kept here. Choose its file again.`, {
      readingId: id,
      received: named.id,
    })
  }
}

function cellKey({ lineId, piece }: { lineId: string; piece: number }): string {
  return `${lineId} ${piece}`
}

/**
 * Stores readings, all or none. One that was stored before (same id) is answered again and changes nothing.
 * @throws {ServerError} with the fact `readingId` that names the refused one.
 */
export async function recordReadings(work: Work, cache: LineCache, inspectionId: string, inputs: readonly ReadingInput[]) {
  const { manager } = work
  const [head] = (await manager.query('SELECT state, version, answered FROM inspection WHERE id = ?', [inspectionId])) as Head[]
  if (!head) throw new ServerError('not_found', `There is no inspection with the id ${inspectionId}.`)
  const rows = await rowsOfCells(work, inspectionId, inputs)
  const answers = new Map(rows.map((row) => [row.id, row as Stored]))
  const fresh = inputs.filter((input) => !answers.has(input.id))
  let { state, version } = head
  if (fresh.length === 0) work.nothingChanged()
  else {
    if (!isOpen(state))
      throw new ServerError('inspection_closed', `The inspection is ${inspectionStateWords[state]}; ${fresh.length} readings were not stored.`, {
        state,
      })
    const lines = await cache.of(work, inspectionId)
    await requireDocuments(work, lines, fresh)
    const cells = new Map(rows.map((row) => [cellKey(row), row]))
    let answered = head.answered
    const added: Fresh[] = []
    for (const input of fresh) {
      const row = withFacts(input, () => rowFor(lines, cells.get(cellKey(input)), input))
      const before = cells.get(cellKey(input))
      answered += (row.value === null ? 0 : 1) - (before === undefined || before.value === null ? 0 : 1)
      cells.set(cellKey(input), row)
      answers.set(row.id, row)
      added.push(row)
    }
    await insertRows(work, inspectionId, added, fresh)
    if (state === 'toDo') {
      state = 'started'
      version += 1
      await manager.query('UPDATE inspection SET state = ?, started_at = ?, started_by_id = ?, answered = ?, version = ? WHERE id = ?', [
        state,
        work.now,
        work.personId,
        answered,
        version,
        inspectionId,
      ])
    } else await manager.query('UPDATE inspection SET answered = ? WHERE id = ?', [answered, inspectionId])
    work.audit({ action: 'recorded', subject: 'inspection', subjectId: inspectionId, after: byLine(added) })
  }
  return { state, version, readings: inputs.map(({ id }) => pickStored(answers.get(id) as Stored)) }
}

function pickStored({ id, value, entered, mark }: Stored): Stored {
  return { id, value, entered, mark }
}

function withFacts<T>(input: ReadingInput, run: () => T): T {
  const facts = { readingId: input.id, lineId: input.lineId, piece: input.piece }
  try {
    return run()
  } catch (error) {
    if (error instanceof CoreError) throw new CoreError(error.code, error.message, { ...error.facts, ...facts })
    if (error instanceof ServerError) throw new ServerError(error.code, error.message, { ...error.facts, ...facts })
    throw error
  }
}

function rowFor(lines: ReadonlyMap<string, CachedLine>, current: Cell | undefined, input: ReadingInput): Fresh {
  const line = lines.get(input.lineId)
  if (!line) throw new ServerError('not_found', `The inspection has no line ${input.lineId}.`)
  const cells = cellCount({ recording: line.details.recording, sampleSize: line.sampleSize })
  if (input.piece < 1 || input.piece > cells) {
    throw new ServerError('piece_unknown', `Received piece ${input.piece}. ${line.name} looks at pieces 1 to ${cells}.`)
  }
  if (current && input.corrects !== current.id) {
    throw new ServerError('cell_already_answered', `Piece ${input.piece} of ${line.name} holds ${current.value ?? 'a withdrawn answer'} already.`, {
      current: current.value,
      currentId: current.id,
    })
  }
  if (!current && (input.corrects !== null || input.value === null)) {
    throw new ServerError('answer_invalid', `Piece ${input.piece} of ${line.name} holds no answer that could be corrected.`)
  }
  const judged = judge(line, input)
  return {
    id: input.id,
    lineId: line.id,
    piece: input.piece,
    correction: current ? current.correction + 1 : 0,
    ...judged,
    number: line.seriesId === null || line.details.recording !== 'pieces' || judged.value === null ? null : Number(judged.value),
    seriesId: line.seriesId,
    isConfirmedOutside: input.isConfirmedOutside && isDoubtful(line, judged.mark),
  }
}

/** What was recorded, as the audit chain keeps it: for each line the pieces, how often they were corrected before, and the answers. */
function byLine(rows: readonly Cell[]): Record<string, [number, number, string | null][]> {
  const lines: Record<string, [number, number, string | null][]> = {}
  for (const { lineId, piece, correction, value } of rows) (lines[lineId] ??= []).push([piece, correction, value])
  return lines
}

/** Every answer, earlier ones first, in the stretch of pieces that the inputs touch on each line. */
async function rowsOfCells(work: Work, inspectionId: string, inputs: readonly ReadingInput[]): Promise<Cell[]> {
  const stretches = new Map<string, { from: number; to: number }>()
  for (const { lineId, piece } of inputs) {
    const { from, to } = stretches.get(lineId) ?? { from: piece, to: piece }
    stretches.set(lineId, { from: Math.min(from, piece), to: Math.max(to, piece) })
  }
  const rows: Cell[] = []
  for (const [lineId, { from, to }] of stretches) {
    rows.push(
      ...((await work.manager.query(
        'SELECT id, line_id, piece, correction, value, entered, mark, is_confirmed_outside FROM reading WHERE inspection_id = ? AND line_id = ? AND piece BETWEEN ? AND ? ORDER BY piece, correction',
        [inspectionId, lineId, from, to],
      )) as Cell[]),
    )
  }
  return rows
}

/** Rows in one statement: two statements stay prepared, this one and that of a single row. */
const rowsAtOnce = 50
const oneRow = '(?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)'
const insertInto =
  'INSERT INTO reading (id, inspection_id, line_id, piece, correction, value, entered, mark, is_confirmed_outside, typed_at, at, person_id, number, taken_at, series_id) VALUES '
const insertMany = insertInto + Array.from({ length: rowsAtOnce }, () => oneRow).join()

async function insertRows(work: Work, inspectionId: string, rows: readonly Fresh[], inputs: readonly ReadingInput[]): Promise<void> {
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
    work.now,
    work.personId,
    row.number,
    inputs[i]?.typedAt,
    row.seriesId,
  ])
  try {
    let at = 0
    for (; at + rowsAtOnce <= values.length; at += rowsAtOnce) await work.manager.query(insertMany, values.slice(at, at + rowsAtOnce).flat())
    for (; at < values.length; at++) await work.manager.query(insertInto + oneRow, values[at])
  } catch (error) {
    if (!isConstraint(error)) throw error
    throw new ServerError('key_reused', 'The id of a reading was used for another cell. Give each reading an id of its own.')
  }
}
