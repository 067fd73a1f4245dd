import { chartConstants, meanDeviationFactor } from './chartConstants'

/** Individuals and moving range; mean and range; mean and standard deviation (the names of ISO 7870-2). */
export type ChartKind = 'individuals' | 'meanRange' | 'meanDeviation'

/** Values of one subgroup: what was measured together. */
export type Subgroup = readonly number[]

/** What limits are worked out from, and stay as they are while points come in. */
export interface ChartBasis {
  readonly kind: ChartKind
  /** The grand mean. */
  readonly center: number
  /** Mean of moving ranges, mean of ranges, or mean (of unequal sizes: pooled) standard deviation. */
  readonly meanSpread: number
  /** How large the subgroups were; null where they were not alike. */
  readonly size: number | null
  readonly subgroups: number
  readonly values: number
}

export interface ChartPoint {
  readonly value: number
  readonly size: number
  readonly lower: number
  readonly upper: number
  /** How many of its own standard deviations the point is from the centre. */
  readonly z: number
  /** The moving range, range or standard deviation with its limits; null where there is none (the first individual, a subgroup of one). */
  readonly spread: { readonly value: number; readonly lower: number; readonly upper: number } | null
}

const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0)
const mean = (values: readonly number[]) => sum(values) / values.length
const range = (values: readonly number[]) => Math.max(...values) - Math.min(...values)
function squares(values: readonly number[]): number {
  const middle = mean(values)
  return sum(values.map((value) => (value - middle) ** 2))
}
const deviation = (values: readonly number[]) => Math.sqrt(squares(values) / (values.length - 1))
const isEven = (subgroups: readonly Subgroup[]) => subgroups.every(({ length }) => length === subgroups[0]?.length)

/** The chart that fits subgroups of these sizes: of one; alike and small, where the range is as good as s; all others. */
export function chartKindFor(subgroups: readonly Subgroup[]): ChartKind {
  const largest = Math.max(0, ...subgroups.map(({ length }) => length))
  if (largest <= 1) return 'individuals'
  return isEven(subgroups) && largest < 10 ? 'meanRange' : 'meanDeviation'
}

/**
 * Centre and spread of the subgroups that limits rest on. Shape: kind, subgroups, none of them empty → ChartBasis; null for fewer than two of
 * them, or where none has a spread. Source: ISO 7870-2 (Shewhart 1931); unequal sizes with the weighted mean and the pooled s.
 */
export function chartBasis(kind: ChartKind, subgroups: readonly Subgroup[]): ChartBasis | null {
  const all = subgroups.flat()
  const repeated = subgroups.filter(({ length }) => length > 1)
  if (subgroups.length < 2 || (kind !== 'individuals' && repeated.length === 0)) return null
  return {
    kind,
    center: isEven(subgroups) ? mean(subgroups.map(mean)) : mean(all),
    meanSpread: spreadOf(),
    size: isEven(subgroups) ? (subgroups[0]?.length ?? null) : null,
    subgroups: subgroups.length,
    values: all.length,
  }

  function spreadOf(): number {
    if (kind === 'individuals') return mean(all.slice(1).map((value, i) => Math.abs(value - (all[i] as number))))
    if (kind === 'meanRange') return mean(repeated.map(range))
    if (isEven(subgroups)) return mean(repeated.map(deviation))
    return Math.sqrt(sum(repeated.map(squares)) / sum(repeated.map(({ length }) => length - 1)))
  }
}

/**
 * Standard deviation of single values. Of subgroups that were alike it is one figure; of unequal ones the pooled s is made unbiased for the
 * size of the subgroup that it is wanted for, which is left as it is for a single value.
 */
export function chartSigma({ kind, meanSpread, size: ofBasis }: ChartBasis, size: number): number {
  if (kind === 'individuals') return meanSpread / chartConstants(2).d2
  const known = ofBasis ?? size
  if (known < 2) return meanSpread
  return meanSpread / (kind === 'meanRange' ? chartConstants(known).d2 : meanDeviationFactor(known))
}

/**
 * Points with their limits at three standard deviations, against a basis that stands. Each costs the same however many came before.
 * Shape: basis, subgroups in order of time → a point each. A lower limit of a spread that would be negative is 0.
 */
export function chartPoints(basis: ChartBasis, subgroups: readonly Subgroup[]): ChartPoint[] {
  return subgroups.map((values, i) => {
    const [size, value, sigma] = [values.length, mean(values), chartSigma(basis, values.length)]
    const own = sigma / Math.sqrt(size)
    const z = own === 0 ? (value === basis.center ? 0 : Math.sign(value - basis.center) * Infinity) : (value - basis.center) / own
    return { value, size, lower: basis.center - 3 * own, upper: basis.center + 3 * own, z, spread: spreadPoint(basis, values, subgroups[i - 1]) }
  })
}

function spreadPoint(basis: ChartBasis, values: Subgroup, before: Subgroup | undefined): ChartPoint['spread'] {
  const sigma = chartSigma(basis, values.length)
  if (basis.kind === 'individuals') {
    if (before === undefined) return null
    const { d2, d3 } = chartConstants(2)
    return around(Math.abs((values[0] as number) - (before[0] as number)), d2, d3)
  }
  if (values.length < 2) return null
  if (basis.kind === 'meanRange') {
    const { d2, d3 } = chartConstants(values.length)
    return around(range(values), d2, d3)
  }
  const c4 = meanDeviationFactor(values.length)
  return around(deviation(values), c4, Math.sqrt(1 - c4 * c4))

  /** Mean and standard deviation of the spread, in σ. */
  function around(value: number, middle: number, varies: number) {
    return { value, lower: Math.max(0, middle - 3 * varies) * sigma, upper: (middle + 3 * varies) * sigma }
  }
}
