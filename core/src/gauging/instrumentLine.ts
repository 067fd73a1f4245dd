import { CoreError } from '../errors'
import { parseDecimal } from '../tolerance/decimal'

/** What an instrument says on its connection, a line each. */
export type InstrumentLine =
  | { readonly kind: 'key'; readonly key: string }
  | { readonly kind: 'value'; readonly sent: Sent }
  | { readonly kind: 'alive' }
  | { readonly kind: 'end' }

/** A value as an instrument sends it. */
export interface Sent {
  /** The instrument's own name of this value, by which one that comes again is known. */
  readonly sendId: string
  readonly value: string
  /** As the instrument calls its unit; empty where it sends none. */
  readonly unit: string
  /** Milliseconds since the button was pressed, by the instrument's own clock: what it is set to does not matter. */
  readonly ageMs: number
}

/** The longest line, in characters. */
export const longestInstrumentLine = 200
/** The oldest value that is taken: a week. */
export const oldestSentMs = 7 * 86_400_000

function odd(received: string, wanted: string): CoreError {
  return new CoreError('line_not_understood', `Received "${received.slice(0, 80)}". ${wanted}`, { received: received.slice(0, 80) })
}

/**
 * Reads a line of the instruments' protocol: `KEY <key>`, `VALUE <id> <number> [unit] [AGE <ms>]`, `ALIVE`, `END`; words in any case of letters.
 * A decimal comma is a decimal point.
 * Shape: a line without its end → what it says.
 * @throws {CoreError} `line_not_understood`, `not_a_number`, `number_too_long`.
 */
export function readInstrumentLine(text: string): InstrumentLine {
  if (text.length > longestInstrumentLine) throw odd(text, `A line has at most ${longestInstrumentLine} characters.`)
  const [word = '', ...rest] = text.trim().split(/\s+/)
  switch (word.toUpperCase()) {
    case 'KEY': {
      const [key, ...more] = rest
      if (key === undefined || more.length > 0) throw odd('KEY …', 'Write KEY and the key of the instrument.')
      return { kind: 'key', key }
    }
    case 'VALUE':
      return { kind: 'value', sent: readSent(text, rest) }
    case 'ALIVE':
      return { kind: 'alive' }
    case 'END':
      return { kind: 'end' }
    default:
      throw odd(text, 'A line begins with KEY, VALUE, ALIVE or END.')
  }
}

function readSent(text: string, words: readonly string[]): Sent {
  const wanted = 'Write VALUE, an id, the number, its unit where there is one, and AGE with milliseconds where it was pressed earlier.'
  const at = words.findIndex((word) => word.toUpperCase() === 'AGE')
  const [said, age] = at === -1 ? [words, ['0']] : [words.slice(0, at), words.slice(at + 1)]
  const [sendId = '', number = '', unit = '', ...more] = said
  if (number === '' || more.length > 0 || age.length !== 1 || !/^\d{1,9}$/.test(age[0] ?? '') || sendId.length > 40 || unit.length > 20)
    throw odd(text, wanted)
  const ageMs = Number(age[0])
  if (ageMs > oldestSentMs) throw odd(text, 'What was pressed over a week ago is not taken any more.')
  return { sendId, value: parseDecimal(number), unit, ageMs }
}
