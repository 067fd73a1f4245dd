import Big from 'big.js'
import { CoreError } from '../errors'
import { compareDecimal, decimalPlaces, formatDecimal, type Decimal } from './decimal'

/**
 * Rounds to the nearest multiple of a step; ties go to the even multiple. Decimal throughout.
 * Shape: Decimal, step > 0 → Decimal with the step's decimals. Source: ASTM E29, 6.4.
 * @throws {CoreError} `resolution_not_positive`.
 */
export function roundToStep(value: Decimal, step: Decimal): Decimal {
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
  const up = compared > 0 || (compared === 0 && isOdd)
  const rounded = up ? whole.plus(new Exact(value).lt(0) ? -1 : 1) : whole
  return formatDecimal(rounded.times(step).toFixed(), decimalPlaces(step))
}
