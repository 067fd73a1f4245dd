import { hasDocument } from '../../documents/repository'
import {
  seriesOfLines,
  type Stored,
  progressOf,
  answersIn,
  type Fresh,
  insertReadings,
  noteStarted,
  noteAnswered,
  type Cell,
  type Stretch,
} from '../../inspections/readingRepository'
import { cellCount, CoreError, documentIn, inspectionStateWords, isOpen, readAnswer, type Mark, type MeasureUnit } from '@nemawashi/core'
import { askedOf, type InspectionLine, type ReadingInput } from '@nemawashi/contract'
import { knownUnits } from '../../define/masters/measureUnits'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadInspectionLines } from '../../inspections/inspections'
import { requireGauges } from '../gauging/requireGauges'
import { noteTaken } from '../../equip/instrumentRepository'
import { requireSent } from '../gauging/requireSent'
import { requireInspectors } from './requireInspectors'

const maxCached = 500

type CachedLine = InspectionLine & { readonly seriesId: string | null }

/**
 * Lines as the bench records on them, by the version of their inspection: whoever changes the lines of one, on this server or on another one of the
 * plant, raises it. So they need not be loaded for each reading.
 */
export class LineCache {
  private readonly known = new Map<string, { readonly version: number; readonly lines: ReadonlyMap<string, CachedLine> }>()

  async of(work: Work, inspectionId: string, version: number): Promise<ReadonlyMap<string, CachedLine>> {
    const known = this.known.get(inspectionId)
    if (known?.version === version) return known.lines
    const series = await seriesOfLines(work.manager, inspectionId)
    const lines = new Map(
      (await loadInspectionLines(work.manager, inspectionId)).map((line) => [line.id, { ...line, seriesId: series.get(line.id) ?? null }]),
    )
    if (this.known.size >= maxCached) this.known.delete(this.known.keys().next().value as string)
    this.known.set(inspectionId, { version, lines })
    return lines
  }
}

/** A single value outside the limits is asked about; a summary says itself how many are outside. */
function isDoubtful(line: InspectionLine, mark: Mark): boolean {
  return line.kind === 'measured' && line.details.recording === 'pieces' && mark === 'nonconforming'
}

function judge(line: InspectionLine, input: ReadingInput, units: readonly MeasureUnit[]): Pick<Stored, 'value' | 'entered' | 'mark'> {
  if (input.value === null) return { value: null, entered: null, mark: 'notJudged' }
  const answer = readAnswer(askedOf(line), input.value, units)
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
    if (named === null || (await hasDocument(work.manager, named.id))) continue
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
  const head = await progressOf(manager, inspectionId)
  if (!head) throw new ServerError('not_found', `There is no inspection with the id ${inspectionId}.`)
  const rows = await answersIn(manager, inspectionId, stretchesOf(inputs))
  const answers = new Map(rows.map((row) => [row.id, row as Stored]))
  const fresh = inputs.filter((input) => !answers.has(input.id))
  let { state, version } = head
  if (fresh.length === 0) work.nothingChanged()
  else {
    if (!isOpen(state))
      throw new ServerError('inspection_closed', `The inspection is ${inspectionStateWords[state]}; ${fresh.length} readings were not stored.`, {
        state,
      })
    const lines = await cache.of(work, inspectionId, version)
    await requireDocuments(work, lines, fresh)
    await requireInspectors(work, fresh)
    await requireGauges(work, inspectionId, lines, fresh)
    await requireSent(work, lines, fresh)
    const units = fresh.some(namesUnit) ? await knownUnits(manager) : []
    const cells = new Map(rows.map((row) => [cellKey(row), row]))
    let answered = head.answered
    const added: Fresh[] = []
    for (const input of fresh) {
      const row = withFacts(input, () => rowFor(lines, cells.get(cellKey(input)), input, { units, personId: work.personId }))
      const before = cells.get(cellKey(input))
      answered += (row.value === null ? 0 : 1) - (before === undefined || before.value === null ? 0 : 1)
      cells.set(cellKey(input), row)
      answers.set(row.id, row)
      added.push(row)
    }
    await insertReadings(manager, inspectionId, added, fresh, work)
    for (const { id, sentValueId } of fresh) if (sentValueId != null) await noteTaken(manager, sentValueId, id)
    if (state === 'toDo') {
      state = 'started'
      version += 1
      await noteStarted(manager, inspectionId, { startedAt: work.now, startedById: work.personId, version })
    }
    await noteAnswered(manager, inspectionId, answered)
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

/** What converts a value with its unit behind it; most have none, and nothing is looked up for those. */
const namesUnit = ({ value }: ReadingInput) => value !== null && /\d.*[^\d\s]$/.test(value)

function rowFor(
  lines: ReadonlyMap<string, CachedLine>,
  current: Cell | undefined,
  input: ReadingInput,
  { units, personId }: { readonly units: readonly MeasureUnit[]; readonly personId: string | null },
): Fresh {
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
  const judged = judge(line, input, units)
  return {
    id: input.id,
    lineId: line.id,
    piece: input.piece,
    correction: current ? current.correction + 1 : 0,
    ...judged,
    number: line.seriesId === null || line.details.recording !== 'pieces' || judged.value === null ? null : Number(judged.value),
    seriesId: line.seriesId,
    gaugeId: judged.value === null ? null : (input.gaugeId ?? null),
    inspectedById: input.inspectedById === personId ? null : (input.inspectedById ?? null),
    isConfirmedOutside: input.isConfirmedOutside && isDoubtful(line, judged.mark),
  }
}

/** What was recorded, as the audit chain keeps it: for each line the pieces, how often they were corrected before, and the answers. */
function byLine(rows: readonly Cell[]): Record<string, [number, number, string | null][]> {
  const lines: Record<string, [number, number, string | null][]> = {}
  for (const { lineId, piece, correction, value } of rows) (lines[lineId] ??= []).push([piece, correction, value])
  return lines
}

/** The stretch of pieces that the inputs touch on each line. */
function stretchesOf(inputs: readonly ReadingInput[]): Stretch[] {
  const stretches = new Map<string, Stretch>()
  for (const { lineId, piece } of inputs) {
    const { from, to } = stretches.get(lineId) ?? { from: piece, to: piece }
    stretches.set(lineId, { lineId, from: Math.min(from, piece), to: Math.max(to, piece) })
  }
  return [...stretches.values()]
}
