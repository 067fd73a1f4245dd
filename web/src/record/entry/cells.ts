import { askedOf, askedPieces as asked, marksOf, type InspectionLine, type Reading } from '@nemawashi/contract'
import { readAnswer, usualUnits, type LineMarks, type Mark, type MeasureUnit } from '@nemawashi/core'
import type { WaitingReading } from './outbox'

/** The answer in one cell of the bench, as far as it is known. */
export interface Answer {
  readonly id: string
  readonly value: string | null
  readonly mark: Mark
  readonly status: 'stored' | 'waiting'
  readonly corrections: number
}

export interface CellPlace {
  readonly line: number
  readonly piece: number
}

export type Cells = ReadonlyMap<string, Answer>

export function cellKey(lineId: string, piece: number): string {
  return `${lineId} ${piece}`
}

/** What a text says on a line, read as the server will; a text that cannot be read stands as it is, without a mark. */
export function readOn(line: InspectionLine, text: string | null, units: readonly MeasureUnit[] = usualUnits): { value: string | null; mark: Mark } {
  if (text === null) return { value: null, mark: 'notJudged' }
  try {
    return readAnswer(askedOf(line), text, units)
  } catch {
    return { value: text, mark: 'notJudged' }
  }
}

/** Cells that a line asks for now, on the bench as everywhere. */
export function askedPieces(line: InspectionLine, cells: Cells): number {
  return asked(line, (piece) => cells.get(cellKey(line.id, piece)))
}

/** What is stored, overlaid with what still waits to be sent. A refused answer is shown apart and stands in no cell. */
export function cellsOf(
  lines: readonly InspectionLine[],
  stored: readonly Reading[],
  waiting: readonly WaitingReading[],
  units: readonly MeasureUnit[] = usualUnits,
): Map<string, Answer> {
  const cells = new Map<string, Answer>()
  for (const { id, lineId, piece, value, mark, corrections } of stored)
    cells.set(cellKey(lineId, piece), { id, value, mark, status: 'stored', corrections })
  const lineOf = new Map(lines.map((line) => [line.id, line]))
  for (const reading of waiting) {
    const line = lineOf.get(reading.lineId)
    if (!line || reading.refusal !== null) continue
    const key = cellKey(reading.lineId, reading.piece)
    if (cells.get(key)?.id === reading.id) continue
    const before = cells.get(key)
    cells.set(key, {
      id: reading.id,
      ...readOn(line, reading.value, units),
      status: 'waiting',
      corrections: before ? before.corrections + 1 : 0,
    })
  }
  return cells
}

/** The lines with the marks of their cells, ready to be judged. */
export function marksOfCells(lines: readonly InspectionLine[], cells: Cells): LineMarks[] {
  const readings = [...cells].map(([key, { value, mark }]) => {
    const [lineId = '', piece = '0'] = key.split(' ')
    return { lineId, piece: Number(piece), value, mark }
  })
  return marksOf(lines, readings)
}

export type Direction = 'down' | 'across'

/** The next cell without an answer, going down a line first or across a piece first; null when all are answered. */
export function nextOpen(lines: readonly InspectionLine[], cells: Cells, from: CellPlace, direction: Direction): CellPlace | null {
  const order: CellPlace[] = []
  if (direction === 'down')
    lines.forEach((line, at) => order.push(...Array.from({ length: askedPieces(line, cells) }, (_, i) => ({ line: at, piece: i + 1 }))))
  else {
    const counts = lines.map((line) => askedPieces(line, cells))
    const most = Math.max(0, ...counts)
    for (let piece = 1; piece <= most; piece++) lines.forEach((_line, at) => piece <= (counts[at] ?? 0) && order.push({ line: at, piece }))
  }
  const start = order.findIndex((cell) => cell.line === from.line && cell.piece === from.piece)
  const isOpen = ({ line, piece }: CellPlace) => (cells.get(cellKey(lines[line]?.id ?? '', piece))?.value ?? null) === null
  return [...order.slice(start + 1), ...order.slice(0, start + 1)].find(isOpen) ?? null
}

/** Whether a number cell may hold this text while it is being typed: digits, one point or comma, a leading minus. */
export function mayBecomeNumber(text: string): boolean {
  return /^-?\d*[.,]?\d*$/.test(text) && text.length <= 30
}
