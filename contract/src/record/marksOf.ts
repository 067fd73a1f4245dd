import { acceptsText, countIn, isNonconforming, parseSummary, piecesAsked, type AskedLine, type LineMarks, type PieceAnswer } from '@nemawashi/core'
import type { GaugeUse } from './gaugeUse'
import type { Inspection, InspectionLine, Reading } from './inspection'

/** What the core has to know of a line to read and judge an answer on it. */
export function askedOf(line: InspectionLine): AskedLine {
  const { name, kind, unit, resolution, nominal, lower, upper } = line
  const { band, rounding, recording, answers, faultCodes, noteType } = line.details
  return { name, kind, unit, resolution, nominal, lower, upper, band, rounding, recording, answers, faultCodes, noteType }
}

type Answered = Pick<Reading, 'lineId' | 'piece' | 'value' | 'mark'>

function marksOfLine(line: InspectionLine, readings: readonly Answered[]): LineMarks {
  const { name, sampleSize, accept, isRequired, isDecisive, stages, variables, counting } = line
  const answered = readings.filter((reading) => reading.value !== null).sort((a, b) => a.piece - b.piece)
  const values = answered.map((reading) => reading.value as string)
  const first = values[0]
  const summary = line.details.recording === 'summary' && first !== undefined ? parseSummary(first) : null
  const isPerUnit = counting === 'nonconformities' && line.kind === 'counted'
  const limit = (value: string | null) => (value === null ? null : Number(value))
  return {
    name,
    sampleSize,
    accept,
    isRequired,
    isDecisive,
    isStopped: line.severity?.state === 'discontinued',
    stages,
    variables,
    marks: answered.map((reading) => reading.mark),
    unjudged: answered.filter((reading) => reading.mark === 'notJudged').length,
    marginalConforms: line.details.band?.countsAsConforming ?? true,
    nonconformities: isPerUnit ? values.reduce((sum, value) => sum + countIn(value), 0) : null,
    nonconformitiesByPiece: isPerUnit ? values.map(countIn) : null,
    also: line.shared,
    summary: summary && {
      count: summary.count,
      mean: Number(summary.mean),
      deviation: Number(summary.deviation ?? '0'),
      nonconforming: summary.nonconforming,
    },
    ...(line.kind === 'measured' && summary === null ? { values: values.map(Number) } : {}),
    limits: { lower: limit(line.lower), upper: limit(line.upper) },
  }
}

/** The lines of an inspection with the marks of their cells, ready to be judged by the core: on the bench and on the server alike. */
export function marksOf(lines: readonly InspectionLine[], readings: readonly Answered[]): LineMarks[] {
  const byLine = new Map<string, Answered[]>()
  for (const reading of readings) {
    const known = byLine.get(reading.lineId)
    if (known) known.push(reading)
    else byLine.set(reading.lineId, [reading])
  }
  return lines.map((line) => marksOfLine(line, byLine.get(line.id) ?? []))
}

/**
 * How many pieces of the sample are nonconforming on any line: pieces of the same number are the same piece. Of readings that are summed up in
 * one answer nobody knows which pieces they were: there are at least as many.
 */
export function nonconformingPieces(lines: readonly InspectionLine[], readings: readonly Answered[]): number {
  const bandOf = new Map(lines.map(({ id, details }) => [id, details.band?.countsAsConforming ?? true]))
  const pieces = new Set(
    readings.flatMap(({ lineId, piece, mark, value }) => (value !== null && isNonconforming(mark, bandOf.get(lineId)) ? [piece] : [])),
  )
  const summed = marksOf(lines, readings).map(({ summary }) => summary?.nonconforming ?? 0)
  return Math.max(pieces.size, ...summed)
}

/** What a line accepts, in words. */
export function acceptsOf(line: InspectionLine): string {
  return acceptsText({ ...askedOf(line), acceptableState: line.acceptableState, countUnit: line.details.countUnit })
}

/** Pieces of a line that are asked for now, after what was answered: on the bench, in the finding and in the report alike. */
export function askedPieces(line: InspectionLine, answerOf: (piece: number) => Pick<Answered, 'value' | 'mark'> | undefined): number {
  const { sampleSize, stages, isDecisive, counting, kind, details } = line
  const marginalConforms = details.band?.countsAsConforming ?? true
  const answered = (piece: number): PieceAnswer | null => {
    const answer = answerOf(piece)
    if (!answer || answer.value === null) return null
    const isCounted = counting === 'nonconformities' && kind === 'counted'
    return { mark: answer.mark, nonconformities: isCounted ? countIn(answer.value) : null }
  }
  const { recording } = details
  // Whoever else asks the same is asked for as far as its own plan goes.
  const plans = [{ sampleSize, stages }, ...line.shared]
  return Math.max(
    ...plans.map((plan) => piecesAsked({ recording, isDecisive, marginalConforms, sampleSize: plan.sampleSize, stages: plan.stages }, answered)),
  )
}

/** Cells of a line that a report shows: those that were asked for. */
export function reportedPieces(line: InspectionLine, readings: readonly Answered[]): number {
  const byPiece = new Map(readings.filter((reading) => reading.lineId === line.id).map((reading) => [reading.piece, reading]))
  return askedPieces(line, (piece) => byPiece.get(piece))
}

/** Is each answer of the line one measured value? Then it has a place on the strip. */
export function hasValues(line: InspectionLine): boolean {
  return line.kind === 'measured' && line.details.recording === 'pieces'
}

/** The gauges that values of a line stand with, each as it was chosen last, with how many values it gave and how many of them it sent by itself. */
export function gaugesThatMeasured({ gauges, readings }: Pick<Inspection, 'gauges' | 'readings'>, lineId: string): MeasuringGauge[] {
  const given = readings.filter((reading) => reading.lineId === lineId && reading.value !== null)
  const last = new Map(gauges.filter((use) => use.lineId === lineId).map((use) => [use.code, use]))
  return [...last.values()].flatMap((use) => {
    const own = given.filter(({ gaugeCode }) => gaugeCode === use.code)
    return own.length === 0 ? [] : [{ ...use, values: own.length, sent: own.filter(({ isSent }) => isSent).length }]
  })
}
interface MeasuringGauge extends GaugeUse {
  readonly values: number
  readonly sent: number
}
