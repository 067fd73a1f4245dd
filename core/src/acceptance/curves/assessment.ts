import { sentenceOf } from './assessmentSentence'
import { continuousOutgoingLimit } from '../frequency/continuousSampling'
import { describeSamplingRule } from '../rules/describeSamplingRule'
import { highestPoint } from '../../numeric/findRoot'
import { CoreError } from '../../errors'
import { checkFrequencyRule, describeFrequencyRule, expectedShare, type FrequencyRule } from '../frequency/frequencyRule'
import { checkLotSize } from '../../numeric/lotSize'
import type { CurvePoint } from './operatingCurve'
import { fractionAccepted } from '../plans/planQuality'
import { modelOf, type ContinuousRule, type CostPoint, type LimitCount, type RiskModel } from './riskModels'
import type { Sample } from '../rules/sampleFor'
import type { SamplingRule } from '../rules/samplingRule'
import { skipLotPerformance } from '../frequency/skipLot'

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
  readonly limits?: LimitCount
}

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

const costPoints = 40

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
 * @throws {CoreError} as `sampleFor`, `checkFrequencyRule`, `continuousPerformance`; `percent_invalid` (options).
 */
export function assess(choice: SamplingChoice, options: AssessmentOptions): Assessment {
  const { lotSize, toPercent, goodPercent, poorPercent } = options
  checkLotSize(lotSize)
  const { sampling, frequency } = choice
  checkFrequencyRule(frequency)
  checkOptions(options)
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
  const isRate = model.model === 'perUnit'
  const point = (share: number) => {
    const found = fractionAccepted(accepted, share, isRate)
    return found === null ? null : 100 * found
  }
  const worst = worstOutgoing(choice, model.model, lotSize, fractionAccepted(accepted, 0.001, isRate), (percent) => costAt(percent, false))
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

/** Steps of the first look over all qualities; the hill has one top, which is then narrowed down. */
const hillSteps = 24

/** The worst average outgoing quality over all qualities, wherever the curve that is drawn ends. */
function worstOutgoing(
  { sampling, frequency }: SamplingChoice,
  model: RiskModel,
  lotSize: number,
  rarelyAccepted: number | null,
  costAt: (percent: number) => CostPoint,
): { percent: number; atPercent: number } {
  if (sampling.kind === 'continuous' && frequency.kind === 'everyArrival') {
    const { x, value } = continuousOutgoingLimit({ clearance: sampling.clearance, fraction: 1 / sampling.k })
    return { percent: 100 * value, atPercent: 100 * x }
  }
  const outgoing = (percent: number) => costAt(percent).outgoingPercent
  // Beyond the quality that is hardly ever accepted next to nothing goes out; lots that nobody looks at let the worst quality out.
  const everything = model === 'perUnit' ? 100 * (rarelyAccepted ?? 1) : 100
  const end = frequency.kind === 'everyArrival' && rarelyAccepted !== null ? Math.min(everything, 100 * rarelyAccepted) : everything
  const top = highestPoint(outgoing, 0, end, hillSteps)
  if (model !== 'lot') {
    const last = outgoing(end)
    return last > top.value ? { percent: last, atPercent: end } : { percent: top.value, atPercent: top.x }
  }
  // A lot holds whole units: the top is one of those around it.
  const around = Math.round((top.x / 100) * lotSize)
  const units = Array.from({ length: 9 }, (_, i) => around + i - 4).filter((count) => count >= 0 && count <= lotSize)
  const candidates = [...units.map((count) => (100 * count) / lotSize), end].map((percent) => ({ percent: outgoing(percent), atPercent: percent }))
  return candidates.reduce((most, candidate) => (candidate.percent > most.percent ? candidate : most))
}

/** @throws {CoreError} `percent_invalid`, `quantity_invalid` (each gives the field). */
function checkOptions(options: AssessmentOptions): void {
  for (const field of ['lotsPerMonth', 'minutesPerPiece'] as const) {
    const value = options[field]
    if (value !== null && !(value >= 0 && value < Infinity))
      throw new CoreError('quantity_invalid', `Received ${value} as ${field}. It is 0 or more, or nothing is known of it.`, {
        received: value,
        field,
      })
  }
  for (const field of ['toPercent', 'goodPercent', 'poorPercent'] as const) {
    const value = options[field]
    if (!((field === 'toPercent' ? value > 0 : value >= 0) && value < 1e9))
      throw new CoreError('percent_invalid', `Received ${value} % as ${field}. It is ${field === 'toPercent' ? 'more than 0' : '0 or more'}.`, {
        received: value,
        field,
      })
  }
}
