import { CoreError } from '../errors'
import { compareDecimal, decimalPlaces, formatDecimal, parseDecimal, type Decimal } from './decimal'
import type { Limits } from './limits'

/** ○ conforming, △ marginal, ✕ nonconforming, – not judged. */
export type Mark = 'conforming' | 'marginal' | 'nonconforming' | 'notJudged'

/**
 * Compares a reading with the limits, as decimals. A value equal to a limit conforms (ISO 14253-1 leaves that to the agreement; here it always does).
 * Shape: Decimal, Limits → Mark. Both in the unit of the characteristic.
 */
export function judgeReading(value: Decimal, limits: Limits): Mark {
  if (limits.lower !== null && compareDecimal(value, limits.lower) < 0) return 'nonconforming'
  if (limits.upper !== null && compareDecimal(value, limits.upper) > 0) return 'nonconforming'
  return 'conforming'
}

/**
 * Reads what was typed into a number cell: a plain number, no finer than the resolution.
 * Shape: text → Decimal with exactly the decimals of the resolution.
 * @throws {CoreError} `not_a_number`, `number_too_long`, `too_many_decimals`.
 */
export function parseReading(text: string, resolution: Decimal): Decimal {
  const value = parseDecimal(text)
  const allowed = decimalPlaces(resolution)
  if (decimalPlaces(value) > allowed) {
    throw new CoreError(
      'too_many_decimals',
      `Received ${value}: finer than the resolution ${resolution} of this characteristic. Enter at most ${allowed} decimals.`,
      { received: value, resolution, allowed },
    )
  }
  return formatDecimal(value, allowed)
}
