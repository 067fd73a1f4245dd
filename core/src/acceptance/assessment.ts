import { acceptanceOfLots } from './acceptanceProbability'
import { continuousOutgoingLimit, continuousPerformance } from './continuousSampling'
import { curtailedSize } from './curtailment'
import { describeSamplingRule, pieces } from './describeSamplingRule'
import { describeFrequencyRule, expectedShare, type FrequencyRule } from './frequencyRule'
import { checkLotSize } from './lotSize'
import { operatingCurve, type CurvePoint } from './operatingCurve'
import { fractionAccepted, planQuality } from './planQuality'
import { percentText, timesIn100 } from './riskSentence'
import { sampleFor, type Sample } from './sampleFor'
import type { SamplingRule } from './samplingRule'
import { skipLotPerformance } from './skipLot'
import { walkStages, type Population, type Stage, type StagedAcceptance } from './stagedPlan'
import { twoLimitAcceptance } from './twoLimitAcceptance'
import { variablesAcceptance } from './variablesAcceptance'

/** Continuous sampling of a run: every unit until `clearance` in a row conform, then one in k. */
export interface ContinuousRule {
  readonly kind: 'continuous'
  readonly clearance: number
  readonly k: number
}
/** What can be weighed in the workshop: how many, and how often. */
export interface SamplingChoice {
  readonly sampling: SamplingRule | ContinuousRule
  readonly frequency: FrequencyRule
}

export interface AssessmentOptions {
  readonly lotSize: number
  /** Where the curve ends, per cent. */
  readonly toPercent: number
  /** Qualities whose risks are asked for, per cent. */
  readonly goodPercent: number
  readonly poorPercent: number
  /** Real arrivals of the part, and the work of one piece; null where unknown. */
  readonly lotsPerMonth: number | null
  readonly minutesPerPiece: number | null
  /** By variables: one limit, or two with half of what is nonconforming beyond each. One where not said. */
  readonly limits?: 'one' | 'two'
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

export interface Assessment {
  readonly words: string
  readonly model: RiskModel
  readonly sample: Sample | null
  readonly curve: readonly CurvePoint[]
  readonly costs: readonly CostPoint[]
  /** Qualities accepted 95, 50 and 10 times in 100, per cent; null where the curve does not come down so far. */
  readonly at95: number | null
  readonly at50: number | null
  readonly at10: number | null
  readonly producersRisk: number
  readonly consumersRisk: number
  readonly outgoingLimit: { readonly percent: number; readonly atPercent: number }
  /** Average share of the arrivals looked at; null where it depends on the calendar. */
  readonly shareInspected: number | null
  /** At the good quality, lots that are looked at. */
  readonly piecesPerLot: number
  readonly piecesPerMonth: number | null
  readonly minutesPerMonth: number | null
  readonly sentence: string
}

interface Model {
  readonly model: RiskModel
  readonly sample: Sample | null
  readonly accepted: (fraction: number) => number
  readonly curve: (toPercent: number) => CurvePoint[]
  /** Early stop is dear to work out and can be left out. */
  readonly cost: (fraction: number, withEarlyStop: boolean) => Omit<CostPoint, 'percent'>
}

const costPoints = 40

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

function variablesModel(sample: Sample, lotSize: number, limits: AssessmentOptions['limits']): Model {
  const { k, method } = sample.variables as NonNullable<Sample['variables']>
  const accepted = (limits === 'two' ? twoLimitAcceptance : variablesAcceptance)(sample.sampleSize, k, method)
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

function modelOf(rule: SamplingRule | ContinuousRule, lotSize: number, limits: AssessmentOptions['limits'] = 'one'): Model {
  if (rule.kind === 'continuous') return runModel(rule, lotSize)
  const sample = sampleFor(rule, lotSize)
  if (sample.variables) return variablesModel(sample, lotSize, limits)
  return sample.counting === 'nonconformities' ? perUnitModel(sample, lotSize) : lotModel(sample, lotSize)
}

/** What a frequency makes of a plan: lots that nobody looks at pass. */
function withFrequency(rule: FrequencyRule, accepted: number): { accepted: number; share: number } {
  if (rule.kind === 'earnedSkipping') {
    const { accepted: passed, inspected } = skipLotPerformance({ clearance: rule.clearance, fraction: 1 / rule.k }, accepted)
    return { accepted: passed, share: inspected }
  }
  const share = expectedShare(rule, accepted) ?? 1
  return { accepted: 1 - share * (1 - accepted), share }
}

/**
 * The operating curve of a choice alone, some 200 points. Shape: choice, lot size, end in per cent → CurvePoint[], rising percent.
 * @throws {CoreError} as `assess`.
 */
export function choiceCurve({ sampling, frequency }: SamplingChoice, lotSize: number, toPercent: number): CurvePoint[] {
  checkLotSize(lotSize)
  return modelOf(sampling, lotSize)
    .curve(toPercent)
    .map((at) => ({ percent: at.percent, accepted: withFrequency(frequency, at.accepted).accepted }))
}

/**
 * Everything that is to be known of a sampling choice before it is made.
 * Shape: choice, options → Assessment. Percentages 0–100 (nonconformities: per 100 units), risks and shares 0–1, pieces a lot.
 * Models: pieces of one lot hypergeometric; nonconformities Poisson; by variables normal; a run as in CSP-1. Rules that follow the
 * calendar are shown as if every arrival were inspected, and `shareInspected` is null.
 * @throws {CoreError} as `sampleFor`, `checkFrequencyRule`, `continuousPerformance`.
 */
export function assess(choice: SamplingChoice, options: AssessmentOptions): Assessment {
  const { lotSize, toPercent, goodPercent, poorPercent } = options
  checkLotSize(lotSize)
  const { sampling, frequency } = choice
  const model = modelOf(sampling, lotSize, options.limits)
  const accepted = (fraction: number) => withFrequency(frequency, model.accepted(fraction)).accepted
  const costAt = (percent: number, withEarlyStop: boolean): CostPoint => {
    const cost = model.cost(percent / 100, withEarlyStop)
    const { share } = withFrequency(frequency, model.accepted(percent / 100))
    return {
      percent,
      expectedSize: cost.expectedSize * share,
      curtailedSize: cost.curtailedSize === null ? null : cost.curtailedSize * share,
      totalInspection: cost.totalInspection * share,
      outgoingPercent: share * cost.outgoingPercent + (1 - share) * percent,
    }
  }
  const costs = Array.from({ length: costPoints + 1 }, (_, i) => costAt((toPercent * i) / costPoints, true))
  const point = (share: number) => {
    const found = fractionAccepted(accepted, share)
    return found === null ? null : 100 * found
  }
  const worst = worstOutgoing(sampling, frequency, costs, (percent) => costAt(percent, false))
  const good = costAt(goodPercent, true)
  const { share } = withFrequency(frequency, model.accepted(goodPercent / 100))
  const isByCalendar = expectedShare(frequency) === null
  const piecesPerLot = good.curtailedSize ?? good.expectedSize
  const lots = options.lotsPerMonth
  const piecesPerMonth = lots === null || isByCalendar ? null : piecesPerLot * lots
  const minutesPerMonth = piecesPerMonth === null || options.minutesPerPiece === null ? null : piecesPerMonth * options.minutesPerPiece
  const known = {
    producersRisk: 1 - accepted(goodPercent / 100),
    consumersRisk: accepted(poorPercent / 100),
    at10: point(0.1),
    outgoingLimit: worst,
    piecesPerMonth,
    minutesPerMonth,
  }
  return {
    ...known,
    words: sampling.kind === 'continuous' ? describeContinuous(sampling) : describeChoice(sampling, frequency),
    model: model.model,
    sample: model.sample,
    curve: model.curve(toPercent).map((at) => ({ percent: at.percent, accepted: withFrequency(frequency, at.accepted).accepted })),
    costs,
    at95: point(0.95),
    at50: point(0.5),
    shareInspected: isByCalendar ? null : share,
    piecesPerLot,
    sentence: sentenceOf(model.model, options, { ...known, piecesPerLot }),
  }
}

function describeContinuous({ clearance, k }: ContinuousRule): string {
  return `every unit until ${clearance} in a row conform, then one in ${k}`
}

function describeChoice(sampling: SamplingRule, frequency: FrequencyRule): string {
  return `${describeSamplingRule(sampling)}${frequency.kind === 'everyArrival' ? '' : `; ${describeFrequencyRule(frequency)}`}`
}

/** The worst average outgoing quality among the points drawn, refined between its neighbours. */
function worstOutgoing(
  sampling: SamplingRule | ContinuousRule,
  frequency: FrequencyRule,
  costs: readonly CostPoint[],
  costAt: (percent: number) => CostPoint,
): { percent: number; atPercent: number } {
  if (sampling.kind === 'continuous' && frequency.kind === 'everyArrival') {
    const { x, value } = continuousOutgoingLimit({ clearance: sampling.clearance, fraction: 1 / sampling.k })
    return { percent: 100 * value, atPercent: 100 * x }
  }
  const step = (costs[1] as CostPoint).percent
  const best = costs.reduce((most, cost) => (cost.outgoingPercent > most.outgoingPercent ? cost : most))
  const fine = Array.from({ length: 41 }, (_, i) => Math.min(100, Math.max(0, best.percent + step * (i / 20 - 1)))).map(costAt)
  const top = fine.reduce((most, cost) => (cost.outgoingPercent > most.outgoingPercent ? cost : most), best)
  return { percent: top.outgoingPercent, atPercent: top.percent }
}

function rounded(value: number): string {
  return value >= 10 ? Math.round(value).toString() : Number(value.toPrecision(2)).toString()
}

function timeWords(minutes: number): string {
  return minutes < 90 ? `${rounded(minutes)} minutes` : `${rounded(minutes / 60)} hours`
}

function sentenceOf(
  model: RiskModel,
  { goodPercent, poorPercent, limits }: AssessmentOptions,
  known: Pick<Assessment, 'producersRisk' | 'consumersRisk' | 'piecesPerLot' | 'piecesPerMonth' | 'minutesPerMonth' | 'at10'>,
): string {
  const unit =
    model === 'perUnit'
      ? ' nonconformities per 100 units'
      : ` % nonconforming${model === 'variables' && limits === 'two' ? ', half of them beyond each limit,' : ''}`
  const subject = model === 'run' ? 'Of a run' : 'A lot'
  const passes = (share: number) => (share === 0 ? 'never passes' : share === 1 ? 'always passes' : `passes ${timesIn100(share)}`)
  const good =
    model === 'run'
      ? `${subject} with ${percentText(goodPercent)} % nonconforming, ${Math.round(100 * (1 - known.producersRisk))} of 100 units pass under sampling`
      : `${subject} with ${percentText(goodPercent)}${unit} ${passes(1 - known.producersRisk)}`
  const poor =
    model === 'run'
      ? `with ${percentText(poorPercent)} %, ${Math.round(100 * known.consumersRisk)}`
      : `one with ${percentText(poorPercent)} ${passes(known.consumersRisk)}`
  const month = known.piecesPerMonth === null ? '' : `, ${pieces(Math.round(known.piecesPerMonth))} a month`
  const time = known.minutesPerMonth === null ? '' : ` or ${timeWords(known.minutesPerMonth)}`
  return `${good}; ${poor}. On average ${rounded(known.piecesPerLot)} pieces a lot${month}${time}.`
}
