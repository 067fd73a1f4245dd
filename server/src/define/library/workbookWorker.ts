/**
 * Reads a workbook away from the server's own thread, with a memory of its own: a small file can stand for very much. What it unpacks to,
 * its rows, columns and merges are counted before anything is made of them.
 */
import { parentPort, workerData } from 'node:worker_threads'
import ExcelJS from 'exceljs'
import { unzipSync } from 'fflate'

export interface WorkbookProblem {
  readonly row: number
  readonly column: number
  readonly isError: boolean
  readonly message: string
}
export interface WorkbookTable {
  readonly columns: string[]
  readonly rows: string[][]
  readonly problems: WorkbookProblem[]
}
export type WorkbookReply = { readonly table: WorkbookTable } | { readonly refused: string }
export interface WorkbookJob {
  readonly content: Uint8Array
  readonly maxRows: number
}

const maxUnpacked = 64 * 1024 * 1024
const maxColumns = 200
const maxMerged = 2000

class Refused extends Error {}

/** Counts what the sheets hold, on their text: a cell in the last column, or a merge over everything, costs nothing here. */
function checkSheets(content: Uint8Array, maxRows: number): void {
  let together = 0
  const parts = unzipSync(content, {
    filter: ({ name, originalSize }) => {
      together += originalSize
      if (together > maxUnpacked)
        throw new Refused(`The workbook unpacks to more than ${maxUnpacked / 1024 / 1024} MB. Save the sheet alone, as XLSX or CSV.`)
      return /^xl\/worksheets\/[^/]+\.xml$/.test(name)
    },
  })
  for (const bytes of Object.values(parts)) {
    const text = new TextDecoder().decode(bytes)
    let rows = 0
    for (const _ of text.matchAll(/<row[\s>]/g)) rows += 1
    // One row of heads, and empty rows that a spreadsheet leaves between.
    if (rows > 2 * maxRows + 1) throw new Refused(`The sheet has ${rows} rows, an import takes ${maxRows}. Split it; nothing was read.`)
    for (const [, letters = ''] of text.matchAll(/<c [^>]*?\br="([A-Z]{1,3})\d+"/g)) {
      const column = [...letters].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0)
      if (column > maxColumns)
        throw new Refused(
          `The sheet uses the column ${letters}, the ${column}th; an import takes ${maxColumns}. Remove what is not part of the table.`,
        )
    }
    let merged = 0
    for (const [, from = '', fromRow = '', to = '', toRow = ''] of text.matchAll(/<mergeCell [^>]*?ref="([A-Z]+)(\d+):([A-Z]+)(\d+)"/g)) {
      const width = Math.abs(columnOf(to) - columnOf(from)) + 1
      merged += width * (Math.abs(Number(toRow) - Number(fromRow)) + 1)
      if (merged > maxMerged) throw new Refused(`More than ${maxMerged} cells are merged. Unmerge them and fill each row.`)
    }
  }
}

function columnOf(letters: string): number {
  return [...letters].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0)
}

function cellText(cell: ExcelJS.Cell): { text: string; problem: Omit<WorkbookProblem, 'row' | 'column'> | null } {
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
  // A cell's day has no zone: the library gives it as midnight in UTC, wherever the server and the plant are.
  if (value instanceof Date) return { text: value.toISOString().slice(0, 10), problem: null }
  return { text: cell.text, problem: null }
}

/** The first sheet: formula cells give their stored value and say so; merged cells are refused, as nobody can tell which row they belong to. */
async function readFirstSheet({ content, maxRows }: WorkbookJob): Promise<WorkbookTable> {
  checkSheets(content, maxRows)
  const workbook = new ExcelJS.Workbook()
  await workbook.xlsx.load(content.buffer.slice(content.byteOffset, content.byteOffset + content.byteLength) as ArrayBuffer)
  const sheet = workbook.worksheets[0]
  if (!sheet || sheet.rowCount === 0) throw new Refused('The workbook has no filled sheet.')
  const columns = Array.from({ length: sheet.columnCount }, (_, i) =>
    sheet
      .getRow(1)
      .getCell(i + 1)
      .text.trim(),
  )
  const rows: string[][] = []
  const problems: WorkbookProblem[] = []
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
  return { columns, rows, problems }
}

let reply: WorkbookReply
try {
  reply = { table: await readFirstSheet(workerData as WorkbookJob) }
} catch (error) {
  reply = { refused: error instanceof Refused ? error.message : 'The workbook cannot be opened. Save it again as XLSX, without a password.' }
}
parentPort?.postMessage(reply)
