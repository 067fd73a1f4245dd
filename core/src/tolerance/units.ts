import Big from 'big.js'
import { CoreError } from '../errors'
import { usualUnits, type MeasureUnit } from './usualUnits'
import { compareDecimal, formatDecimal, parseDecimal, type Decimal } from './decimal'

const foldings: readonly (readonly [RegExp, string])[] = [
  [/μ/g, 'µ'],
  [/^um$/, 'µm'],
  [/^(inch|inches|")$/, 'in'],
  [/^(deg|degree|degrees)$/, '°'],
  [/^nm$/, 'n·m'],
  [/^micron$/, 'µm'],
]

/** A factor as two decimals, the second of them 1 where it is no fraction. @throws {CoreError} `factor_invalid`. */
export function parseFactor(factor: string): { readonly times: Decimal; readonly per: Decimal } {
  const refuse = () =>
    new CoreError('factor_invalid', `Received the factor "${factor.slice(0, 60)}". It is a number above 0 such as 25.4, or a fraction such as 5/9.`, {
      received: factor.slice(0, 60),
      field: 'factor',
    })
  const [times, per, ...more] = factor.split('/').map((part) => {
    try {
      return parseDecimal(part)
    } catch {
      throw refuse()
    }
  })
  if (times === undefined || more.length > 0) throw refuse()
  if (compareDecimal(times, '0') <= 0 || compareDecimal(per ?? '1', '0') <= 0) throw refuse()
  return { times, per: per ?? '1' }
}

/**
 * The unit with this symbol, spelled exactly.
 * @param known the plant's list
 * @throws {CoreError} `unit_unknown` (names a unit that differs only in case or spelling, when there is one).
 */
export function unitOf(symbol: string, known: readonly MeasureUnit[] = usualUnits): MeasureUnit {
  const unit = known.find((candidate) => candidate.symbol === symbol)
  if (unit) return unit
  const folded = foldings.reduce((text, [from, to]) => text.replace(from, to), symbol.trim().toLowerCase())
  const near = known.find((candidate) => candidate.symbol.toLowerCase() === folded)
  throw new CoreError(
    'unit_unknown',
    `The unit "${symbol}" does not exist here.${near ? ` Did you mean ${near.symbol}?` : ` The ${known.length} that do stand in the list of units of measure; it can be added there.`}`,
    { received: symbol, near: near?.symbol ?? null, field: 'unit' },
  )
}

/** Units that readings of this one may also be entered in: those of the same quantity that convert. */
export function unitsLike(symbol: string, known: readonly MeasureUnit[] = usualUnits): readonly MeasureUnit[] {
  const own = unitOf(symbol, known)
  return own.factor === null ? [own] : known.filter(({ quantity, factor }) => quantity === own.quantity && factor !== null)
}

// Divisions run on thirty digits: far beyond any resolution, and what is rounded off is known.
const Exact = Big()
Exact.DP = 30

/**
 * A value in another unit of the same quantity: exact where decimals allow, else to 30 places, then rounded (ties to even) when asked.
 * Shape: Decimal, symbols, places or null (as exact as it is, at most 12 decimal places: of very small values fewer digits) → Decimal.
 * @param known the plant's units; the usual ones where none are given
 * @throws {CoreError} `unit_unknown`, `unit_mismatch`, `factor_invalid`, `not_a_number`, `number_too_long`.
 */
export function convertUnit(
  value: Decimal,
  from: string,
  to: string,
  places: number | null = null,
  known: readonly MeasureUnit[] = usualUnits,
): Decimal {
  const source = unitOf(from, known)
  const target = unitOf(to, known)
  if (source.quantity !== target.quantity || source.factor === null || target.factor === null) {
    throw new CoreError('unit_mismatch', `${from} (${source.quantity}) cannot be converted to ${to} (${target.quantity}).`, {
      from,
      to,
      field: 'unit',
    })
  }
  const [into, outOf] = [parseFactor(source.factor), parseFactor(target.factor)]
  const top = new Exact(parseDecimal(value))
    .plus(source.shift ?? 0)
    .times(into.times)
    .times(outOf.per)
  const converted = top.div(new Exact(into.per).times(outOf.times)).minus(target.shift ?? 0)
  return places === null ? converted.round(12, Big.roundHalfEven).toFixed() : formatDecimal(converted.toFixed(), places)
}
