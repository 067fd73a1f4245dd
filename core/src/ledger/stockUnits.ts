import { CoreError } from '../errors'
import { parseDecimal } from '../tolerance/decimal'

/** Units that are weighed, measured or filled: they can be told in tenths, hundredths and thousandths. */
const divisible = ['kg', 'g', 'm', 'm²', 'L'] as const
const steps = ['0.1', '0.01', '0.001'] as const
type Divisible = (typeof divisible)[number]

/**
 * What a part is counted in, with its step: `piece`, `kg`, `0.01 kg`. The ledger counts whole steps, so that sums are exact: 25,050 of `0.01 kg` are
 * 250.5 kg. People type and see the decimals.
 */
export type StockUnit = 'piece' | 'bar' | Divisible | `${(typeof steps)[number]} ${Divisible}`
export const stockUnits: readonly StockUnit[] = [
  'piece',
  'bar',
  ...divisible.flatMap((symbol): StockUnit[] => [symbol, ...steps.map((step) => `${step} ${symbol}` as const)]),
]

/** Symbol and decimals of a unit: `0.01 kg` → kg, 2. */
export function stockUnitOf(unit: string): { readonly symbol: string; readonly places: number } {
  const [, zeros, symbol] = /^0\.(0*)1 (.+)$/.exec(unit) ?? []
  return symbol === undefined || zeros === undefined ? { symbol: unit, places: 0 } : { symbol, places: zeros.length + 1 }
}

/** A quantity as a number that people read, `250.50`, with the decimals of its unit. Shape: whole steps → text. */
export function quantityText(quantity: number, unit: string): string {
  const { places } = stockUnitOf(unit)
  return (quantity / 10 ** places).toFixed(places)
}

/** The same as a number, for those outside who reckon on: 250.5. */
export function quantityValue(quantity: number, unit: string): number {
  return Number(quantityText(quantity, unit))
}

/** `240 pieces`, `1 bar`, `250.50 kg`: a quantity in words. */
export function quantityWords(quantity: number, unit: string): string {
  const { symbol } = stockUnitOf(unit)
  const isCounted = symbol === 'piece' || symbol === 'bar'
  return `${quantityText(quantity, unit)} ${isCounted && quantity !== 1 ? `${symbol}s` : symbol}`
}

/**
 * A quantity as somebody typed it, or as another system says it, in whole steps of the unit: `250,5` of `0.01 kg` → 25050.
 * @throws {CoreError} `not_a_number`, `number_too_long`; `quantity_invalid` where it is finer than the step.
 */
export function quantityIn(typed: string | number, unit: string): number {
  const { symbol, places } = stockUnitOf(unit)
  const text = parseDecimal(String(typed))
  const [whole = '', decimals = ''] = text.split('.')
  const finer = decimals.slice(places)
  if (/[1-9]/.test(finer))
    throw new CoreError(
      'quantity_invalid',
      places === 0
        ? `Received a quantity of ${text}. It is counted in whole ${symbol === 'piece' || symbol === 'bar' ? `${symbol}s` : symbol}.`
        : `Received a quantity of ${text} ${symbol}. It is counted in steps of ${unit}.`,
      { received: text, unit },
    )
  return Number(`${whole}${decimals.slice(0, places).padEnd(places, '0')}`)
}

/**
 * How many units of sampling a quantity is: a sample is so many pieces, kilograms or metres, whatever the step that they are counted in, and one that
 * is begun counts. Shape: whole steps → lot size N.
 */
export function samplingUnitsIn(quantity: number, unit: string): number {
  return Math.ceil(quantity / 10 ** stockUnitOf(unit).places)
}

/** How many units of sampling are whole by now: what is counted along a run, every so many of them. Shape: whole steps → whole number. */
export function samplingUnitsDone(quantity: number, unit: string): number {
  return Math.floor(quantity / 10 ** stockUnitOf(unit).places)
}

/** The other way round: so many units of sampling in whole steps. */
export function quantityOfSamplingUnits(count: number, unit: string): number {
  return count * 10 ** stockUnitOf(unit).places
}
