import Big from 'big.js'
import { CoreError } from '../errors'
import { compareDecimal, decimalPlaces, formatDecimal, parseDecimal, type Decimal, type TieMode } from './decimal'

/**
 * Rounds to the nearest multiple of a step; ties go to the even multiple, or away from zero (`halfUp`). Decimal throughout.
 * Shape: Decimal, step > 0 → Decimal with the step's decimals. Source: ASTM E29, 6.4.
 * @throws {CoreError} `resolution_not_positive`, `not_a_number`, `number_too_long`.
 */
export function roundToStep(given: Decimal, givenStep: Decimal, mode: TieMode = 'halfEven'): Decimal {
  const [value, step] = [parseDecimal(given), parseDecimal(givenStep)]
  if (compareDecimal(step, '0') <= 0) {
    throw new CoreError('resolution_not_positive', `The place of rounding is ${step}; it is greater than 0, e.g. 0.01.`, {
      field: 'rounding',
      received: step,
    })
  }
  const Exact = Big()
  Exact.DP = 30
  const multiple = new Exact(value).div(step)
  const whole = multiple.round(0, Big.roundDown)
  const twice = new Exact(value).minus(whole.times(step)).abs().times(2)
  const compared = twice.cmp(step)
  const isOdd = !whole.mod(2).eq(0)
  const up = compared > 0 || (compared === 0 && (mode === 'halfUp' || isOdd))
  const rounded = up ? whole.plus(new Exact(value).lt(0) ? -1 : 1) : whole
  return formatDecimal(rounded.times(step).toFixed(), decimalPlaces(step))
}
