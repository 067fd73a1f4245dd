import {
  chartBasis,
  chartKindFor,
  chartPoints,
  driftOf,
  signalSets,
  signalsOf,
  type ChartBasis,
  type ChartKind,
  type ChartPoint,
  type Signal,
  type SignalSet,
} from '@nemawashi/core'
import type { LineSeries } from '@nemawashi/contract'

type SeriesValue = LineSeries['values'][number]

/** What was measured together: the values of one inspection. */
export interface Sample {
  readonly inspectionId: string
  readonly code: string
  readonly takenAt: string
  readonly numbers: readonly number[]
}

/** From which samples the limits are worked out. */
export type BasisChoice =
  | { readonly from: 'before' }
  | { readonly from: 'first'; readonly count: number }
  | { readonly from: 'days'; readonly first: string; readonly last: string }

export interface LineChart {
  readonly kind: ChartKind
  readonly samples: readonly Sample[]
  /** Null where there is too little to work limits out from. */
  readonly basis: ChartBasis | null
  readonly points: readonly ChartPoint[]
  readonly signals: readonly Signal[]
  readonly drift: DriftAhead | null
}

/** A drift that will reach a limit of the tolerance. */
export interface DriftAhead {
  readonly limit: 'upper' | 'lower'
  readonly slope: number
  /** In how many samples the mean reaches the limit, and the 95 % interval of that. */
  readonly samples: number
  readonly between: readonly [number, number] | null
}

/** Samples in order of time; the inspection's own values as they stand on the bench, typed a moment ago or stored. */
export function samplesOf(values: readonly SeriesValue[], own: Sample): Sample[] {
  const found = new Map<string, { inspectionId: string; code: string; takenAt: string; numbers: number[] }>()
  for (const { inspectionId, code, takenAt, number } of values) {
    if (inspectionId === own.inspectionId) continue
    const sample = found.get(inspectionId)
    if (sample) sample.numbers.push(number)
    else found.set(inspectionId, { inspectionId, code, takenAt, numbers: [number] })
  }
  return [...found.values(), ...(own.numbers.length > 0 ? [own] : [])]
}

/** The samples that limits rest on. @param dayOf the plant's day of a moment */
export function basisSamples(samples: readonly Sample[], choice: BasisChoice, ownId: string, dayOf: (takenAt: string) => string): Sample[] {
  if (choice.from === 'first') return samples.slice(0, choice.count)
  if (choice.from === 'before') return samples.filter(({ inspectionId }) => inspectionId !== ownId)
  return samples.filter(({ takenAt }) => dayOf(takenAt) >= choice.first && dayOf(takenAt) <= choice.last)
}

/** Common practice asks for 20 to 25 subgroups; with fewer than these, limits say too little to be shown. */
export const fewestSamples = 8

/** Points that a drift is looked for in, at least and at most. */
const driftPoints = { least: 6, most: 12 }
const maxSamplesAhead = 100

interface Tolerance {
  readonly lower: number | null
  readonly upper: number | null
}

/** The chart of samples, its limits from some of them. */
export function lineChart(samples: readonly Sample[], from: readonly Sample[], set: SignalSet, tolerance: Tolerance): LineChart {
  const numbers = samples.map((sample) => sample.numbers)
  // As what it is compared with: a sample that is just begun makes no other chart of it.
  const kind = chartKindFor((from.length > 0 ? from : samples).map((sample) => sample.numbers))
  const basis =
    from.length < fewestSamples
      ? null
      : chartBasis(
          kind,
          from.map((sample) => sample.numbers),
        )
  const points = basis === null ? [] : chartPoints(basis, numbers)
  const signals = signalsOf(
    points.map(({ z }) => z),
    signalSets[set].rules,
  )
  return { kind, samples, basis, points, signals, drift: driftAhead(numbers, tolerance) }
}

/** Where the last points drift to, when so steep a line is no accident and a limit lies ahead. */
export function driftAhead(samples: readonly (readonly number[])[], { lower, upper }: Tolerance): DriftAhead | null {
  const means = samples.slice(-driftPoints.most).map((sample) => sample.reduce((a, b) => a + b, 0) / sample.length)
  if (means.length < driftPoints.least) return null
  const x = means.map((_, i) => i + 1 - means.length)
  const [end, begun] = [means.at(-1) as number, means[0] as number]
  const limit = end > begun ? upper : lower
  const drift = limit === null ? null : driftOf(x, means, limit)
  if (drift?.meets == null || drift.chance >= 0.05 || drift.meets <= 0 || drift.meets > maxSamplesAhead) return null
  return { limit: end > begun ? 'upper' : 'lower', slope: drift.slope, samples: drift.meets, between: drift.between }
}
