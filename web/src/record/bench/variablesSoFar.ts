import { fractionBeyond, judgeVariables, normalDensity, summariseValues, type VariablesFacts, type VariablesPlan } from '@nemawashi/core'

interface Limits {
  readonly lower: number | null
  readonly upper: number | null
}

const short = (value: number) => Number(value.toPrecision(4)).toString()
const percent = (fraction: number) => `${Number((100 * fraction).toPrecision(3))} %`

/**
 * The values so far, judged as if they were the whole sample: quality indices, what is estimated beyond each limit, and what is accepted.
 * @param places decimals of the mean: one more than a value has
 * @throws {CoreError} as `judgeVariables`: values that are too few, or all alike.
 */
export function variablesSoFar(
  plan: VariablesPlan,
  limits: Limits,
  numbers: readonly number[],
  unit: string,
  places: number,
): { words: string; facts: VariablesFacts } {
  const summary = summariseValues(numbers)
  const { isAcceptable, ...facts } = judgeVariables(plan, limits, summary)
  const { method, lowerIndex, upperIndex, fraction, largest, k } = facts
  const side = (name: 'L' | 'U', index: number | null) => {
    if (index === null) return []
    const beyond = fraction === null ? '' : `, ${percent(fractionBeyond(index, summary.count, method))} estimated ${name === 'L' ? 'below' : 'above'}`
    return [`Q${name} ${short(index)}${beyond}`]
  }
  const isByFraction = lowerIndex !== null && upperIndex !== null && fraction !== null && largest !== null
  const limit = isByFraction ? `together ${percent(fraction)}, M ${percent(largest)}` : `k ${short(k)}`
  const measured = `mean ${summary.mean.toFixed(places)}${unit ? ` ${unit}` : ''}, ${method === 's' ? 's' : 'σ'} ${short(facts.spread)}`
  return {
    words: `By variables so far, ${summary.count} of ${plan.sampleSize}: ${measured}; ${[...side('L', lowerIndex), ...side('U', upperIndex), limit].join('; ')} → ${isAcceptable ? 'these alone would be accepted' : 'these alone would not be accepted'}`,
    facts,
  }
}

const steps = 120

/** The normal distribution of the values on a picture: its line, what of it lies outside, and where the limits and the mean are. */
export function bellCurve({ mean, spread }: VariablesFacts, { lower, upper }: Limits, width: number, height: number) {
  const reach = 4 * spread
  const low = Math.min(mean - reach, lower ?? Infinity)
  const high = Math.max(mean + reach, upper ?? -Infinity)
  const x = (value: number) => Number((((value - low) / (high - low)) * width).toFixed(1))
  const y = (value: number) => Number((height - (height - 8) * (normalDensity((value - mean) / spread) / normalDensity(0))).toFixed(1))
  const along = (from: number, to: number) =>
    Array.from({ length: steps + 1 }, (_, i) => from + ((to - from) * i) / steps).map((value) => `${x(value)} ${y(value)}`)
  const area = (from: number, to: number) => `M${x(from)} ${height}L${along(from, to).join('L')}L${x(to)} ${height}Z`
  return {
    line: `M${along(low, high).join('L')}`,
    outside: [...(lower !== null && lower > low ? [area(low, lower)] : []), ...(upper !== null && upper < high ? [area(upper, high)] : [])],
    limits: [lower, upper].filter((limit) => limit !== null).map(x),
    mean: x(mean),
  }
}
