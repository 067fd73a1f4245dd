import { CoreError } from '../../errors'
import { firstWhole } from '../../numeric/findRoot'
import { acceptanceInLot, acceptanceInSeries, acceptancePerUnit } from '../chance/acceptanceProbability'
import { checkTwoPoints, type TwoPoints } from '../chance/checkRisks'
import { checkLotSize } from '../../numeric/lotSize'
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

function design(
  points: TwoPoints,
  largest: number,
  isPerUnit: boolean,
  good: (n: number, c: number) => number,
  poor: (n: number, c: number) => number,
): DesignedPlan | null {
  const { producersRisk, consumersRisk } = points
  // For every c the consumer's point needs n at least so large; whether that n also suits the producer stays true once it is. So the
  // first c for which it does is found by halving, and gives the smallest plan of all.
  const smallestFor = (accept: number) => firstWhole((n) => poor(n, accept) <= consumersRisk * (1 + tie), isPerUnit ? 1 : accept + 1, largest)
  const suits = (accept: number) => {
    const n = smallestFor(accept)
    return n === null || good(n, accept) >= (1 - producersRisk) * (1 - tie)
  }
  const accept = firstWhole(suits, 0, largest - 1)
  const sampleSize = accept === null ? null : smallestFor(accept)
  if (accept === null || sampleSize === null) return null
  return { sampleSize, accept, goodAccepted: good(sampleSize, accept), poorAccepted: poor(sampleSize, accept) }
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
