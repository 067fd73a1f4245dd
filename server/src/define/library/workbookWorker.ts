/**
 * Reads a workbook away from the server's own thread, with a memory of its own: a small file can stand for very much. What it unpacks to,
 * its rows, columns and merges are counted before anything is made of them.
 */
import { parentPort, workerData } from 'node:worker_threads'
import { unzipSync } from 'fflate'
import { readSheet, type CellValue } from 'read-excel-file/node'

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

/** The text of each part that is looked at: the sheets, and which of them stands first. */
type Parts = Readonly<Record<string, string>>

function unpack(content: Uint8Array): Parts {
  let together = 0
  const parts = unzipSync(content, {
    filter: ({ name, originalSize }) => {
      together += originalSize
      if (together > maxUnpacked)
        throw new Refused(`The workbook unpacks to more than ${maxUnpacked / 1024 / 1024} MB. Save the sheet alone, as XLSX or CSV.`)
      return /^xl\/(workbook\.xml|_rels\/workbook\.xml\.rels|worksheets\/[^/]+\.xml)$/.test(name)
    },
  })
  return Object.fromEntries(Object.entries(parts).map(([name, bytes]) => [name, new TextDecoder().decode(bytes)]))
}

/** Counts what the sheets hold, on their text: a cell in the last column, or a merge over everything, costs nothing here. */
function checkSheets(parts: Parts, maxRows: number): void {
  for (const text of Object.values(parts)) {
    let rows = 0
    for (const _ of text.matchAll(/<row[\s>]/g)) rows += 1
    // One row of heads, and empty rows that a spreadsheet leaves between.
    if (rows > 2 * maxRows + 1) throw new Refused(`The sheet has ${rows} rows, an import takes ${maxRows}. Split it; nothing was read.`)
    for (const [, letters = '', number = ''] of text.matchAll(/<c [^>]*?\br="([A-Z]{1,3})(\d+)"/g)) {
      const column = columnOf(letters)
      if (Number(number) > 2 * maxRows + 1)
        throw new Refused(`The sheet uses the row ${number}, an import takes ${maxRows} rows. Remove what is not part of the table.`)
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

function lettersOf(column: number): string {
  const letter = String.fromCharCode(65 + (column % 26))
  return column < 26 ? letter : lettersOf(Math.floor(column / 26) - 1) + letter
}

function columnOf(letters: string): number {
  return [...letters].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0)
}

/** What the library that reads cells does not tell: which hold a formula or an error, and which are merged. By row and column, from 0. */
interface Oddities {
  readonly formulas: ReadonlyMap<string, string>
  readonly errors: ReadonlyMap<string, string>
  readonly merged: ReadonlySet<string>
}
const at = (row: number, column: number) => `${row} ${column}`
const plain = (xml: string) =>
  xml.replaceAll(/&(lt|gt|quot|apos|amp);/g, (_, name: string) => ({ lt: '<', gt: '>', quot: '"', apos: "'", amp: '&' })[name] ?? '')

/** The text of the sheet that stands first in the workbook. */
function firstSheet(parts: Parts): string {
  const id = /<sheet\b[^>]*\br:id="([^"]*)"/.exec(parts['xl/workbook.xml'] ?? '')?.[1]
  const relations = [...(parts['xl/_rels/workbook.xml.rels'] ?? '').matchAll(/<Relationship\b[^>]*>/g)]
  const relation = relations.find(([tag]) => tag.includes(`Id="${id}"`))?.[0]
  const target = /\bTarget="\/?(?:xl\/)?([^"]*)"/.exec(relation ?? '')?.[1] ?? ''
  return parts[`xl/${target}`] ?? ''
}

function odditiesOf(sheet: string): Oddities {
  const formulas = new Map<string, string>()
  const errors = new Map<string, string>()
  const merged = new Set<string>()
  for (const [, head = '', letters = '', number = '', inner = ''] of sheet.matchAll(/<c\b([^>]*?\br="([A-Z]+)(\d+)"[^>]*?)(?:\/>|>([^]*?)<\/c>)/g)) {
    const key = at(Number(number) - 1, columnOf(letters) - 1)
    const formula = /<f\b[^>]*?(?:\/>|>([^]*?)<\/f>)/.exec(inner)
    if (formula) formulas.set(key, plain(formula[1] ?? 'shared'))
    if (/\bt="e"/.test(head)) errors.set(key, plain(/<v>([^]*?)<\/v>/.exec(inner)?.[1] ?? ''))
  }
  for (const [, from = '', fromRow = '', to = '', toRow = ''] of sheet.matchAll(/<mergeCell [^>]*?ref="([A-Z]+)(\d+):([A-Z]+)(\d+)"/g))
    for (let inRow = Number(fromRow); inRow <= Number(toRow); inRow++)
      for (let column = columnOf(from); column <= columnOf(to); column++) merged.add(at(inRow - 1, column - 1))
  return { formulas, errors, merged }
}

// A cell's day has no zone: the library gives it as midnight in UTC, wherever the server and the plant are.
const textOf = (value: CellValue | null) => (value === null ? '' : value instanceof Date ? value.toISOString().slice(0, 10) : String(value).trim())

function problemsOf(
  value: CellValue | null,
  key: string,
  address: string,
  { formulas, errors, merged }: Oddities,
): Omit<WorkbookProblem, 'row' | 'column'>[] {
  const found = []
  const formula = formulas.get(key)
  const error = errors.get(key)
  if (merged.has(key)) found.push({ isError: true, message: `The cell ${address} is merged with others. Unmerge them and fill each row.` })
  if (error !== undefined) found.push({ isError: true, message: `The cell holds the error ${error}. Mend it in the spreadsheet.` })
  else if (formula !== undefined)
    found.push(
      typeof value === 'number' || typeof value === 'string'
        ? { isError: false, message: `A formula (${formula}): its last value ${value} was taken.` }
        : { isError: true, message: `A formula (${formula}) without a stored value. Replace it by its value.` },
    )
  return found
}

/** The first sheet: formula cells give their stored value and say so; merged cells are refused, as nobody can tell which row they belong to. */
async function readFirstSheet({ content, maxRows }: WorkbookJob): Promise<WorkbookTable> {
  const parts = unpack(content)
  checkSheets(parts, maxRows)
  const [heads, ...filled] = (await readSheet(Buffer.from(content))) as (CellValue | null)[][]
  if (!heads) throw new Refused('The workbook has no filled sheet.')
  const oddities = odditiesOf(firstSheet(parts))
  const rows: string[][] = []
  const problems: WorkbookProblem[] = []
  for (const [i, values] of filled.entries()) {
    if (values.every((value, column) => value === null && !oddities.formulas.has(at(i + 1, column)) && !oddities.errors.has(at(i + 1, column))))
      continue
    for (const [column, value] of values.entries())
      for (const problem of problemsOf(value, at(i + 1, column), `${lettersOf(column)}${i + 2}`, oddities))
        problems.push({ row: rows.length + 1, column, ...problem })
    rows.push(values.map(textOf))
  }
  return { columns: heads.map(textOf), rows, problems }
}

let reply: WorkbookReply
try {
  reply = { table: await readFirstSheet(workerData as WorkbookJob) }
} catch (error) {
  reply = { refused: error instanceof Refused ? error.message : 'The workbook cannot be opened. Save it again as XLSX, without a password.' }
}
parentPort?.postMessage(reply)
