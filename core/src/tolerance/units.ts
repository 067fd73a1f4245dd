import { CoreError } from '../errors'

export interface Unit {
  readonly symbol: string
  readonly quantity: string
}

/** Units that a measured characteristic may have. Symbols as in ISO 80000 and, for hardness, ISO 6506/6507/6508. */
export const units: readonly Unit[] = [
  { symbol: 'mm', quantity: 'length' },
  { symbol: 'µm', quantity: 'length' },
  { symbol: 'm', quantity: 'length' },
  { symbol: 'in', quantity: 'length' },
  { symbol: '°', quantity: 'angle' },
  { symbol: 'mm²', quantity: 'area' },
  { symbol: 'cm³', quantity: 'volume' },
  { symbol: 'g', quantity: 'mass' },
  { symbol: 'kg', quantity: 'mass' },
  { symbol: 'N', quantity: 'force' },
  { symbol: 'kN', quantity: 'force' },
  { symbol: 'N·m', quantity: 'torque' },
  { symbol: 'N/mm', quantity: 'spring rate' },
  { symbol: 'MPa', quantity: 'stress, pressure' },
  { symbol: 'bar', quantity: 'pressure' },
  { symbol: '°C', quantity: 'temperature' },
  { symbol: 's', quantity: 'time' },
  { symbol: 'min', quantity: 'time' },
  { symbol: 'h', quantity: 'time' },
  { symbol: 'HBW', quantity: 'hardness, Brinell' },
  { symbol: 'HV', quantity: 'hardness, Vickers' },
  { symbol: 'HRC', quantity: 'hardness, Rockwell C' },
  { symbol: '%', quantity: 'ratio' },
  { symbol: 'mS/m', quantity: 'conductivity' },
]

/** Units that a part may be counted in. Quantities are whole numbers of them. */
export const stockUnits = ['piece', 'bar', 'kg', 'g', 'm', 'L'] as const
export type StockUnit = (typeof stockUnits)[number]

/** `240 pieces`, `1 bar`, `60 kg`: a quantity in words. */
export function quantityWords(quantity: number, unit: string): string {
  const isCounted = unit === 'piece' || unit === 'bar'
  return `${quantity} ${isCounted && quantity !== 1 ? `${unit}s` : unit}`
}

/**
 * The unit with this symbol, spelled exactly.
 * @throws {CoreError} `unit_unknown` (names a unit that differs only in case, when there is one).
 */
export function unitOf(symbol: string): Unit {
  const unit = units.find((candidate) => candidate.symbol === symbol)
  if (unit) return unit
  const folded = symbol.trim().toLowerCase().replace('μ', 'µ').replace(/^um$/, 'µm')
  const near = units.find((candidate) => candidate.symbol.toLowerCase() === folded)
  throw new CoreError(
    'unit_unknown',
    `The unit "${symbol}" does not exist here.${near ? ` Did you mean ${near.symbol}?` : ` Known units: ${units.map((known) => known.symbol).join(', ')}.`}`,
    { received: symbol, near: near?.symbol ?? null, field: 'unit' },
  )
}
