import { compareDecimal, type Decimal } from '../tolerance/decimal'
import { judgeReading } from '../tolerance/judgeReading'
import type { Limits } from '../tolerance/limits'
import { isDue, type FrequencyRule, type PastArrival } from './frequencyRule'
import { judgeVariables } from './judgeVariables'
import { sampleFor } from './sampleFor'
import type { SamplingRule } from './samplingRule'
import { walkStages } from './stagedPlan'

/** One answer of the past: its value where one was measured, and whether it conformed then. */
export interface PastReading {
  readonly value: Decimal | null
  readonly isConforming: boolean
}

/** A recorded lot with the readings of one characteristic, in the order of arrival. */
export interface PastLot {
  readonly id: string
  readonly code: string
  readonly day: string
  readonly atHours: number
  readonly quantity: number
  readonly readings: readonly PastReading[]
  /** The rule it was judged by. */
  readonly sampleSize: number
  readonly accept: number
}

/** What is to be different; what is left out stays as it was. */
export interface ReplayChange {
  readonly limits?: Limits | undefined
  readonly sampling?: SamplingRule | undefined
  readonly frequency?: FrequencyRule | undefined
}

export interface ReplayedLot {
  readonly id: string
  readonly code: string
  readonly day: string
  readonly quantity: number
  readonly recorded: number
  /** Nonconforming among the recorded readings, under the old and the new limits. */
  readonly foundBefore: number
  readonly foundAfter: number
  readonly wasAccepted: boolean
  /** Probability that the lot passes under the change, 0..1; 1 where it is not looked at. */
  readonly accepted: number
  readonly isInspected: boolean
  readonly piecesBefore: number
  readonly piecesAfter: number
  /** Pieces that the new sample wants beyond what was recorded; their answers are estimated. */
  readonly missing: number
  readonly because: string
}

/**
 * Probability that k of `size` further pieces are nonconforming, when d of m were (beta-binomial, uniform prior).
 * Shape: → number[most + 1]. Source: Laplace's rule of succession, chained piece by piece.
 */
function furtherMasses(d: number, m: number, size: number, most: number): Float64Array {
  let shares = new Float64Array(most + 2)
  shares[0] = 1
  for (let drawn = 0; drawn < size; drawn++) {
    const next = new Float64Array(most + 2)
    for (let k = 0; k <= most; k++) {
      const share = shares[k] as number
      if (share === 0) continue
      const p = (d + k + 1) / (m + drawn + 2)
      next[k] = (next[k] as number) + share * (1 - p)
      next[k + 1] = (next[k + 1] as number) + share * p
    }
    shares = next
  }
  return shares.slice(0, most + 1)
}

function meanAndDeviation(values: readonly number[]): { mean: number; deviation: number } {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length
  return { mean, deviation: Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (values.length - 1)) }
}

/** Probability that the recorded readings, as a sample without replacement, let the lot pass; with what was missing. */
function chance(
  lot: PastLot,
  found: number,
  limits: Limits | undefined,
  sampling: SamplingRule | undefined,
): Pick<ReplayedLot, 'accepted' | 'missing' | 'piecesAfter' | 'because'> {
  const recorded = lot.readings.length
  if (!sampling) {
    const isAccepted = found <= lot.accept
    return { accepted: isAccepted ? 1 : 0, missing: 0, piecesAfter: lot.sampleSize, because: `${found} of ${recorded}, accept up to ${lot.accept}` }
  }
  const sample = sampleFor(sampling, lot.quantity)
  const missing = Math.max(0, sample.sampleSize - recorded)
  if (sample.variables) {
    const values = lot.readings.map((reading) => reading.value).filter((value) => value !== null)
    if (limits === undefined || values.length < 3 || values.every((value) => compareDecimal(value, values[0] as Decimal) === 0)) {
      return {
        accepted: found === 0 ? 1 : 0,
        missing,
        piecesAfter: sample.sampleSize,
        because: 'too few measured values that differ: judged by counting',
      }
    }
    const summary = { count: values.length, ...meanAndDeviation(values.map(Number)) }
    const open = { lower: limits.lower === null ? null : Number(limits.lower), upper: limits.upper === null ? null : Number(limits.upper) }
    const verdict = judgeVariables({ ...sample.variables, sampleSize: values.length }, open, summary)
    return { accepted: verdict.isAcceptable ? 1 : 0, missing, piecesAfter: sample.sampleSize, because: verdict.reasoning }
  }
  if (missing === 0) {
    const outcome = walkStages(sample.stages, { kind: 'lot', lotSize: recorded, nonconforming: found })
    return {
      accepted: outcome.accepted,
      missing,
      piecesAfter: outcome.expectedSize,
      because: `${found} of ${recorded} recorded; ${sample.reasoning}`,
    }
  }
  const allowed = sample.reject - 1 - found
  const accepted = allowed < 0 ? 0 : furtherMasses(found, recorded, missing, Math.min(allowed, missing)).reduce((sum, share) => sum + share, 0)
  return {
    accepted: Math.min(1, accepted),
    missing,
    piecesAfter: sample.sampleSize,
    because: `${found} of ${recorded} recorded, ${missing} more estimated from them; ${sample.reasoning}`,
  }
}

/**
 * Replays recorded lots, in order, under a change. A smaller sample is drawn from the recorded readings without replacement, so its verdict
 * is a probability; a larger one adds pieces whose answers are estimated from the recorded ones. A frequency rule sees the lots as they
 * come; a lot passes into its history as accepted when that is the likelier.
 * Shape: PastLot[], ReplayChange → one ReplayedLot for each, lazily, so that long replays can show progress and be stopped.
 * @throws {CoreError} as `sampleFor`, `isDue`, `judgeVariables`.
 */
export function* replay(lots: Iterable<PastLot>, change: ReplayChange, limitsBefore?: Limits): Generator<ReplayedLot> {
  const before: PastArrival[] = []
  for (const lot of lots) {
    const foundBefore = lot.readings.reduce((sum, reading) => sum + (reading.isConforming ? 0 : 1), 0)
    const { limits } = change
    const foundAfter = limits
      ? lot.readings.reduce(
          (sum, { value, isConforming }) => sum + ((value === null ? isConforming : judgeReading(value, limits) === 'conforming') ? 0 : 1),
          0,
        )
      : foundBefore
    const arrival = { id: lot.id, day: lot.day, atHours: lot.atHours, quantity: lot.quantity }
    const due = change.frequency ? isDue(change.frequency, arrival, before) : { isDue: true, because: '' }
    const judged = due.isDue
      ? chance(lot, foundAfter, limits ?? limitsBefore, change.sampling)
      : { accepted: 1, missing: 0, piecesAfter: 0, because: `not looked at: ${due.because}` }
    before.push({ ...arrival, isInspected: due.isDue, isAccepted: due.isDue ? judged.accepted >= 0.5 : null })
    yield {
      id: lot.id,
      code: lot.code,
      day: lot.day,
      quantity: lot.quantity,
      recorded: lot.readings.length,
      foundBefore,
      foundAfter,
      wasAccepted: foundBefore <= lot.accept,
      isInspected: due.isDue,
      piecesBefore: lot.sampleSize,
      ...judged,
    }
  }
}

export interface ReplaySummary {
  readonly lots: number
  /** Verdicts that change for certain, and on the average. */
  readonly certainChanges: number
  readonly expectedChanges: number
  /** Standard deviation of the number of changes: the draws of the smaller samples. */
  readonly changesDeviation: number
  readonly piecesBefore: number
  readonly piecesAfter: number
  /** Lots whose recorded share of nonconforming pieces, under the new limits, exceeds the poor quality; and how many of them pass. */
  readonly poorLots: number
  readonly poorPassed: number
  readonly notInspected: number
  readonly estimated: number
}

/** Adds a replay up. Shape: ReplayedLot[], poor quality in per cent → ReplaySummary. */
export function summariseReplay(lots: readonly ReplayedLot[], poorPercent: number): ReplaySummary {
  const summary = {
    certainChanges: 0,
    expectedChanges: 0,
    piecesBefore: 0,
    piecesAfter: 0,
    poorLots: 0,
    poorPassed: 0,
    notInspected: 0,
    estimated: 0,
  }
  let variance = 0
  for (const lot of lots) {
    const changes = lot.wasAccepted ? 1 - lot.accepted : lot.accepted
    summary.certainChanges += changes === 1 ? 1 : 0
    summary.expectedChanges += changes
    variance += changes * (1 - changes)
    summary.piecesBefore += lot.piecesBefore
    summary.piecesAfter += lot.piecesAfter
    summary.notInspected += lot.isInspected ? 0 : 1
    summary.estimated += lot.missing > 0 ? 1 : 0
    if (lot.recorded > 0 && (100 * lot.foundAfter) / lot.recorded > poorPercent) {
      summary.poorLots += 1
      summary.poorPassed += lot.accepted
    }
  }
  return { lots: lots.length, ...summary, changesDeviation: Math.sqrt(variance) }
}
