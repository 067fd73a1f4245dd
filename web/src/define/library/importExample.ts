import type { TableColumn, TableRow } from '@nemawashi/contract'

/** One characteristic of each kind, as a table from elsewhere could bring it. */
export const exampleRows: readonly TableRow[] = [
  { code: 'EX-1', name: 'Bore', kind: 'measured', tolerance: '25 H7', unit: 'mm', resolution: '0.001', method: 'Plug gauge with dial' },
  { code: 'EX-2', name: 'Wall thickness', kind: 'measured', tolerance: '2.0 ±0.1', unit: 'mm', resolution: '0.01' },
  { code: 'EX-3', name: 'Edges', kind: 'judged', acceptableState: 'No burr to be felt' },
  { code: 'EX-4', name: 'Surface', kind: 'coded', answers: 'E even = conforming; M matt = nonconforming' },
  { code: 'EX-5', name: 'Pores', kind: 'counted', countUnit: 'pores on a face', faultCodes: 'PORE, SHUT' },
  { code: 'EX-6', name: 'Heat number', kind: 'noted', noteType: 'text' },
]

/** What the columns hold, for those whose name alone does not say it. */
export const columnWords: readonly (readonly [TableColumn, string])[] = [
  ['code', 'its short name, once in the file and in the library'],
  ['kind', 'measured (where left out), judged, coded, counted or noted'],
  ['tolerance', 'as the drawing has it: 12.5 ±0.05, 25 H7, ≤ 0.8, min 20; or the columns lower, nominal, upper'],
  ['resolution', 'the finest step that is read, e.g. 0.01'],
  ['acceptableState', 'judged: what conforms, in words'],
  ['answers', 'coded: E even = conforming; M matt = nonconforming, then PLAN (a plan that this answer asks for; may be left out)'],
  ['countUnit', 'counted: what is counted on what; faultCodes beside it, with commas between'],
  ['noteType', 'noted: text, number, date, yesNo or document'],
  ['documents', 'pictures and drawings, as the library writes them: gate.png#3f9ac04be112'],
]

/** The example as CSV, with the columns that it uses. */
export function exampleCsv(): string {
  const columns = [...new Set(exampleRows.flatMap((row) => Object.keys(row)))] as TableColumn[]
  const cell = (text: string) => (/[",;\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)
  return [columns.join(','), ...exampleRows.map((row) => columns.map((column) => cell(row[column] ?? '')).join(','))].join('\r\n')
}
