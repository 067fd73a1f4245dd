import { CoreError, judgeReading, parseReading, type Mark } from '@nemawashi/core'
import type { InspectionLine, ReadingInput } from '@nemawashi/contract'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import type { InspectionRow } from './entities'
import { loadInspectionLines } from './inspections'

interface Stored {
  id: string
  value: string | null
  mark: Mark
}

interface Cell extends Stored {
  lineId: string
  piece: number
  correction: number
}

type Head = Pick<InspectionRow, 'state' | 'version' | 'answered'>

const mostCached = 500

/** Lines of inspections never change once opened, so the bench need not load them for each reading. */
export class LineCache {
  private readonly lines = new Map<string, ReadonlyMap<string, InspectionLine>>()

  async of(work: Work, inspectionId: string): Promise<ReadonlyMap<string, InspectionLine>> {
    const known = this.lines.get(inspectionId)
    if (known) return known
    const loaded = new Map((await loadInspectionLines(work.manager, inspectionId)).map((line) => [line.id, line]))
    if (this.lines.size >= mostCached) this.lines.delete(this.lines.keys().next().value as string)
    this.lines.set(inspectionId, loaded)
    return loaded
  }
}

function judge(line: InspectionLine, input: ReadingInput): { value: string | null; mark: Mark } {
  if (input.value === null) return { value: null, mark: 'notJudged' }
  if (line.kind === 'judged') {
    if (input.value !== 'O' && input.value !== 'X')
      throw new ServerError('answer_invalid', `Received "${input.value.slice(0, 40)}". ${line.name} is answered with O or X.`)
    return { value: input.value, mark: input.value === 'O' ? 'conforming' : 'nonconforming' }
  }
  const value = parseReading(input.value, line.resolution ?? '1')
  const mark = judgeReading(value, line)
  if (mark === 'nonconforming' && !input.isConfirmedOutside) {
    throw new ServerError('outside_not_confirmed', `${value} ${line.unit} is outside the limits ${line.lower ?? '…'} to ${line.upper ?? '…'}.`, {
      value,
      lower: line.lower,
      upper: line.upper,
    })
  }
  return { value, mark }
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
  const known = (await manager.query('SELECT id, value, mark FROM reading WHERE id IN (SELECT value FROM json_each(?))', [
    JSON.stringify(inputs.map((input) => input.id)),
  ])) as Stored[]
  const answers = new Map(known.map((stored) => [stored.id, stored]))
  const fresh = inputs.filter((input) => !answers.has(input.id))
  let { state, version } = head
  if (fresh.length === 0) work.nothingChanged()
  else {
    if (state === 'finished' || state === 'decided')
      throw new ServerError('inspection_closed', `The inspection is ${state}; ${fresh.length} readings were not stored.`, { state })
    const lines = await cache.of(work, inspectionId)
    const cells = await currentCells(work, inspectionId, fresh)
    let answered = head.answered
    const rows: Cell[] = []
    for (const input of fresh) {
      const row = withFacts(input, () => rowFor(lines, cells.get(cellKey(input)), input))
      const before = cells.get(cellKey(input))
      answered += (row.value === null ? 0 : 1) - (before === undefined || before.value === null ? 0 : 1)
      cells.set(cellKey(input), row)
      answers.set(row.id, row)
      rows.push(row)
    }
    await insertRows(work, inspectionId, rows, fresh)
    if (state === 'toDo') {
      state = 'started'
      version += 1
      await manager.query('UPDATE inspection SET state = ?, startedAt = ?, startedById = ?, answered = ?, version = ? WHERE id = ?', [
        state,
        work.now,
        work.personId,
        answered,
        version,
        inspectionId,
      ])
    } else await manager.query('UPDATE inspection SET answered = ? WHERE id = ?', [answered, inspectionId])
    work.audit({
      action: 'recorded',
      subject: 'inspection',
      subjectId: inspectionId,
      after: rows.map((row) => [row.lineId, row.piece, row.correction, row.value]),
    })
  }
  return { state, version, readings: inputs.map(({ id }) => pickStored(answers.get(id) as Stored)) }
}

function pickStored({ id, value, mark }: Stored): Stored {
  return { id, value, mark }
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

function rowFor(lines: ReadonlyMap<string, InspectionLine>, current: Cell | undefined, input: ReadingInput): Cell {
  const line = lines.get(input.lineId)
  if (!line) throw new ServerError('not_found', `The inspection has no line ${input.lineId}.`)
  if (input.piece < 1 || input.piece > line.sampleSize) {
    throw new ServerError('piece_unknown', `Received piece ${input.piece}. ${line.name} looks at pieces 1 to ${line.sampleSize}.`)
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
  return { id: input.id, lineId: line.id, piece: input.piece, correction: current ? current.correction + 1 : 0, ...judge(line, input) }
}

async function currentCells(work: Work, inspectionId: string, inputs: readonly ReadingInput[]): Promise<Map<string, Cell>> {
  const rows = (await work.manager.query(
    `SELECT r.id, r.lineId, r.piece, r.correction, r.value, r.mark FROM json_each(?) j
     JOIN reading r ON r.inspectionId = ? AND r.lineId = j.value ->> 0 AND r.piece = j.value ->> 1 ORDER BY r.correction`,
    [JSON.stringify(inputs.map(({ lineId, piece }) => [lineId, piece])), inspectionId],
  )) as Cell[]
  return new Map(rows.map((row) => [cellKey(row), row]))
}

async function insertRows(work: Work, inspectionId: string, rows: readonly Cell[], inputs: readonly ReadingInput[]): Promise<void> {
  const packed = rows.map((row, i) => [
    row.id,
    row.lineId,
    row.piece,
    row.correction,
    row.value,
    row.mark,
    inputs[i]?.isConfirmedOutside ? 1 : 0,
    inputs[i]?.typedAt,
  ])
  await work.manager.query(
    `INSERT INTO reading (id, inspectionId, lineId, piece, correction, value, mark, isConfirmedOutside, typedAt, at, personId)
     SELECT value ->> 0, ?, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5, value ->> 6, value ->> 7, ?, ? FROM json_each(?)`,
    [inspectionId, work.now, work.personId, JSON.stringify(packed)],
  )
}
