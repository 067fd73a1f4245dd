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
  // A minus as it is set in print is one, too.
  const trimmed = text.trim().replace(/^−/, '-')
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

/** Digits before and after the point, without zeros that say nothing. */
function digitsOf(value: Decimal): { isNegative: boolean; whole: string; decimals: string } {
  const isNegative = value.charCodeAt(0) === 45
  const point = value.indexOf('.')
  const end = point < 0 ? value.length : point
  let last = point < 0 ? -1 : value.length - 1
  while (last > point && value.charCodeAt(last) === 48) last -= 1
  return { isNegative, whole: value.slice(isNegative ? 1 : 0, end), decimals: last > point ? value.slice(point + 1, last + 1) : '' }
}

/**
 * −1, 0 or 1 as `a` is less than, equal to or greater than `b`, compared digit by digit: exact, and fast enough for every reading of a batch.
 * Shape: decimals as `parseDecimal` gives them (no exponent, no leading zeros).
 */
export function compareDecimal(a: Decimal, b: Decimal): -1 | 0 | 1 {
  const left = digitsOf(a)
  const right = digitsOf(b)
  if (left.isNegative !== right.isNegative) {
    const isZero = (side: typeof left) => side.decimals === '' && side.whole === '0'
    if (isZero(left) && isZero(right)) return 0
    return left.isNegative ? -1 : 1
  }
  const sign = left.isNegative ? -1 : 1
  if (left.whole.length !== right.whole.length) return left.whole.length < right.whole.length ? (-sign as -1 | 1) : (sign as -1 | 1)
  const larger = left.whole === right.whole ? compareText(left.decimals, right.decimals) : compareText(left.whole, right.whole)
  return larger === 0 ? 0 : ((larger * sign) as -1 | 1)
}

function compareText(a: string, b: string): -1 | 0 | 1 {
  return a === b ? 0 : a < b ? -1 : 1
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
  return digitsOf(value).decimals.length
}

/** How ties are rounded: to the even digit (ASTM E29, ISO 80000-1 rule A), or away from zero where a customer's drawing asks for it (rule B). */
export const tieModes = ['halfEven', 'halfUp'] as const
export type TieMode = (typeof tieModes)[number]

/**
 * Written with exactly `places` decimals; ties go to the even digit unless said otherwise. What is nothing has no sign.
 * @throws {CoreError} `too_many_decimals` where places is no whole number from 0 to 30.
 */
export function formatDecimal(value: Decimal, places: number, mode: TieMode = 'halfEven'): string {
  if (!Number.isInteger(places) || places < 0 || places > longest)
    throw new CoreError('too_many_decimals', `Received ${places} decimal places. It is a whole number from 0 to ${longest}.`, { received: places })
  const { isNegative, whole, decimals } = digitsOf(value)
  if (decimals.length > places) {
    const rounded = new Big(value).toFixed(places, mode === 'halfUp' ? Big.roundHalfUp : Big.roundHalfEven)
    // What rounds to nothing has no sign.
    return /[1-9]/.test(rounded) ? rounded : rounded.replace('-', '')
  }
  const isZero = whole === '0' && decimals === ''
  return `${isNegative && !isZero ? '-' : ''}${whole}${places > 0 ? `.${decimals.padEnd(places, '0')}` : ''}`
}
