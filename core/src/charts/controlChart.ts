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

function sum(values: readonly number[]): number {
  let total = 0
  for (const value of values) total += value
  return total
}
const mean = (values: readonly number[]) => sum(values) / values.length
function range(values: readonly number[]): number {
  let [low, high] = [Infinity, -Infinity]
  for (const value of values) {
    if (value < low) low = value
    if (value > high) high = value
  }
  return high - low
}
function squares(values: readonly number[]): number {
  const middle = mean(values)
  let total = 0
  for (const value of values) total += (value - middle) ** 2
  return total
}
const deviation = (values: readonly number[]) => Math.sqrt(squares(values) / (values.length - 1))
const isEven = (subgroups: readonly Subgroup[]) => subgroups.every(({ length }) => length === subgroups[0]?.length)

/** The chart that fits subgroups of these sizes: of one; alike and small, where the range is as good as s; all others. */
export function chartKindFor(subgroups: readonly Subgroup[]): ChartKind {
  const largest = subgroups.reduce((most, { length }) => Math.max(most, length), 0)
  if (largest <= 1) return 'individuals'
  return isEven(subgroups) && largest < 10 ? 'meanRange' : 'meanDeviation'
}

/**
 * Centre and spread of the subgroups that limits rest on. Shape: kind, subgroups, none of them empty → ChartBasis; null for fewer than two of
 * them, or where none has a spread. Source: ISO 7870-2 (Shewhart 1931); unequal sizes with the weighted mean and the pooled s.
 */
export function chartBasis(kind: ChartKind, subgroups: readonly Subgroup[]): ChartBasis | null {
  const repeated = kind === 'individuals' ? [] : subgroups.filter(({ length }) => length > 1)
  if (subgroups.length < 2 || (kind !== 'individuals' && repeated.length === 0)) return null
  const isAlike = isEven(subgroups)
  const values = sum(subgroups.map(({ length }) => length))
  return {
    kind,
    center: isAlike ? mean(subgroups.map(mean)) : sum(subgroups.map(sum)) / values,
    meanSpread: kind === 'individuals' ? meanMovingRange(subgroups) : kind === 'meanRange' ? mean(repeated.map(range)) : meanDeviation(),
    size: isAlike ? (subgroups[0]?.length ?? null) : null,
    subgroups: subgroups.length,
    values,
  }

  function meanDeviation(): number {
    if (isAlike) return mean(repeated.map(deviation))
    return Math.sqrt(sum(repeated.map(squares)) / sum(repeated.map(({ length }) => length - 1)))
  }
}

function meanMovingRange(subgroups: readonly Subgroup[]): number {
  let total = 0
  for (let i = 1; i < subgroups.length; i++) total += Math.abs(first(subgroups[i]) - first(subgroups[i - 1]))
  return total / (subgroups.length - 1)
}
const first = (values: Subgroup | undefined) => values?.[0] as number

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

/** Differences smaller than this share of the centre are what computing left. */
const noise = 1e-12

/**
 * Points with their limits at three standard deviations, against a basis that stands. Each costs the same however many came before.
 * Shape: basis, subgroups in order of time → a point each. A lower limit of a spread that would be negative is 0. Where nothing ever varied,
 * any other value is infinitely far off.
 */
export function chartPoints(basis: ChartBasis, subgroups: readonly Subgroup[]): ChartPoint[] {
  const { kind, center } = basis
  const still = noise * Math.abs(center)
  const limits = new Map<number, SizeLimits>()
  const limitsFor = (size: number) => {
    const known = limits.get(size) ?? sizeLimits(basis, size)
    limits.set(size, known)
    return known
  }
  return subgroups.map((values, i) => {
    const size = values.length
    const { own, spread } = limitsFor(size)
    const value = size === 1 ? first(values) : mean(values)
    const off = value - center
    const z = Math.abs(off) <= still ? 0 : own <= still ? Math.sign(off) * Infinity : off / own
    const varied = spreadOf(kind, values, subgroups[i - 1])
    return {
      value,
      size,
      lower: center - 3 * own,
      upper: center + 3 * own,
      z,
      spread: varied === null || spread === null ? null : { value: varied, lower: spread.lower, upper: spread.upper },
    }
  })
}

/** Limits of subgroups of one size: the standard deviation of a point, and the limits of its spread. */
interface SizeLimits {
  readonly own: number
  readonly spread: { readonly lower: number; readonly upper: number } | null
}

function sizeLimits(basis: ChartBasis, size: number): SizeLimits {
  const sigma = chartSigma(basis, size)
  const relative = spreadFactors(basis.kind, size)
  if (relative === null) return { own: sigma / Math.sqrt(size), spread: null }
  const [middle, varies] = relative
  return { own: sigma / Math.sqrt(size), spread: { lower: Math.max(0, middle - 3 * varies) * sigma, upper: (middle + 3 * varies) * sigma } }
}

/** Mean and standard deviation of the spread of a subgroup, in σ; null where it has none. */
function spreadFactors(kind: ChartKind, size: number): readonly [number, number] | null {
  if (kind !== 'individuals' && size < 2) return null
  if (kind === 'meanDeviation') {
    const c4 = meanDeviationFactor(size)
    return [c4, Math.sqrt(1 - c4 * c4)]
  }
  const { d2, d3 } = chartConstants(kind === 'individuals' ? 2 : size)
  return [d2, d3]
}

function spreadOf(kind: ChartKind, values: Subgroup, before: Subgroup | undefined): number | null {
  if (kind === 'individuals') return before === undefined ? null : Math.abs(first(values) - first(before))
  return values.length < 2 ? null : kind === 'meanRange' ? range(values) : deviation(values)
}
