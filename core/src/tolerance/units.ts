import Big from 'big.js'
import { CoreError } from '../errors'
import { formatDecimal, parseDecimal, type Decimal } from './decimal'

export interface Unit {
  readonly symbol: string
  readonly quantity: string
  /** Value in the quantity's first unit = (value + offset) · times / per; exact decimals. Left out where nothing converts (hardness). */
  readonly times?: Decimal
  readonly per?: Decimal
  readonly offset?: Decimal
}

/** One inch, one pound-force and one avoirdupois ounce, exact by definition (international yard and pound agreement, 1959). */
const inch = '25.4'
const poundForce = '4.4482216152605'

/**
 * Units that a measured characteristic may have. Symbols as in ISO 80000 and, for hardness, ISO 6506/6507/6508.
 * The first unit of a quantity is its base here.
 */
export const units: readonly Unit[] = [
  { symbol: 'mm', quantity: 'length', times: '1' },
  { symbol: 'µm', quantity: 'length', times: '0.001' },
  { symbol: 'cm', quantity: 'length', times: '10' },
  { symbol: 'm', quantity: 'length', times: '1000' },
  { symbol: 'in', quantity: 'length', times: inch },
  { symbol: 'ft', quantity: 'length', times: '304.8' },
  { symbol: '°', quantity: 'angle', times: '1' },
  { symbol: '′', quantity: 'angle', times: '1', per: '60' },
  { symbol: 'mm²', quantity: 'area', times: '1' },
  { symbol: 'cm²', quantity: 'area', times: '100' },
  { symbol: 'in²', quantity: 'area', times: '645.16' },
  { symbol: 'cm³', quantity: 'volume', times: '1' },
  { symbol: 'mL', quantity: 'volume', times: '1' },
  { symbol: 'L', quantity: 'volume', times: '1000' },
  { symbol: 'g', quantity: 'mass', times: '1' },
  { symbol: 'mg', quantity: 'mass', times: '0.001' },
  { symbol: 'kg', quantity: 'mass', times: '1000' },
  { symbol: 'oz', quantity: 'mass', times: '28.349523125' },
  { symbol: 'lb', quantity: 'mass', times: '453.59237' },
  { symbol: 'N', quantity: 'force', times: '1' },
  { symbol: 'kN', quantity: 'force', times: '1000' },
  { symbol: 'lbf', quantity: 'force', times: poundForce },
  { symbol: 'N·m', quantity: 'torque', times: '1' },
  { symbol: 'N·cm', quantity: 'torque', times: '0.01' },
  { symbol: 'lbf·ft', quantity: 'torque', times: '1.3558179483314004' },
  { symbol: 'lbf·in', quantity: 'torque', times: '0.1129848290276167' },
  { symbol: 'N/mm', quantity: 'spring rate', times: '1' },
  { symbol: 'lbf/in', quantity: 'spring rate', times: poundForce, per: inch },
  { symbol: 'MPa', quantity: 'stress, pressure', times: '1' },
  { symbol: 'kPa', quantity: 'stress, pressure', times: '0.001' },
  { symbol: 'bar', quantity: 'stress, pressure', times: '0.1' },
  { symbol: 'psi', quantity: 'stress, pressure', times: poundForce, per: '645.16' },
  { symbol: '°C', quantity: 'temperature', times: '1' },
  { symbol: 'K', quantity: 'temperature', times: '1', offset: '-273.15' },
  { symbol: '°F', quantity: 'temperature', times: '5', per: '9', offset: '-32' },
  { symbol: 's', quantity: 'time', times: '1' },
  { symbol: 'min', quantity: 'time', times: '60' },
  { symbol: 'h', quantity: 'time', times: '3600' },
  { symbol: 'HBW', quantity: 'hardness, Brinell' },
  { symbol: 'HV', quantity: 'hardness, Vickers' },
  { symbol: 'HRC', quantity: 'hardness, Rockwell C' },
  { symbol: '%', quantity: 'ratio', times: '1' },
  { symbol: '‰', quantity: 'ratio', times: '0.1' },
  { symbol: 'mS/m', quantity: 'conductivity', times: '1' },
  { symbol: 'MS/m', quantity: 'conductivity', times: '1000000000' },
  { symbol: 'Ω', quantity: 'resistance', times: '1' },
  { symbol: 'V', quantity: 'voltage', times: '1' },
]

/** Units that a part may be counted in. Quantities are whole numbers of them. */
export const stockUnits = ['piece', 'bar', 'kg', 'g', 'm', 'L'] as const
export type StockUnit = (typeof stockUnits)[number]

/** `240 pieces`, `1 bar`, `60 kg`: a quantity in words. */
export function quantityWords(quantity: number, unit: string): string {
  const isCounted = unit === 'piece' || unit === 'bar'
  return `${quantity} ${isCounted && quantity !== 1 ? `${unit}s` : unit}`
}

const foldings: readonly (readonly [RegExp, string])[] = [
  [/μ/g, 'µ'],
  [/^um$/, 'µm'],
  [/^(inch|inches|")$/, 'in'],
  [/^(deg|degree|degrees)$/, '°'],
  [/^nm$/, 'n·m'],
  [/^micron$/, 'µm'],
]

/**
 * The unit with this symbol, spelled exactly.
 * @throws {CoreError} `unit_unknown` (names a unit that differs only in case or spelling, when there is one).
 */
export function unitOf(symbol: string): Unit {
  const unit = units.find((candidate) => candidate.symbol === symbol)
  if (unit) return unit
  const folded = foldings.reduce((text, [from, to]) => text.replace(from, to), symbol.trim().toLowerCase())
  const near = units.find((candidate) => candidate.symbol.toLowerCase() === folded)
  throw new CoreError(
    'unit_unknown',
    `The unit "${symbol}" does not exist here.${near ? ` Did you mean ${near.symbol}?` : ` Known units: ${units.map((known) => known.symbol).join(', ')}.`}`,
    { received: symbol, near: near?.symbol ?? null, field: 'unit' },
  )
}

/** Units that readings of this one may also be entered in: those of the same quantity that convert. */
export function unitsLike(symbol: string): readonly Unit[] {
  const { quantity, times } = unitOf(symbol)
  return times === undefined ? [unitOf(symbol)] : units.filter((unit) => unit.quantity === quantity && unit.times !== undefined)
}

// Divisions run on thirty digits: far beyond any resolution, and what is rounded off is known.
const Exact = Big()
Exact.DP = 30

/**
 * A value in another unit of the same quantity: exact where decimals allow, else to 30 places, then rounded (ties to even) when asked.
 * Shape: Decimal, symbols, places or null (as exact as it is, at most 12 decimal places: of very small values fewer digits) → Decimal.
 * @throws {CoreError} `unit_unknown`, `unit_mismatch`, `not_a_number`, `number_too_long`.
 */
export function convertUnit(value: Decimal, from: string, to: string, places: number | null = null): Decimal {
  const source = unitOf(from)
  const target = unitOf(to)
  if (source.quantity !== target.quantity || source.times === undefined || target.times === undefined) {
    throw new CoreError('unit_mismatch', `${from} (${source.quantity}) cannot be converted to ${to} (${target.quantity}).`, {
      from,
      to,
      field: 'unit',
    })
  }
  const top = new Exact(parseDecimal(value))
    .plus(source.offset ?? 0)
    .times(source.times)
    .times(target.per ?? 1)
  const converted = top.div(new Exact(source.per ?? 1).times(target.times)).minus(target.offset ?? 0)
  return places === null ? converted.round(12, Big.roundHalfEven).toFixed() : formatDecimal(converted.toFixed(), places)
}
