import { CoreError } from '../errors'
import { compareDecimal, parseDecimal, type Decimal } from './decimal'
import { isNonconforming, judgeReading, parseReading, type Mark } from './judgeReading'
import type { MarginalBand } from './marginalBand'
import { checkSummary, type ReadingSummary } from './readingSummary'
import { convertUnit } from './units'
import { usualUnits, type MeasureUnit } from './usualUnits'

export const characteristicKinds = ['measured', 'judged', 'coded', 'counted', 'noted'] as const
export type CharacteristicKind = (typeof characteristicKinds)[number]

export const answerVerdicts = ['conforming', 'nonconforming', 'neither'] as const
/** One answer of a list that a coded characteristic offers. */
export interface ListAnswer {
  readonly code: string
  readonly words: string
  readonly verdict: (typeof answerVerdicts)[number]
}

export const noteTypes = ['text', 'number', 'date', 'yesNo', 'document'] as const
export type NoteType = (typeof noteTypes)[number]

/** What a line asks for: enough to read and judge an answer, on the bench and on the server alike. */
export interface AskedLine {
  readonly name: string
  readonly kind: CharacteristicKind
  readonly unit: string | null
  readonly resolution: Decimal | null
  readonly nominal: Decimal | null
  readonly lower: Decimal | null
  readonly upper: Decimal | null
  readonly band: MarginalBand | null
  readonly rounding: Decimal | null
  readonly recording: 'pieces' | 'summary'
  readonly answers: readonly ListAnswer[]
  readonly faultCodes: readonly string[]
  readonly noteType: NoteType | null
}

export interface ReadAnswer {
  /** As it is kept and compared, in the unit of the characteristic. */
  readonly value: string
  readonly mark: Mark
  /** As it was entered, where that was in another unit. */
  readonly entered: string | null
}

function invalid(line: AskedLine, text: string, help: string): CoreError {
  return new CoreError('answer_invalid', `Received "${text.slice(0, 40)}". ${line.name}: ${help}`, { received: text.slice(0, 40) })
}

const plain = (value: string, mark: Mark): ReadAnswer => ({ value, mark, entered: null })

/** A reading, in the characteristic's unit or in another one of the same quantity written behind it: `0.4995 in`. */
function readMeasured(line: AskedLine, text: string, known: readonly MeasureUnit[]): ReadAnswer {
  const typed = text.trim()
  const unit = known.map(({ symbol }) => symbol).find((symbol) => typed.endsWith(symbol) && /[\d\s.,]$/.test(typed.slice(0, -symbol.length)))
  if (unit === undefined || line.unit === null || unit === line.unit) {
    const value = parseReading(unit === undefined ? typed : typed.slice(0, -unit.length), line.resolution ?? '1')
    return plain(value, judgeReading(value, line))
  }
  const entered = parseDecimal(typed.slice(0, -unit.length))
  const value = convertUnit(entered, unit, line.unit, null, known)
  return { value, mark: judgeReading(value, line), entered: `${entered} ${unit}` }
}

/** `PORE 2, SHUT 1` or a bare number. */
function readCounted(line: AskedLine, text: string): ReadAnswer {
  if (/^\d{1,6}$/.test(text.trim())) {
    const count = Number(text)
    return plain(String(count), count === 0 ? 'conforming' : 'nonconforming')
  }
  const parts = text.split(',').map((part) => /^(\S+)\s+(\d{1,6})$/.exec(part.trim()))
  const isKnown = parts.every((part) => part !== null && line.faultCodes.includes(part[1] as string))
  if (!isKnown) {
    const codes = line.faultCodes.length > 0 ? ` or fault codes with their numbers, e.g. ${line.faultCodes[0]} 2` : ''
    throw invalid(line, text, `a whole number of nonconformities${codes}.`)
  }
  const counts = parts.map((part) => [part?.[1] as string, Number(part?.[2])] as const).filter(([, count]) => count > 0)
  return counts.length === 0 ? plain('0', 'conforming') : plain(counts.map(([code, count]) => `${code} ${count}`).join(', '), 'nonconforming')
}

/** Nonconformities in a kept counted answer. Shape: text as `readAnswer` keeps it → whole number. */
export function countIn(value: string): number {
  return value.split(',').reduce((sum, part) => sum + Number(/(\d+)$/.exec(part.trim())?.[1] ?? 0), 0)
}

function readNoted(line: AskedLine, text: string): ReadAnswer {
  const typed = text.trim()
  switch (line.noteType ?? 'text') {
    case 'number':
      return plain(parseDecimal(typed), 'notJudged')
    case 'date': {
      const isDay = /^\d{4}-\d{2}-\d{2}$/.test(typed) && isCalendarDay(typed)
      if (!isDay) throw invalid(line, text, 'a day as year-month-day, e.g. 2026-03-31.')
      return plain(typed, 'notJudged')
    }
    case 'yesNo':
      if (!/^[yn]$/i.test(typed)) throw invalid(line, text, 'Y for yes or N for no.')
      return plain(typed.toUpperCase(), 'notJudged')
    case 'document':
      if (documentIn(typed) === null) throw invalid(line, text, 'a document: choose its file.')
      return plain(typed, 'notJudged')
    case 'text':
      if (typed === '') throw invalid(line, text, 'some words.')
      return plain(typed, 'notJudged')
  }
}

/** A document as an answer keeps it: its name for people, its id for the way to it. */
export function documentText(name: string, id: string): string {
  return `${name} [${id}]`
}

/** The document in an answer, or null where it names none. */
export function documentIn(value: string): { readonly name: string; readonly id: string } | null {
  const found = /^(.+) \[([\da-f]{8}(?:-[\da-f]{4}){3}-[\da-f]{12})\]$/.exec(value)
  return found?.[1] !== undefined && found[2] !== undefined ? { name: found[1], id: found[2] } : null
}

/** An answer as people read it: a document by its name alone. */
export function answerWords(value: string): string {
  return documentIn(value)?.name ?? value
}

function isCalendarDay(day: string): boolean {
  const [year = 0, month = 0, date = 0] = day.split('-').map(Number)
  const isLeap = (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0
  const days = [31, isLeap ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][month - 1] ?? 0
  return date >= 1 && date <= days
}

const summaryKeys = ['n', 'mean', 's', 'min', 'max', 'x'] as const

/** A summary as it is kept: `n 20, mean 12.51, s 0.02, min 12.47, max 12.55, x 0`. Shape: ReadingSummary → text. */
export function summaryText({ count, mean, deviation, smallest, largest, nonconforming }: ReadingSummary): string {
  return `n ${count}, mean ${mean}${deviation === null ? '' : `, s ${deviation}`}, min ${smallest}, max ${largest}, x ${nonconforming}`
}

/** Reads a kept summary. @throws {CoreError} `answer_invalid`, `not_a_number`. */
export function parseSummary(text: string): ReadingSummary {
  const found = new Map<string, string>()
  for (const part of text.split(', ')) {
    const [, key = '', value = ''] = /^\s*(\w+)\s+(\S+)\s*$/.exec(part) ?? []
    if (!(summaryKeys as readonly string[]).includes(key)) continue
    if (found.has(key))
      throw new CoreError('answer_invalid', `The summary says ${key} twice: ${found.get(key)} and ${value}. Write each once.`, {
        received: text.slice(0, 80),
        field: key,
      })
    found.set(key, value)
  }
  const value = (key: string) => {
    const typed = found.get(key)
    if (typed === undefined)
      throw new CoreError('answer_invalid', `The summary lacks ${key}. Write it like n 20, mean 12.51, s 0.02, min 12.47, max 12.55, x 0.`, {
        received: text.slice(0, 80),
        field: key,
      })
    return parseDecimal(typed)
  }
  return {
    count: Number(value('n')),
    mean: value('mean'),
    deviation: found.has('s') ? value('s') : null,
    smallest: value('min'),
    largest: value('max'),
    nonconforming: Number(value('x')),
  }
}

/**
 * A summary is checked for possibility, and its count of nonconforming pieces against its extremes: each extreme is a piece of its own,
 * and what lies between the two lies between their marks.
 */
function readSummary(line: AskedLine, text: string): ReadAnswer {
  const summary = parseSummary(text)
  checkSummary(summary)
  const { count, smallest, largest, nonconforming } = summary
  const marginalConforms = line.band?.countsAsConforming ?? true
  const fails = (value: string) => isNonconforming(judgeReading(value, line), marginalConforms)
  const extremes = count === 1 || compareDecimal(smallest, largest) === 0 ? [smallest] : [smallest, largest]
  const failing = extremes.filter(fails)
  // With all readings alike every piece is what the one value is.
  const least = extremes.length === 1 ? (failing.length > 0 ? count : 0) : failing.length
  // An extreme that conforms is a conforming piece; between two conforming ones all conform.
  const most = failing.length === 0 ? 0 : extremes.length === 1 ? count : count - (extremes.length - failing.length)
  if (nonconforming < least || nonconforming > most) {
    const range = least === most ? `${least}` : `${least} to ${most}`
    throw new CoreError(
      'summary_impossible',
      `${line.name}: from ${smallest} to ${largest}, of ${count} pieces ${range} can be nonconforming; received ${nonconforming}.`,
      { field: 'nonconforming', least, most, received: nonconforming },
    )
  }
  return plain(summaryText(summary), nonconforming > 0 ? 'nonconforming' : 'conforming')
}

/**
 * Reads and judges what was answered on a line, by its kind.
 * Shape: AskedLine, text, the plant's units of measure → ReadAnswer.
 * @throws {CoreError} `answer_invalid`, `not_a_number`, `number_too_long`, `too_many_decimals`, `unit_mismatch`, `summary_impossible`.
 */
export function readAnswer(line: AskedLine, text: string, known: readonly MeasureUnit[] = usualUnits): ReadAnswer {
  switch (line.kind) {
    case 'measured':
      return line.recording === 'summary' ? readSummary(line, text) : readMeasured(line, text, known)
    case 'judged': {
      const answer = text.trim().toUpperCase()
      if (answer !== 'O' && answer !== 'X') throw invalid(line, text, 'is answered with O or X.')
      return plain(answer, answer === 'O' ? 'conforming' : 'nonconforming')
    }
    case 'coded': {
      const answer = line.answers.find((offered) => offered.code.toLowerCase() === text.trim().toLowerCase())
      if (!answer) throw invalid(line, text, `one of ${line.answers.map((offered) => `${offered.code} (${offered.words})`).join(', ')}.`)
      return plain(answer.code, answer.verdict === 'neither' ? 'notJudged' : answer.verdict)
    }
    case 'counted':
      return readCounted(line, text)
    case 'noted':
      return readNoted(line, text)
  }
}

/** Cells that a line asks to be answered: one a piece, or one for a summary of all. */
export function cellCount(line: { readonly recording: 'pieces' | 'summary'; readonly sampleSize: number }): number {
  return line.recording === 'summary' ? 1 : line.sampleSize
}

/**
 * Refuses a gauge resolution too coarse for the tolerance: the one-tenth rule, common practice.
 * Shape: limits, resolution → true when the resolution is at most a tenth of the tolerance width (or nothing can be said).
 */
export function isResolutionFine(lower: Decimal | null, upper: Decimal | null, resolution: Decimal): boolean {
  if (lower === null || upper === null || compareDecimal(lower, upper) === 0) return true
  return Number(resolution) * 10 <= (Number(upper) - Number(lower)) * (1 + 1e-9)
}

/** What a line accepts, in one line of words: `0.25 to 0.35 mm, nominal 0.3`, `E even, M matt patches ✕`, `counted: marks on a body`. */
export function acceptsText(line: AskedLine & { readonly acceptableState: string | null; readonly countUnit: string | null }): string {
  switch (line.kind) {
    case 'measured': {
      const { lower, upper, nominal, unit, band } = line
      const range = lower !== null && upper !== null ? `${lower} to ${upper}` : lower !== null ? `at least ${lower}` : `at most ${upper}`
      const marginal = band === null ? '' : `, with a marginal band ${band.side} the limits`
      return `${range} ${unit}${nominal === null ? '' : `, nominal ${nominal}`}${marginal}`
    }
    case 'judged':
      return `acceptable: ${line.acceptableState ?? ''}`
    case 'coded':
      return line.answers.map(({ code, words, verdict }) => `${code} ${words}${verdict === 'nonconforming' ? ' (does not conform)' : ''}`).join(', ')
    case 'counted':
      return `counted: ${line.countUnit ?? 'nonconformities'}${line.faultCodes.length > 0 ? ` (${line.faultCodes.join(', ')})` : ''}`
    case 'noted':
      return `noted: ${{ text: 'words', number: 'a number', date: 'a day', yesNo: 'yes or no', document: 'a document' }[line.noteType ?? 'text']}`
  }
}
