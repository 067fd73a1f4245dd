import Big from 'big.js'
import { CoreError } from '../errors'

/** A decimal number as text in its shortest written form that keeps the typed decimals, e.g. `0.350`, `-12`, `8`. */
export type Decimal = string

const written = /^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/
const longest = 30

/**
 * Reads a number as a person writes it: digits with one decimal point or one decimal comma.
 * Exponents, units, separators of thousands and words are refused, never guessed at.
 * Shape: text → Decimal (point, no plus sign, no leading zeros, typed decimals kept).
 * @throws {CoreError} `not_a_number`, `number_too_long` (over 30 characters).
 */
export function parseDecimal(text: string): Decimal {
  const trimmed = text.trim()
  if (trimmed.length > longest) {
    throw new CoreError('number_too_long', `Received ${trimmed.length} characters, a number has at most ${longest}.`, {
      length: trimmed.length,
      longest,
    })
  }
  if (!written.test(trimmed)) {
    throw new CoreError(
      'not_a_number',
      `Received "${trimmed}", which is not a plain number. Write digits and one decimal point or comma, without a unit or an exponent.`,
      { received: trimmed },
    )
  }
  const [, sign = '', whole = '', decimals = ''] = /^([+-]?)(\d*)[.,]?(\d*)$/.exec(trimmed) ?? []
  const integer = whole.replace(/^0+(?=\d)/, '') || '0'
  const isZero = /^0*$/.test(integer + decimals)
  return `${sign === '-' && !isZero ? '-' : ''}${integer}${decimals ? `.${decimals}` : ''}`
}

/** −1, 0 or 1 as `a` is less than, equal to or greater than `b`, compared as decimals. */
export function compareDecimal(a: Decimal, b: Decimal): -1 | 0 | 1 {
  return new Big(a).cmp(b)
}

/** a + b, exact. */
export function addDecimal(a: Decimal, b: Decimal): Decimal {
  return new Big(a).plus(b).toFixed()
}

/** a − b, exact. */
export function subtractDecimal(a: Decimal, b: Decimal): Decimal {
  return new Big(a).minus(b).toFixed()
}

/** Decimals that carry a digit: `0.350` has two, `8` none. */
export function decimalPlaces(value: Decimal): number {
  const shortest = new Big(value).toFixed()
  const point = shortest.indexOf('.')
  return point < 0 ? 0 : shortest.length - point - 1
}

/** Written with exactly `places` decimals; ties go to the even digit (ASTM E29). */
export function formatDecimal(value: Decimal, places: number): string {
  return new Big(value).toFixed(places, Big.roundHalfEven)
}
