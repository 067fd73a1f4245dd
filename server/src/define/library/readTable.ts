import { documentKey, fromFileForm, LibraryFile, maxRows, rowOf, tableColumns, type ReadTable } from '@nemawashi/contract'
import Papa from 'papaparse'
import { unguarded } from '../../kernel/files/csv'
import { ServerError } from '../../kernel/base/serverError'
import { hashOf } from '../../documents/keepDocument'
import { readWorkbook } from './readWorkbook'

type Problem = ReadTable['problems'][number]

function unreadable(message: string, facts: Record<string, unknown> = {}): ServerError {
  return new ServerError('table_unreadable', message, { ...facts, field: 'file' })
}

function checkSize(rows: number): void {
  if (rows > maxRows) throw unreadable(`The table has ${rows} rows, an import takes ${maxRows}. Split it; nothing was read.`, { rows, most: maxRows })
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
  return { columns, rows: rows.map((row) => columns.map((_, i) => unguarded(row[i] ?? '').trim())), problems, carried: [] }
}

/** Reads the first sheet of a workbook. @throws {ServerError} `table_unreadable`. */
async function workbookTable(content: Buffer): Promise<ReadTable> {
  const reply = await readWorkbook(content, maxRows)
  if ('refused' in reply) throw unreadable(reply.refused)
  const { columns, rows, problems } = reply.table
  checkSize(rows.length)
  checkHeads(columns)
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
    throw unreadable(`The file does not follow the schema at /api/v1/library/schema: ${issue?.path.join('.') ?? ''} ${issue?.message ?? ''}.`, {
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
  return isZip ? workbookTable(content) : readCsv(content)
}
