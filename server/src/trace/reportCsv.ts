import { reportedPieces, type Inspection } from '@nemawashi/contract'
import Papa from 'papaparse'
import { csvOptions } from '../kernel/csv'

/** The readings of an inspection as CSV, one row a cell that was asked for; cells without an answer are there, empty. */
export function reportCsv(inspection: Inspection): string {
  const answers = new Map(inspection.readings.map((reading) => [`${reading.lineId} ${reading.piece}`, reading]))
  const rows = inspection.lines.flatMap((line) =>
    Array.from({ length: reportedPieces(line, inspection.readings) }, (_, i) => {
      const reading = answers.get(`${line.id} ${i + 1}`)
      return {
        inspection: inspection.code,
        lot: inspection.lotCode,
        // Only where it looks at one: the columns of every other report stay as they are.
        ...(inspection.unitLabel === null ? {} : { containerOrSerial: inspection.unitLabel }),
        part: inspection.partCode,
        characteristic: line.code,
        revision: line.revision,
        name: line.name,
        piece: i + 1,
        value: reading?.value ?? '',
        unit: line.unit ?? '',
        lower: line.lower ?? '',
        upper: line.upper ?? '',
        mark: reading?.mark ?? 'notJudged',
        corrections: reading?.corrections ?? 0,
        recordedBy: reading?.recordedByName ?? '',
        typedAt: reading?.typedAt ?? '',
        entered: reading?.entered ?? '',
        skipped: reading ? '' : (inspection.skips.find((skip) => skip.lineId === line.id)?.reason ?? ''),
      }
    }),
  )
  return `\uFEFF${Papa.unparse(rows, csvOptions)}\r\n`
}
