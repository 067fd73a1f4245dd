import { reportedPieces, type Inspection, type InspectionLine, type Reading } from '@nemawashi/contract'
import Papa from 'papaparse'
import { csvOptions } from '../../kernel/files/csv'

/** Rows written at a time; a sample of ten million is a file like any other, and nobody waits for it but who asked. */
const rowsAtOnce = 500

/** The readings of an inspection as CSV, one row a cell that was asked for; cells without an answer are there, empty. */
export function* reportCsv(inspection: Inspection): Generator<string> {
  // Only where it looks at one: the columns of every other report stay as they are.
  const unit = inspection.unitLabel === null ? [] : ['containerOrSerial']
  const added = addedColumns(inspection)
  yield `\uFEFF${Papa.unparse([['inspection', 'lot', ...unit, ...columns, ...added.map(({ name }) => name)]], csvOptions)}\r\n`
  const own = [inspection.code, inspection.lotCode, ...(inspection.unitLabel === null ? [] : [inspection.unitLabel])]
  for (const line of inspection.lines) {
    const cells = cellsOf(inspection, line, added)
    const pieces = reportedPieces(line, inspection.readings)
    for (let from = 1; from <= pieces; from += rowsAtOnce) {
      const rows = Array.from({ length: Math.min(rowsAtOnce, pieces - from + 1) }, (_, i) => [...own, ...cells(from + i)])
      yield `${Papa.unparse(rows, csvOptions)}\r\n`
    }
  }
}

const columns = 'part characteristic revision name piece value unit lower upper mark corrections recordedBy typedAt entered skipped'.split(' ')

interface AddedColumn {
  readonly name: string
  readonly cell: (reading: Reading) => string
}

/** Columns that are there where anything stands in them: those of every other report stay as they are. */
function addedColumns({ gauges, readings }: Inspection): AddedColumn[] {
  return [
    ...(gauges.length > 0 ? [{ name: 'gauge', cell: ({ gaugeCode }: Reading) => gaugeCode ?? '' }] : []),
    ...(readings.some(({ isSent }) => isSent) ? [{ name: 'source', cell: ({ isSent }: Reading) => (isSent ? 'instrument' : 'typed') }] : []),
    ...(readings.some(({ inspectedByName }) => inspectedByName !== null)
      ? [{ name: 'inspectedBy', cell: ({ inspectedByName, recordedByName }: Reading) => inspectedByName ?? recordedByName }]
      : []),
  ]
}

/** The cells of a line, in the order of the columns. */
function cellsOf(inspection: Inspection, line: InspectionLine, added: readonly AddedColumn[]): (piece: number) => (string | number)[] {
  const answers = new Map(inspection.readings.filter(({ lineId }) => lineId === line.id).map((reading) => [reading.piece, reading]))
  const blank = inspection.skips.find(({ lineId }) => lineId === line.id)?.reason ?? ''
  const before = [inspection.partCode, line.code, line.revision, line.name]
  const limits = [line.unit ?? '', line.lower ?? '', line.upper ?? '']
  return (piece) => {
    const reading = answers.get(piece)
    if (!reading) return [...before, piece, '', ...limits, 'notJudged', 0, '', '', '', blank, ...added.map(() => '')]
    const { value, mark, corrections, recordedByName, typedAt, entered } = reading
    const own = [value ?? '', ...limits, mark, corrections, recordedByName, typedAt, entered ?? '', '']
    return [...before, piece, ...own, ...added.map(({ cell }) => cell(reading))]
  }
}
