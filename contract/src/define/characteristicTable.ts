import { answerVerdicts, characteristicKinds, noteTypes, type MarginalBand } from '@nemawashi/core'
import type { CharacteristicDetails } from './characteristic'
import { CharacteristicFields, noDetails } from './characteristic'
import { documentKeysOf, noLinks, type CharacteristicLinks } from './characteristicLinks'

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
  'answerList',
  'documents',
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

/**
 * `E even = conforming; M matt patches = nonconforming, then G-DETAIL`, where G-DETAIL is a plan that the answer asks for in addition.
 * A semicolon or an equals sign in the words is written with a backslash before it.
 */
function answersText(answers: CharacteristicDetails['answers'], followUps: CharacteristicLinks['followUps']): string {
  return answers
    .map(({ code, words, verdict }, i) => {
      const then = followUps[i] == null ? '' : `, then ${followUps[i]}`
      return `${code} ${words.replaceAll(/[\\;=]/g, String.raw`\$&`)} = ${verdict}${then}`
    })
    .join('; ')
}

interface ReadAnswers {
  readonly answers: CharacteristicDetails['answers']
  readonly followUps: CharacteristicLinks['followUps']
}

/** `M matt = nonconforming, then PLAN` in its parts, cut at fixed places: its time grows with its length and no faster. */
function partsOf(part: string): { code?: string | undefined; words: string; verdict?: string | undefined; then?: string | undefined } {
  const text = part.trim()
  const equals = /(?<!\\)=/.exec(text)?.index ?? -1
  const blank = /\s/.exec(text)?.index ?? -1
  if (equals < 0 || blank < 0 || blank > equals) return { words: '' }
  const right = text.slice(equals + 1).trim()
  const comma = right.indexOf(',')
  const after = comma < 0 ? '' : right.slice(comma + 1).trim()
  const verdict = (comma < 0 ? right : right.slice(0, comma)).trim()
  if (!/^\w+$/.test(verdict) || (comma >= 0 && !/^then\s+\S/.test(after))) return { words: '' }
  const then = comma < 0 ? undefined : after.slice(4).trim()
  return { code: text.slice(0, blank), words: text.slice(blank, equals).trim(), verdict, then }
}

function answersOf(text: string): ReadAnswers {
  const read = (text === '' ? [] : text.split(/(?<!\\);/)).map((part) => {
    const { code, words, verdict, then } = partsOf(part)
    const known = answerVerdicts.find((name) => name === verdict?.toLowerCase())
    if (code === undefined || known === undefined)
      throw new Error(`Received "${part.trim()}". Write answers like E even = conforming; M matt = nonconforming, then PLAN-CODE.`)
    return { answer: { code, words: words.replaceAll(/\\([\\;=])/g, '$1'), verdict: known, followUpPlanId: null }, then: then ?? null }
  })
  return { answers: read.map(({ answer }) => answer), followUps: read.map(({ then }) => then) }
}

/** A characteristic as a table row. The content of its documents stays out; their keys are there. */
export function rowOf(code: string, fields: CharacteristicFields, links: CharacteristicLinks = noLinks): TableRow {
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
    answers: answersText(details.answers, links.followUps),
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
    answerList: links.answerList ?? '',
    documents: links.documents.join('; '),
  }
  return Object.fromEntries(Object.entries(full).filter(([, value]) => value !== ''))
}

function oneOf<T extends string>(choices: readonly T[], text: string, fallback: T): T {
  if (text === '') return fallback
  const found = choices.find((choice) => choice.toLowerCase() === text.toLowerCase())
  if (found === undefined) throw new Error(`Received "${text}". It is one of ${choices.join(', ')}.`)
  return found
}

/** A row that could be read: what it says, and what it points at, which is for the plant to look up. */
interface ReadRow {
  readonly fields: CharacteristicFields
  readonly links: CharacteristicLinks
}

/** Reads a table row. Shape: TableRow → the fields, or every cell that cannot be read. Whether the fields make sense is not judged here. */
export function fieldsOfRow(row: TableRow): ReadRow | { readonly problems: readonly CellProblem[] } {
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
  const { answers, followUps } = read<ReadAnswers>('answers', answersOf, { answers: [], followUps: [] })
  const links = { followUps, answerList: maybe('answerList'), documents: read('documents', documentKeysOf, []) }
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
      answers,
      countUnit: maybe('countUnit'),
      faultCodes: cell('faultCodes') === '' ? [] : cell('faultCodes').split(/\s*[;,]\s*/),
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
  const place = ({ column }: CellProblem) => tableColumns.indexOf(column)
  if (problems.length > 0) return { problems: problems.sort((a, b) => place(a) - place(b)) }
  const parsed = CharacteristicFields.safeParse(fields)
  if (parsed.success) return { fields: parsed.data, links }
  return { problems: parsed.error.issues.map((issue) => ({ column: columnOf(issue.path), message: issue.message })) }
}

function columnOf(path: readonly PropertyKey[]): TableColumn {
  const name = String(path.at(path[0] === 'details' ? 1 : 0))
  return (tableColumns as readonly string[]).includes(name) ? (name as TableColumn) : name === 'typed' ? 'tolerance' : 'name'
}
