import { acceptanceOfLots } from '../chance/acceptanceProbability'
import { continuousPerformance } from '../frequency/continuousSampling'
import { curtailedSize } from './curtailment'
import { operatingCurve, type CurvePoint } from './operatingCurve'
import { planQuality } from '../plans/planQuality'
import { sampleFor, type Sample } from '../rules/sampleFor'
import type { SamplingRule } from '../rules/samplingRule'
import { walkStages, type Population, type Stage, type StagedAcceptance } from '../plans/stagedPlan'
import { twoLimitAcceptance } from '../variables/twoLimitAcceptance'
import { variablesAcceptance } from '../variables/variablesAcceptance'

/** What each way of sampling means for a lot of any quality: acceptance, curve and cost, behind one face. */
/** Continuous sampling of a run: every unit until `clearance` in a row conform, then one in k. */
export interface ContinuousRule {
  readonly kind: 'continuous'
  readonly clearance: number
  readonly k: number
}
export interface CostPoint {
  readonly percent: number
  /** Average pieces a lot, stages finished; and with early stop, where that means something. */
  readonly expectedSize: number
  readonly curtailedSize: number | null
  readonly totalInspection: number
  readonly outgoingPercent: number
}

export type RiskModel = 'lot' | 'perUnit' | 'variables' | 'run'
/** By variables: one limit, or two with half of what is nonconforming beyond each. */
export type LimitCount = 'one' | 'two'

export interface Model {
  readonly model: RiskModel
  readonly sample: Sample | null
  readonly accepted: (fraction: number) => number
  readonly curve: (toPercent: number) => CurvePoint[]
  /** Early stop is dear to work out and can be left out. */
  readonly cost: (fraction: number, withEarlyStop: boolean) => Omit<CostPoint, 'percent'>
}

function evenly(toPercent: number, accepted: (fraction: number) => number): CurvePoint[] {
  return Array.from({ length: 201 }, (_, i) => ({ percent: (toPercent * i) / 200, accepted: accepted((toPercent * i) / 20_000) }))
}

/** Costs of a plan of stages, for an outcome by stage. */
function stagedCost(
  stages: readonly Stage[],
  outcome: StagedAcceptance,
  fraction: number,
  lotSize: number,
  population: Population | null,
): Omit<CostPoint, 'percent'> {
  const quality = planQuality(outcome, stages, fraction, lotSize)
  return {
    expectedSize: quality.expectedSize,
    curtailedSize: population === null ? null : curtailedSize(stages, population),
    totalInspection: quality.totalInspection,
    outgoingPercent: 100 * quality.outgoing,
  }
}

/** Pieces of one lot: counts from a lot of whole pieces (hypergeometric). */
function lotModel(sample: Sample, lotSize: number): Model {
  const { stages } = sample
  const populationAt = (nonconforming: number) => ({ kind: 'lot', lotSize, nonconforming }) as const
  const single = stages.length === 1 ? acceptanceOfLots(lotSize, sample.sampleSize, sample.reject - 1) : null
  const exact = single ?? ((units: number) => walkStages(stages, populationAt(units)).accepted)
  // Between two whole numbers of nonconforming pieces the share is drawn straight, as the curve is.
  const accepted = (fraction: number) => {
    const units = Number((fraction * lotSize).toPrecision(12))
    const below = Math.floor(units)
    const at = exact(below)
    return units === below ? at : at + (units - below) * (exact(Math.min(lotSize, below + 1)) - at)
  }
  const plan = { sampleSize: sample.sampleSize, accept: sample.reject - 1 }
  return {
    model: 'lot',
    sample,
    accepted,
    curve: (toPercent) => {
      if (single) return operatingCurve(plan, lotSize, toPercent)
      const most = Math.min(lotSize, Math.max(1, Math.ceil((lotSize * toPercent) / 100)))
      const count = Math.min(200, most)
      return Array.from({ length: count + 1 }, (_, i) => Math.round((most * i) / count)).map((units) => ({
        percent: (100 * units) / lotSize,
        accepted: exact(units),
      }))
    },
    cost: (fraction, withEarlyStop) => {
      const units = Math.round(fraction * lotSize)
      const population = populationAt(units)
      return stagedCost(stages, walkStages(stages, population), units / lotSize, lotSize, withEarlyStop ? population : null)
    },
  }
}

/** Nonconformities per unit (Poisson). Sorting a lot takes nonconformities away, so the outgoing figure counts them too. */
function perUnitModel(sample: Sample, lotSize: number): Model {
  const { stages } = sample
  const populationAt = (nonconformities: number) => ({ kind: 'perUnit', nonconformities }) as const
  const accepted = (rate: number) => walkStages(stages, populationAt(rate)).accepted
  return {
    model: 'perUnit',
    sample,
    accepted,
    curve: (toPercent) => evenly(toPercent, accepted),
    cost: (rate, withEarlyStop) =>
      stagedCost(stages, walkStages(stages, populationAt(rate)), rate, lotSize, withEarlyStop ? populationAt(rate) : null),
  }
}

/** Cost and acceptance of one quality are asked for one after the other. */
function withLastKept(f: (fraction: number) => number): (fraction: number) => number {
  let at = NaN
  let value = NaN
  return (fraction) => {
    if (fraction !== at) [value, at] = [f(fraction), fraction]
    return value
  }
}

function variablesModel(sample: Sample, lotSize: number, limits: LimitCount | undefined): Model {
  const { k, method } = sample.variables as NonNullable<Sample['variables']>
  const accepted = withLastKept((limits === 'two' ? twoLimitAcceptance : variablesAcceptance)(sample.sampleSize, k, method))
  return {
    model: 'variables',
    sample,
    accepted,
    curve: (toPercent) => evenly(toPercent, accepted),
    cost: (fraction) => {
      const share = accepted(fraction)
      const outcome = { accepted: share, expectedSize: sample.sampleSize, acceptedByStage: [share], rejectedByStage: [1 - share] }
      return stagedCost(sample.stages, outcome, fraction, lotSize, null)
    },
  }
}

function runModel({ clearance, k }: ContinuousRule, lotSize: number): Model {
  const plan = { clearance, fraction: 1 / k }
  const accepted = (fraction: number) => continuousPerformance(plan, fraction).accepted
  return {
    model: 'run',
    sample: null,
    accepted,
    curve: (toPercent) => evenly(toPercent, accepted),
    cost: (fraction) => {
      const { inspected, outgoing } = continuousPerformance(plan, fraction)
      return { expectedSize: inspected * lotSize, curtailedSize: null, totalInspection: inspected * lotSize, outgoingPercent: 100 * outgoing }
    },
  }
}

/** The model of a rule for lots of one size. @throws {CoreError} as `sampleFor`. */
export function modelOf(rule: SamplingRule | ContinuousRule, lotSize: number, limits: LimitCount | undefined = 'one'): Model {
  if (rule.kind === 'continuous') return runModel(rule, lotSize)
  const sample = sampleFor(rule, lotSize)
  if (sample.variables) return variablesModel(sample, lotSize, limits)
  return sample.counting === 'nonconformities' ? perUnitModel(sample, lotSize) : lotModel(sample, lotSize)
}
