import { CoreError } from '../errors'
import { parseDecimal, type Decimal } from './decimal'

/** Readings of many pieces as the person wrote them down: not each value, but what describes them. */
export interface ReadingSummary {
  readonly count: number
  readonly mean: Decimal
  /** Sample standard deviation, divisor n − 1; null for a single piece. */
  readonly deviation: Decimal | null
  readonly smallest: Decimal
  readonly largest: Decimal
  readonly nonconforming: number
}

/** Half a step of the last written place, written zeros included: what rounding may have taken. */
function slack(value: Decimal): number {
  return 0.5 * 10 ** -(value.split('.')[1]?.length ?? 0) * (1 + 1e-9)
}

function impossible(message: string, field: string, facts: Record<string, unknown>): CoreError {
  return new CoreError('summary_impossible', message, { ...facts, field })
}

const shown = (value: number) => Number(value.toPrecision(4)).toString()

/**
 * Refuses a summary that no set of readings could have: mean outside what the extremes allow, standard deviation outside what the number,
 * the mean and the extremes allow. Every figure may have been rounded to its written places.
 * Shape: ReadingSummary. Source: the sum of squares is least with the other n − 2 readings alike, and greatest with all at the extremes.
 * @throws {CoreError} `summary_impossible` (names the field and the range that is possible), `not_a_number`, `quantity_invalid`.
 */
export function checkSummary(summary: ReadingSummary): void {
  const { count, nonconforming } = summary
  if (!Number.isSafeInteger(count) || count < 1)
    throw new CoreError('quantity_invalid', `Received ${count} readings. It is a whole number, 1 or more.`, { received: count, field: 'count' })
  if (!Number.isSafeInteger(nonconforming) || nonconforming < 0 || nonconforming > count) {
    throw impossible(`Received ${nonconforming} nonconforming of ${count}.`, 'nonconforming', { nonconforming, count })
  }
  for (const key of ['mean', 'smallest', 'largest'] as const) parseDecimal(summary[key])
  const mean = Number(summary.mean)
  const low = Number(summary.smallest)
  const high = Number(summary.largest)
  if (low > high)
    throw impossible(`The smallest reading ${summary.smallest} is greater than the largest ${summary.largest}.`, 'smallest', { low, high })
  if (summary.deviation !== null) {
    const given = Number(parseDecimal(summary.deviation))
    if (given < 0) throw impossible(`A standard deviation is 0 or more; received ${summary.deviation}.`, 'deviation', { deviation: given })
    if (count === 1) throw impossible('One reading has no standard deviation. Leave it out.', 'deviation', { deviation: given, count })
  }
  const range = high - low
  const room = slack(summary.mean) + slack(summary.smallest) + slack(summary.largest)
  // Both extremes were read, so each pulls the mean by its share.
  const leastMean = count === 1 ? low : low + range / count
  const mostMean = count === 1 ? high : high - range / count
  if (mean < leastMean - room || mean > mostMean + room) {
    throw impossible(
      `The mean ${summary.mean} cannot be: with ${count} readings from ${summary.smallest} to ${summary.largest} it lies from ${shown(leastMean)} to ${shown(mostMean)}.`,
      'mean',
      {
        mean,
        leastMean,
        mostMean,
      },
    )
  }
  if (count === 1) {
    if (low !== high) throw impossible('One reading has one value: smallest, largest and mean are the same.', 'largest', { low, high })
    return
  }
  if (summary.deviation === null) throw impossible(`${count} readings have a standard deviation. Enter it.`, 'deviation', { count })
  const deviation = Number(parseDecimal(summary.deviation))
  const { least, most } = deviationRange(count, Math.min(mostMean, Math.max(leastMean, mean)), low, high)
  const wide = slack(summary.deviation) + 2 * room
  if (deviation < least - wide || deviation > most + wide) {
    throw impossible(
      `The standard deviation ${summary.deviation} cannot be: ${count} readings from ${summary.smallest} to ${summary.largest} with this mean have one from ${shown(least)} to ${shown(most)}.`,
      'deviation',
      { deviation, least, most },
    )
  }
}

/** Smallest and largest standard deviation of n readings with this mean, both extremes among them. */
function deviationRange(count: number, mean: number, low: number, high: number): { least: number; most: number } {
  const others = count - 2
  const extremes = (low - mean) ** 2 + (high - mean) ** 2
  const middle = others === 0 ? 0 : (count * mean - low - high) / others
  const least = Math.sqrt((extremes + others * (middle - mean) ** 2) / (count - 1))
  if (high === low || others === 0) return { least, most: least }
  // All others at the extremes, one between them where the mean asks for it.
  const share = (others * (middle - low)) / (high - low)
  const atHigh = Math.min(others, Math.max(0, Math.floor(share + 1e-9)))
  const isExact = Math.abs(share - atHigh) < 1e-9
  const between = isExact ? 0 : 1
  const value = others * middle - atHigh * high - (others - atHigh - between) * low
  const sum = extremes + atHigh * (high - mean) ** 2 + (others - atHigh - between) * (low - mean) ** 2 + (between ? (value - mean) ** 2 : 0)
  return { least, most: Math.sqrt(sum / (count - 1)) }
}
