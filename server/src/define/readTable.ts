import { documentKey, fromFileForm, LibraryFile, mostRows, rowOf, tableColumns, type ReadTable } from '@nemawashi/contract'
import ExcelJS from 'exceljs'
import Papa from 'papaparse'
import { ServerError } from '../kernel/serverError'
import { hashOf } from './documents'

type Problem = ReadTable['problems'][number]

function unreadable(message: string, facts: Record<string, unknown> = {}): ServerError {
  return new ServerError('table_unreadable', message, { ...facts, field: 'file' })
}

function checkSize(rows: number): void {
  if (rows > mostRows)
    throw unreadable(`The table has ${rows} rows, an import takes ${mostRows}. Split it; nothing was read.`, { rows, most: mostRows })
}

/** Heads as they stand, each once and none empty beneath which something stands. */
function checkHeads(columns: readonly string[]): void {
  if (columns.every((column) => column === ''))
    throw unreadable('The first row holds no column heads. Put them there, e.g. code, name, tolerance, unit.')
  const twice = columns.find((column, i) => column !== '' && columns.indexOf(column) !== i)
  if (twice !== undefined) throw unreadable(`The column head "${twice}" stands twice. Rename or remove one of them.`, { column: twice })
}

/**
 * Reads CSV text: comma, semicolon or tab, quoted as in RFC 4180.
 * @throws {ServerError} `table_unreadable` (not UTF-8, too many rows, no heads).
 */
function readCsv(content: Buffer): ReadTable {
  let text: string
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(content)
  } catch {
    throw unreadable('The file is not in UTF-8: some of its letters cannot be read. Save it as "CSV UTF-8", or as XLSX.')
  }
  if (text.includes('\0')) throw unreadable('The file is not text in UTF-8. Save it as "CSV UTF-8", or as XLSX.')
  const parsed = Papa.parse<string[]>(text, { skipEmptyLines: true, delimitersToGuess: [',', ';', '\t'] })
  const [head, ...all] = parsed.data
  const rows = all.filter((row) => row.some((cell) => cell.trim() !== ''))
  if (!head) throw unreadable('The file is empty.')
  checkSize(rows.length)
  const columns = head.map((cell) => cell.trim())
  checkHeads(columns)
  const problems: Problem[] = rows.flatMap((row, i) =>
    row.length > columns.length
      ? [
          {
            row: i + 1,
            column: columns.length - 1,
            isError: true,
            message: `The row has ${row.length} cells, the head ${columns.length}. A comma in a cell needs quotes around the cell.`,
          },
        ]
      : [],
  )
  // What a spreadsheet was kept from running as a formula comes back as it was.
  const plain = (cell: string) => (/^'[=+@-]/.test(cell) ? cell.slice(1) : cell)
  return { columns, rows: rows.map((row) => columns.map((_, i) => plain(row[i] ?? '').trim())), problems, carried: [] }
}

function cellText(cell: ExcelJS.Cell): { text: string; problem: Omit<Problem, 'row' | 'column'> | null } {
  const { value } = cell
  if (value === null || value === undefined) return { text: '', problem: null }
  if (cell.type === ExcelJS.ValueType.Formula) {
    const result = cell.result
    if (typeof result === 'number' || typeof result === 'string') {
      return { text: String(result), problem: { isError: false, message: `A formula (${cell.formula}): its last value ${result} was taken.` } }
    }
    return { text: '', problem: { isError: true, message: `A formula (${cell.formula}) without a stored value. Replace it by its value.` } }
  }
  if (cell.type === ExcelJS.ValueType.Error)
    return { text: '', problem: { isError: true, message: `The cell holds the error ${cell.text}. Mend it in the spreadsheet.` } }
  if (value instanceof Date) return { text: value.toISOString().slice(0, 10), problem: null }
  return { text: cell.text, problem: null }
}

/**
 * Reads the first sheet of a workbook. Formula cells give their stored value and say so; merged cells are refused, as nobody can tell which
 * row they belong to.
 * @throws {ServerError} `table_unreadable`.
 */
async function readWorkbook(content: Buffer): Promise<ReadTable> {
  const workbook = new ExcelJS.Workbook()
  try {
    await workbook.xlsx.load(content as unknown as ArrayBuffer)
  } catch {
    throw unreadable('The workbook cannot be opened. Save it again as XLSX, without a password.')
  }
  const sheet = workbook.worksheets[0]
  if (!sheet || sheet.rowCount === 0) throw unreadable('The workbook has no filled sheet.')
  checkSize(sheet.actualRowCount - 1)
  const width = sheet.columnCount
  const columns = Array.from({ length: width }, (_, i) =>
    sheet
      .getRow(1)
      .getCell(i + 1)
      .text.trim(),
  )
  checkHeads(columns)
  const rows: string[][] = []
  const problems: Problem[] = []
  for (let number = 2; number <= sheet.rowCount; number++) {
    const row = sheet.getRow(number)
    if (!row.hasValues) continue
    const cells = columns.map((_, i) => {
      const cell = row.getCell(i + 1)
      const at = { row: rows.length + 1, column: i }
      if (cell.isMerged)
        problems.push({ ...at, isError: true, message: `The cell ${cell.address} is merged with others. Unmerge them and fill each row.` })
      const { text, problem } = cellText(cell)
      if (problem) problems.push({ ...at, ...problem })
      return text.trim()
    })
    if (cells.some((cell) => cell !== '')) rows.push(cells)
  }
  return { columns, rows, problems, carried: [] }
}

/** Reads the JSON form of the library, checked against its schema. */
function readJson(content: Buffer): ReadTable {
  let json: unknown
  try {
    json = JSON.parse(content.toString('utf8'))
  } catch (error) {
    throw unreadable(`The file begins like JSON, but is not: ${error instanceof Error ? error.message : ''}.`)
  }
  const parsed = LibraryFile.safeParse(json)
  if (!parsed.success) {
    const [issue] = parsed.error.issues
    throw unreadable(`The file does not follow the schema at /api/library/schema: ${issue?.path.join('.') ?? ''} ${issue?.message ?? ''}.`, {
      path: issue?.path.join('.'),
    })
  }
  const rows = parsed.data.characteristics.map((each) => {
    const { code, fields, links } = fromFileForm(each)
    const row = rowOf(code, fields, links)
    return tableColumns.map((column) => row[column] ?? '')
  })
  const carried = parsed.data.documents.map(({ name, content: encoded }) => documentKey(name, hashOf(encoded)))
  return { columns: [...tableColumns], rows, problems: [], carried }
}

/** Reads a file by what it begins with, whatever it is called. */
export async function readTable(name: string, content: Buffer): Promise<ReadTable> {
  if (content.length === 0) throw unreadable('The file is empty.')
  const isZip = content[0] === 0x50 && content[1] === 0x4b
  if (!isZip && content.subarray(0, 4).equals(Buffer.from([0xd0, 0xcf, 0x11, 0xe0])))
    throw unreadable(`${name} is in the old XLS format. Save it as XLSX or CSV.`)
  if (/^\uFEFF?\s*\{/.test(content.subarray(0, 64).toString('utf8'))) return readJson(content)
  return isZip ? readWorkbook(content) : readCsv(content)
}
