import { CoreError } from '../errors'
import { compareDecimal, decimalPlaces, type Decimal } from './decimal'

/** What a measured characteristic accepts. Limits are inclusive; a side without a limit is open (null). */
export interface Limits {
  readonly nominal: Decimal | null
  readonly lower: Decimal | null
  readonly upper: Decimal | null
}

function checkPlaces(name: string, value: Decimal | null, resolution: Decimal): void {
  if (value === null) return
  const allowed = decimalPlaces(resolution)
  const places = decimalPlaces(value)
  if (places > allowed) {
    throw new CoreError(
      'too_many_decimals',
      `The ${name} ${value} has ${places} decimals, the resolution ${resolution} has ${allowed}: no reading could ever fall on it. Choose a finer resolution or round the ${name}.`,
      { field: name, received: value, resolution, places, allowed },
    )
  }
}

/**
 * Refuses limits that contradict each other or that readings of this resolution cannot meet.
 * @throws {CoreError} `limits_missing`, `limits_reversed`, `nominal_outside_limits`, `resolution_not_positive`, `too_many_decimals`.
 */
export function checkLimits(limits: Limits, resolution: Decimal): void {
  const { nominal, lower, upper } = limits
  if (compareDecimal(resolution, '0') <= 0) {
    throw new CoreError(
      'resolution_not_positive',
      `The resolution is ${resolution}; it is the smallest step of a reading and greater than 0, e.g. 0.01.`,
      {
        field: 'resolution',
        received: resolution,
      },
    )
  }
  if (lower === null && upper === null) {
    throw new CoreError(
      'limits_missing',
      'Neither a lower nor an upper limit was given. Give at least one, or make the characteristic a judged one.',
      {
        field: 'lower',
      },
    )
  }
  if (lower !== null && upper !== null && compareDecimal(lower, upper) > 0) {
    throw new CoreError('limits_reversed', `The lower limit ${lower} is above the upper limit ${upper}. Exchange them.`, {
      field: 'lower',
      lower,
      upper,
    })
  }
  const below = nominal !== null && lower !== null && compareDecimal(nominal, lower) < 0
  const above = nominal !== null && upper !== null && compareDecimal(nominal, upper) > 0
  if (below || above) {
    throw new CoreError(
      'nominal_outside_limits',
      `The nominal ${nominal} is ${below ? `below the lower limit ${lower}` : `above the upper limit ${upper}`}. Correct one of the two, or leave the nominal empty.`,
      { field: 'nominal', nominal, lower, upper },
    )
  }
  checkPlaces('nominal', nominal, resolution)
  checkPlaces('lower', lower, resolution)
  checkPlaces('upper', upper, resolution)
}
