import { CoreError } from '../errors'
import { firstWhole } from '../numeric/findRoot'
import { acceptanceInLot, acceptanceInSeries } from './acceptanceProbability'
import { checkTwoPoints, type TwoPoints } from './checkRisks'
import { checkLotSize } from './lotSize'
import { poissonMass } from './probabilityMass'
import { tie } from './zeroAcceptance'

export const countModels = ['series', 'lot', 'perUnit'] as const
/** Binomial, hypergeometric or Poisson. */
export type CountModel = (typeof countModels)[number]

export interface DesignedPlan {
  readonly sampleSize: number
  readonly accept: number
  /** Probability of acceptance at the good and at the poor quality. */
  readonly goodAccepted: number
  readonly poorAccepted: number
}

/** Larger plans are refused: the points lie too close together for inspection by attributes. */
const largestSample = 1_000_000

/** P(X ≤ c), Poisson: the smaller tail is summed, largest term first. */
export function acceptancePerUnit(mean: number, accept: number): number {
  if (mean === 0) return 1
  const isLower = accept < mean
  let term = poissonMass(isLower ? accept : accept + 1, mean)
  let sum = term
  if (isLower) for (let k = accept; k > 0 && term > 1e-17 * sum; k--) sum += term *= k / mean
  else for (let k = accept + 2; term > 1e-17 * sum; k++) sum += term *= mean / k
  return isLower ? Math.min(1, sum) : Math.max(0, 1 - sum)
}

function design(
  points: TwoPoints,
  largest: number,
  isPerUnit: boolean,
  good: (n: number, c: number) => number,
  poor: (n: number, c: number) => number,
): DesignedPlan | null {
  const { producersRisk, consumersRisk } = points
  let from = 1
  // For every c the consumer's point needs n at least so large, the producer's point at most so large. The first rises with c, so the
  // first c for which the smallest sample also suits the producer gives the smallest plan of all.
  for (let accept = 0; accept < largest; accept++) {
    const sampleSize = firstWhole((n) => poor(n, accept) <= consumersRisk * (1 + tie), isPerUnit ? from : Math.max(from, accept + 1), largest)
    if (sampleSize === null) return null
    const goodAccepted = good(sampleSize, accept)
    if (goodAccepted >= (1 - producersRisk) * (1 - tie)) return { sampleSize, accept, goodAccepted, poorAccepted: poor(sampleSize, accept) }
    // Nonconformities are not bound to the pieces: the next number may be met by the same sample.
    from = isPerUnit ? sampleSize : sampleSize + 1
  }
  return null
}

function notFound(points: TwoPoints): CoreError {
  return new CoreError(
    'design_not_found',
    `No plan of up to ${largestSample} pieces tells ${points.goodFraction} from ${points.poorFraction} at these risks. Move the two qualities further apart or allow more risk.`,
    { ...points },
  )
}

/**
 * Smallest single plan for a long series that meets both points (binomial), or for nonconformities per unit (Poisson).
 * Shape: TwoPoints → DesignedPlan; smallest n over all c, then smallest c; ties count as met.
 * @throws {CoreError} `risk_invalid`, `fraction_invalid`, `qualities_reversed`, `design_not_found`.
 */
export function twoPointDesign(points: TwoPoints, model: 'series' | 'perUnit' = 'series'): DesignedPlan {
  checkTwoPoints(points, model === 'perUnit')
  const accepted =
    model === 'series'
      ? (fraction: number) => (n: number, c: number) => acceptanceInSeries(fraction, n, c)
      : (rate: number) => (n: number, c: number) => acceptancePerUnit(n * rate, c)
  const found = design(points, largestSample, model === 'perUnit', accepted(points.goodFraction), accepted(points.poorFraction))
  if (!found) throw notFound(points)
  return found
}

/**
 * Smallest single plan for one lot that meets both points, stated as nonconforming units in the lot (hypergeometric).
 * Shape: N, D1 < D2 whole, α, β → DesignedPlan.
 * @throws {CoreError} `lot_size_invalid`, `quantity_invalid`, `risk_invalid`, `qualities_reversed`, `design_not_found`.
 */
export function twoPointDesignInLot(
  lotSize: number,
  goodUnits: number,
  poorUnits: number,
  risks: Pick<TwoPoints, 'producersRisk' | 'consumersRisk'>,
): DesignedPlan {
  checkLotSize(lotSize)
  for (const units of [goodUnits, poorUnits]) {
    if (Number.isSafeInteger(units) && units >= 0 && units <= lotSize) continue
    throw new CoreError('quantity_invalid', `Received ${units} nonconforming units in a lot of ${lotSize}.`, { received: units, lotSize })
  }
  // A good lot without a single nonconforming unit is a point too; the check wants fractions above 0.
  const points = { ...risks, goodFraction: Math.max(goodUnits / lotSize, 1e-12), poorFraction: Math.min(poorUnits / lotSize, 1 - 1e-12) }
  checkTwoPoints(points)
  const found = design(
    points,
    lotSize,
    false,
    (n, c) => acceptanceInLot(lotSize, goodUnits, n, c),
    (n, c) => acceptanceInLot(lotSize, poorUnits, n, c),
  )
  if (!found) throw notFound(points)
  return found
}
