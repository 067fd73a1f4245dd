import { reportedPieces, type Inspection, type InspectionLine } from '@nemawashi/contract'
import Papa from 'papaparse'
import { csvOptions } from '../../kernel/files/csv'

/** Rows written at a time; a sample of ten million is a file like any other, and nobody waits for it but who asked. */
const rowsAtOnce = 500

/** The readings of an inspection as CSV, one row a cell that was asked for; cells without an answer are there, empty. */
export function* reportCsv(inspection: Inspection): Generator<string> {
  // Only where it looks at one: the columns of every other report stay as they are.
  const unit = inspection.unitLabel === null ? [] : ['containerOrSerial']
  const gauge = inspection.gauges.length === 0 ? [] : ['gauge']
  yield `\uFEFF${Papa.unparse([['inspection', 'lot', ...unit, ...columns, ...gauge]], csvOptions)}\r\n`
  const own = [inspection.code, inspection.lotCode, ...(inspection.unitLabel === null ? [] : [inspection.unitLabel])]
  for (const line of inspection.lines) {
    const cells = cellsOf(inspection, line)
    const pieces = reportedPieces(line, inspection.readings)
    for (let from = 1; from <= pieces; from += rowsAtOnce) {
      const rows = Array.from({ length: Math.min(rowsAtOnce, pieces - from + 1) }, (_, i) => [...own, ...cells(from + i)])
      yield `${Papa.unparse(rows, csvOptions)}\r\n`
    }
  }
}

const columns = 'part characteristic revision name piece value unit lower upper mark corrections recordedBy typedAt entered skipped'.split(' ')

/** The cells of a line, in the order of the columns. */
function cellsOf(inspection: Inspection, line: InspectionLine): (piece: number) => (string | number)[] {
  const answers = new Map(inspection.readings.filter(({ lineId }) => lineId === line.id).map((reading) => [reading.piece, reading]))
  const blank = inspection.skips.find(({ lineId }) => lineId === line.id)?.reason ?? ''
  const before = [inspection.partCode, line.code, line.revision, line.name]
  const limits = [line.unit ?? '', line.lower ?? '', line.upper ?? '']
  const hasGauges = inspection.gauges.length > 0
  return (piece) => {
    const reading = answers.get(piece)
    if (!reading) return [...before, piece, '', ...limits, 'notJudged', 0, '', '', '', blank, ...(hasGauges ? [''] : [])]
    const { value, mark, corrections, recordedByName, typedAt, entered, gaugeCode } = reading
    return [
      ...before,
      piece,
      value ?? '',
      ...limits,
      mark,
      corrections,
      recordedByName,
      typedAt,
      entered ?? '',
      '',
      ...(hasGauges ? [gaugeCode ?? ''] : []),
    ]
  }
}
