import { tableColumns, type ImportCheck, type ReadTable, type TableColumn, type TableRow } from '@nemawashi/contract'

/** Other words that heads of such tables use (common practice). */
const alike: Readonly<Partial<Record<TableColumn, readonly string[]>>> = {
  code: ['id', 'number', 'no', 'nr', 'characteristic', 'key'],
  name: ['title', 'description', 'designation'],
  kind: ['type'],
  class: ['classification', 'severity', 'weight'],
  tolerance: ['tol', 'spec', 'specification', 'requirement', 'limits'],
  lower: ['lsl', 'min', 'minimum', 'lower limit', 'low'],
  nominal: ['target', 'nominal value', 'nom'],
  upper: ['usl', 'max', 'maximum', 'upper limit', 'high'],
  unit: ['uom', 'units', 'unit of measure'],
  resolution: ['res', 'decimals', 'step'],
  method: ['how', 'test method', 'measurement'],
  gaugeKind: ['gauge', 'gage', 'instrument', 'equipment'],
  minutesPerPiece: ['minutes', 'time', 'effort'],
  acceptableState: ['acceptance', 'state', 'criterion'],
  answerList: ['answers from', 'list'],
  documents: ['files', 'pictures', 'attachments'],
  instruction: ['instructions', 'remark', 'notes', 'work instruction'],
}

const plain = (text: string) => text.toLowerCase().replaceAll(/[^a-z0-9]/g, '')

/** For each column of the file the column of the library that it probably is; null where none fits. */
export function guessColumns(heads: readonly string[]): (TableColumn | null)[] {
  const taken = new Set<TableColumn>()
  return heads.map((head) => {
    const said = plain(head)
    const found = tableColumns.find(
      (column) => !taken.has(column) && said !== '' && [column, ...(alike[column] ?? [])].some((word) => plain(word) === said),
    )
    if (found) taken.add(found)
    return found ?? null
  })
}

/** The rows of the file as rows of the library, by the matched columns. */
export function rowsOf(table: Pick<ReadTable, 'rows'>, matched: readonly (TableColumn | null)[]): TableRow[] {
  return table.rows.map((cells) => {
    const row: TableRow = {}
    matched.forEach((column, i) => {
      const text = cells[i] ?? ''
      if (column !== null && text !== '') row[column] = text
    })
    return row
  })
}

/** What is wrong with a cell. Rows count from 1, columns from 0. */
export interface PlacedProblem {
  readonly row: number
  readonly column: number
  readonly message: string
}

/** Problems of the file itself and of what its cells say, by place. A problem of a column that the file lacks stands at the code. */
export function problemsIn(table: ReadTable, check: ImportCheck | null, matched: readonly (TableColumn | null)[]): PlacedProblem[] {
  const ofCells = (check?.problems ?? []).map(({ row, column, message }) => {
    const at = matched.indexOf(column)
    return at >= 0 ? { row, column: at, message } : { row, column: Math.max(0, matched.indexOf('code')), message: `${column}: ${message}` }
  })
  return [...table.problems.filter((problem) => problem.isError), ...ofCells]
}

/** Columns that hold something, or that something is to be mended in. */
export function columnsInUse(table: Pick<ReadTable, 'columns' | 'rows'>, problems: readonly PlacedProblem[]): number[] {
  const wrong = new Set(problems.map(({ column }) => column))
  return table.columns.map((_, i) => i).filter((i) => wrong.has(i) || table.rows.some((cells) => (cells[i] ?? '') !== ''))
}

/** The table with one cell written anew; what the file had wrong there, a formula or a merged cell, is mended by that. */
export function mended(table: ReadTable, row: number, column: number, text: string): ReadTable {
  return {
    ...table,
    rows: table.rows.map((cells, i) => (i === row ? cells.map((cell, j) => (j === column ? text : cell)) : cells)),
    problems: table.problems.filter((problem) => problem.row !== row + 1 || problem.column !== column),
  }
}
