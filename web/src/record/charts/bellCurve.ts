import { normalDensity, type VariablesFacts } from '@nemawashi/core'

interface Limits {
  readonly lower: number | null
  readonly upper: number | null
}

const steps = 120

/** The normal distribution of the values on a picture: its line, what of it lies outside, and where the limits and the mean are. */
export function bellCurve({ mean, spread }: Pick<VariablesFacts, 'mean' | 'spread'>, { lower, upper }: Limits, width: number, height: number) {
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
