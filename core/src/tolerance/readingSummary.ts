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
  const minMean = count === 1 ? low : low + range / count
  const maxMean = count === 1 ? high : high - range / count
  if (mean < minMean - room || mean > maxMean + room) {
    throw impossible(
      `The mean ${summary.mean} cannot be: with ${count} readings from ${summary.smallest} to ${summary.largest} it lies from ${shown(minMean)} to ${shown(maxMean)}.`,
      'mean',
      {
        mean,
        minMean,
        maxMean,
      },
    )
  }
  if (count === 1) {
    if (low !== high) throw impossible('One reading has one value: smallest, largest and mean are the same.', 'largest', { low, high })
    return
  }
  if (summary.deviation === null) throw impossible(`${count} readings have a standard deviation. Enter it.`, 'deviation', { count })
  const deviation = Number(parseDecimal(summary.deviation))
  const { least, most } = deviationBounds(count, {
    mean: [mean - slack(summary.mean), mean + slack(summary.mean)],
    smallest: [low - slack(summary.smallest), low + slack(summary.smallest)],
    largest: [high - slack(summary.largest), high + slack(summary.largest)],
  })
  // A plain 0 says that all readings are alike, as far as they were written.
  const wide = deviation === 0 && !summary.deviation.includes('.') ? slack(summary.mean) : slack(summary.deviation)
  if (deviation < least - wide || deviation > most + wide) {
    throw impossible(
      `The standard deviation ${summary.deviation} cannot be: ${count} readings from ${summary.smallest} to ${summary.largest} with this mean have one from ${shown(least)} to ${shown(most)}.`,
      'deviation',
      { deviation, least, most },
    )
  }
}

type Interval = readonly [from: number, to: number]

/**
 * Least and greatest standard deviation (divisor n − 1) that n readings can have, both extremes among them, where mean, smallest and largest are
 * known within an interval each: what their rounding may have taken. An interval of one value is exact.
 * Shape: n ≥ 2, intervals → bounds, in the unit of the readings. Source: the sum of squares is least with the other n − 2 readings alike, and greatest
 * with all of them at the extremes and one left over. Both extremes nearer to each other lower the first; farther apart they raise the second.
 */
export function deviationBounds(
  count: number,
  { mean, smallest, largest }: { readonly mean: Interval; readonly smallest: Interval; readonly largest: Interval },
): { least: number; most: number } {
  const [low, high] = [smallest[1], largest[0]]
  // With extremes that may be one value, all readings may be.
  const least = low >= high ? 0 : minSquares(count, within(mean, (low + high) / 2), low, high)
  const [wideLow, wideHigh] = [smallest[0], largest[1]]
  if (wideHigh <= wideLow) return { least: 0, most: 0 }
  // Between two splits of all readings over both extremes the sum of squares is convex: it is greatest at a split, or where the mean ends.
  const splits = [1, count - 1].map((k) => splitMean(count, k, wideLow, wideHigh)) as [number, number]
  const means = [within(mean, splits[0]), within(mean, splits[1])] as const
  const candidates = [means[0], means[1], ...nearestSplits(count, means, wideLow, wideHigh)]
  const most = Math.max(...candidates.map((at) => maxSquares(count, Math.min(splits[1], Math.max(splits[0], at)), wideLow, wideHigh)))
  return { least: Math.sqrt(Math.max(0, least) / (count - 1)), most: Math.sqrt(Math.max(0, most) / (count - 1)) }
}

const within = ([from, to]: Interval, value: number) => Math.min(to, Math.max(from, value))
/** The mean with so many readings at the high extreme and all others at the low one. */
const splitMean = (count: number, atHigh: number, low: number, high: number) => (atHigh * high + (count - atHigh) * low) / count

/** Means of whole splits within an interval that are nearest to the middle, where the spread is greatest. */
function nearestSplits(count: number, [from, to]: readonly [number, number], low: number, high: number): number[] {
  const share = (at: number) => ((at - low) / (high - low)) * count
  const first = Math.max(1, Math.ceil(share(from) - 1e-9))
  const last = Math.min(count - 1, Math.floor(share(to) + 1e-9))
  if (first > last) return []
  return [Math.floor(count / 2), Math.ceil(count / 2)].map((k) => splitMean(count, Math.min(last, Math.max(first, k)), low, high))
}

/**
 * Least sum of squares about the mean: all but the extremes alike. A mean beyond what they leave moves one extreme with the others: all but the
 * other one are alike then.
 */
function minSquares(count: number, mean: number, low: number, high: number): number {
  const others = count - 2
  for (const [alone, isBeyond] of [
    [low, mean > splitMean(count, count - 1, low, high)],
    [high, mean < splitMean(count, 1, low, high)],
  ] as const) {
    if (isBeyond) return (alone - mean) ** 2 * (1 + 1 / (count - 1))
  }
  const middle = others === 0 ? 0 : (count * mean - low - high) / others
  return (low - mean) ** 2 + (high - mean) ** 2 + others * (middle - mean) ** 2
}

/** Greatest sum of squares about the mean: all others at the extremes, one between them where the mean asks for it. */
function maxSquares(count: number, mean: number, low: number, high: number): number {
  const others = count - 2
  const extremes = (low - mean) ** 2 + (high - mean) ** 2
  if (others === 0) return extremes
  const share = (count * mean - low - high - others * low) / (high - low)
  const atHigh = Math.min(others, Math.max(0, Math.floor(share + 1e-9)))
  const between = Math.abs(share - atHigh) < 1e-9 ? 0 : 1
  const value = low + (share - atHigh) * (high - low)
  return extremes + atHigh * (high - mean) ** 2 + (others - atHigh - between) * (low - mean) ** 2 + (between === 0 ? 0 : (value - mean) ** 2)
}
