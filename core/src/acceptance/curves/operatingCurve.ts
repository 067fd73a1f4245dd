import { acceptanceAlong } from '../chance/acceptanceAlong'
import { acceptanceOfLots } from '../chance/acceptanceProbability'
import type { Sample } from '../rules/sampleFor'

export interface CurvePoint {
  /** Nonconforming units in the lot, in per cent. */
  readonly percent: number
  /** Share of such lots that are accepted, 0..1. */
  readonly accepted: number
}

type Plan = Pick<Sample, 'sampleSize' | 'accept'>

/**
 * Operating curve of a single plan on one lot (hypergeometric), from 0 to `toPercent`.
 * Points stand at whole numbers of nonconforming units; a lot smaller than the wished number of points gives one point a unit.
 * Shape: → CurvePoint[≤ points + 1], rising percent, falling acceptance.
 */
export function operatingCurve(plan: Plan, lotSize: number, toPercent: number, points = 200): CurvePoint[] {
  const most = Math.min(lotSize, Math.max(1, Math.ceil((lotSize * toPercent) / 100)))
  const count = Math.min(points, most)
  const units: number[] = []
  for (let i = 0; i <= count; i++) units.push(Math.round((most * i) / count))
  const accepted = acceptanceAlong(lotSize, plan.sampleSize, plan.accept, units)
  return units.map((nonconforming, i) => ({ percent: (100 * nonconforming) / lotSize, accepted: accepted[i] as number }))
}

/**
 * Smallest number of nonconforming units in the lot with which it passes at most `share` of the time.
 * Shape: share 0..1 → whole number 1..lotSize. Bisection over whole numbers; always ends.
 */
export function nonconformingAt(plan: Plan, lotSize: number, share: number): number {
  const accepted = acceptanceOfLots(lotSize, plan.sampleSize, plan.accept)
  let low = 0
  let high = lotSize
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    if (accepted(middle) <= share) high = middle
    else low = middle
  }
  return high
}
