import { CoreError } from '../errors'
import { compareDecimal, decimalPlaces, formatDecimal, parseDecimal, type Decimal } from './decimal'
import type { Limits } from './limits'
import { bandEdges, type MarginalBand } from './marginalBand'
import { roundToStep } from './rounding'

/** ○ conforming, △ marginal, ✕ nonconforming, – not judged. */
export type Mark = 'conforming' | 'marginal' | 'nonconforming' | 'notJudged'

/** Whether a piece with this mark is a nonconforming one: ✕ always, △ where the characteristic says that it does not count as conforming. */
export function isNonconforming(mark: Mark, marginalConforms = true): boolean {
  return mark === 'nonconforming' || (mark === 'marginal' && !marginalConforms)
}

/** What a reading is compared with: limits, and where stated a marginal band and a place to round to first (ASTM E29, rounding method). */
export interface Acceptance extends Limits {
  readonly band?: MarginalBand | null
  readonly rounding?: Decimal | null
}

function isWithin(value: Decimal, lower: Decimal | null, upper: Decimal | null): boolean {
  return (lower === null || compareDecimal(value, lower) >= 0) && (upper === null || compareDecimal(value, upper) <= 0)
}

/**
 * Compares a reading with the limits, as decimals. A value equal to a limit conforms (ISO 14253-1 leaves that to the agreement; here it
 * always does). Without a place of rounding the value is compared as it stands (absolute method).
 * Shape: Decimal, Acceptance → Mark. Both in the unit of the characteristic.
 * @throws {CoreError} `band_invalid`, `resolution_not_positive`.
 */
export function judgeReading(value: Decimal, limits: Acceptance): Mark {
  const compared = limits.rounding ? roundToStep(value, limits.rounding) : value
  if (!limits.band) return isWithin(compared, limits.lower, limits.upper) ? 'conforming' : 'nonconforming'
  const edges = bandEdges(limits, limits.band)
  if (isWithin(compared, edges.innerLower, edges.innerUpper)) return 'conforming'
  return isWithin(compared, edges.outerLower, edges.outerUpper) ? 'marginal' : 'nonconforming'
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
