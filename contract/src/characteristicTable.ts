import { answerVerdicts, characteristicKinds, noteTypes, type MarginalBand } from '@nemawashi/core'
import type { CharacteristicDetails } from './characteristic'
import { CharacteristicFields, noDetails } from './characteristic'

/** Columns of the table form of a characteristic, in order: what a spreadsheet of the library holds. */
export const tableColumns = [
  'code',
  'name',
  'kind',
  'class',
  'tolerance',
  'lower',
  'nominal',
  'upper',
  'unit',
  'resolution',
  'band',
  'rounding',
  'recording',
  'acceptableState',
  'answers',
  'countUnit',
  'faultCodes',
  'noteType',
  'method',
  'gaugeKind',
  'minutesPerPiece',
  'instruction',
  'adviceOnFailure',
  'responsible',
  'isAdaptable',
] as const
export type TableColumn = (typeof tableColumns)[number]
/** One characteristic as text cells; a cell that is left out is empty. */
export type TableRow = Partial<Record<TableColumn, string>>

/** What cannot be read in a cell, said beside it. */
export interface CellProblem {
  readonly column: TableColumn
  readonly message: string
}

/** `inside 0.01, conforming`, `outside 10 % of width, nonconforming`. */
function bandText(band: MarginalBand | null): string {
  if (band === null) return ''
  const width = band.width.kind === 'amount' ? band.width.amount : `${band.width.percent} % of ${band.width.base}`
  return `${band.side} ${width}, ${band.countsAsConforming ? 'conforming' : 'nonconforming'}`
}

function bandOf(text: string): MarginalBand | null {
  if (text === '') return null
  const [, side, number = '', base, counts] =
    /^(inside|outside)\s+(\d+(?:[.,]\d+)?)\s*(?:%\s*of\s+(nominal|limit|width))?\s*,\s*(conforming|nonconforming)$/i.exec(text) ?? []
  if (side === undefined) throw new Error(`Received "${text}". Write it like inside 0.01, conforming or outside 10 % of width, nonconforming.`)
  const amount = number.replace(',', '.')
  return {
    side: side.toLowerCase() as MarginalBand['side'],
    width:
      base === undefined
        ? { kind: 'amount', amount }
        : { kind: 'percentage', percent: amount, base: base.toLowerCase() as 'nominal' | 'limit' | 'width' },
    countsAsConforming: counts?.toLowerCase() === 'conforming',
  }
}

/** `E even = conforming; M matt patches = nonconforming`. A semicolon or an equals sign in the words is written with a backslash before it. */
function answersText(answers: CharacteristicDetails['answers']): string {
  return answers.map(({ code, words, verdict }) => `${code} ${words.replaceAll(/[\\;=]/g, String.raw`\$&`)} = ${verdict}`).join('; ')
}

function answersOf(text: string): CharacteristicDetails['answers'] {
  if (text === '') return []
  return text.split(/(?<!\\);/).map((part) => {
    const [, code, words = '', verdict] = /^\s*(\S+)\s+(.*?)\s*(?<!\\)=\s*(\w+)\s*$/.exec(part) ?? []
    const known = answerVerdicts.find((name) => name === verdict?.toLowerCase())
    if (code === undefined || known === undefined)
      throw new Error(`Received "${part.trim()}". Write answers like E even = conforming; M matt = nonconforming.`)
    return { code, words: words.replaceAll(/\\([\\;=])/g, '$1'), verdict: known, followUpPlanId: null }
  })
}

/** A characteristic as a table row; what only a server can keep (documents, follow-up plans, the list an answer came from) stays out. */
export function rowOf(code: string, fields: CharacteristicFields): TableRow {
  const { details } = fields
  const full: Record<TableColumn, string> = {
    code,
    name: fields.name,
    kind: fields.kind,
    class: fields.class,
    tolerance: details.typed ?? '',
    lower: fields.lower ?? '',
    nominal: fields.nominal ?? '',
    upper: fields.upper ?? '',
    unit: fields.unit ?? '',
    resolution: fields.resolution ?? '',
    band: bandText(details.band),
    rounding: details.rounding ?? '',
    recording: details.recording === 'pieces' ? '' : details.recording,
    acceptableState: fields.acceptableState ?? '',
    answers: answersText(details.answers),
    countUnit: details.countUnit ?? '',
    faultCodes: details.faultCodes.join('; '),
    noteType: details.noteType ?? '',
    method: fields.method,
    gaugeKind: details.gaugeKind ?? '',
    minutesPerPiece: details.minutesPerPiece === null ? '' : String(details.minutesPerPiece),
    instruction: fields.instruction,
    adviceOnFailure: details.adviceOnFailure,
    responsible: details.responsible ?? '',
    isAdaptable: details.isAdaptable ? '' : 'no',
  }
  return Object.fromEntries(Object.entries(full).filter(([, value]) => value !== ''))
}

function oneOf<T extends string>(choices: readonly T[], text: string, fallback: T): T {
  if (text === '') return fallback
  const found = choices.find((choice) => choice.toLowerCase() === text.toLowerCase())
  if (found === undefined) throw new Error(`Received "${text}". It is one of ${choices.join(', ')}.`)
  return found
}

/** Reads a table row. Shape: TableRow → the fields, or every cell that cannot be read. Whether the fields make sense is not judged here. */
export function fieldsOfRow(row: TableRow): { readonly fields: CharacteristicFields } | { readonly problems: readonly CellProblem[] } {
  const problems: CellProblem[] = []
  const cell = (column: TableColumn) => (row[column] ?? '').trim()
  const read = <T>(column: TableColumn, parse: (text: string) => T, fallback: T): T => {
    try {
      return parse(cell(column))
    } catch (error) {
      problems.push({ column, message: error instanceof Error ? error.message : String(error) })
      return fallback
    }
  }
  const maybe = (column: TableColumn) => cell(column) || null
  const needed = (column: TableColumn) =>
    read(
      column,
      (text) => {
        if (text === '') throw new Error('The cell is empty. Every characteristic has one.')
        return text
      },
      '',
    )
  needed('code')
  const fields: CharacteristicFields = {
    name: needed('name'),
    kind: read('kind', (text) => oneOf(characteristicKinds, text, 'measured'), 'measured'),
    class: read('class', (text) => text || 'major', 'major'),
    method: cell('method'),
    instruction: cell('instruction'),
    nominal: maybe('nominal'),
    lower: maybe('lower'),
    upper: maybe('upper'),
    unit: maybe('unit'),
    resolution: maybe('resolution'),
    acceptableState: maybe('acceptableState'),
    details: {
      ...noDetails,
      typed: maybe('tolerance'),
      band: read('band', bandOf, null),
      rounding: maybe('rounding'),
      recording: read('recording', (text) => oneOf(['pieces', 'summary'] as const, text, 'pieces'), 'pieces'),
      answers: read('answers', answersOf, []),
      countUnit: maybe('countUnit'),
      faultCodes: cell('faultCodes') === '' ? [] : cell('faultCodes').split(/\s*;\s*/),
      noteType: read('noteType', (text) => (text === '' ? null : oneOf(noteTypes, text, 'text')), null),
      gaugeKind: maybe('gaugeKind'),
      minutesPerPiece: read(
        'minutesPerPiece',
        (text) => {
          const value = Number(text.replace(',', '.'))
          if (!(value >= 0)) throw new Error(`Received "${text}". It is a number of minutes, e.g. 0.5.`)
          return text === '' ? null : value
        },
        null,
      ),
      adviceOnFailure: cell('adviceOnFailure'),
      responsible: maybe('responsible'),
      isAdaptable: read('isAdaptable', (text) => oneOf(['yes', 'no'] as const, text, 'yes') === 'yes', true),
    },
  }
  if (problems.length > 0) return { problems }
  const parsed = CharacteristicFields.safeParse(fields)
  if (parsed.success) return { fields: parsed.data }
  return { problems: parsed.error.issues.map((issue) => ({ column: columnOf(issue.path), message: issue.message })) }
}

function columnOf(path: readonly PropertyKey[]): TableColumn {
  const name = String(path.at(path[0] === 'details' ? 1 : 0))
  return (tableColumns as readonly string[]).includes(name) ? (name as TableColumn) : name === 'typed' ? 'tolerance' : 'name'
}
