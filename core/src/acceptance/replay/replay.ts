import type { Decimal } from '../../tolerance/decimal'
import { isNonconforming, judgeReading, type Acceptance } from '../../tolerance/judgeReading'
import type { Limits } from '../../tolerance/limits'
import { historyFrom } from '../frequency/frequencyHistory'
import { isDue, type FrequencyRule } from '../frequency/frequencyRule'
import { describeDue } from '../frequency/describeDue'
import { chanceOfRecorded, chanceOfValues } from './replayChance'
import { sampleFor } from '../rules/sampleFor'
import type { SamplingRule } from '../rules/samplingRule'

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
  /** The order that it came under; empty or left out where there is none. */
  readonly order?: string | undefined
  readonly readings: readonly PastReading[]
  /** The rule it was judged by. */
  readonly sampleSize: number
  readonly accept: number
}

/** Other limits, with what a reading is judged by besides: a marginal band and a place to round to, as the characteristic has them. */
export interface OtherLimits extends Acceptance {
  /** Whether a reading in the band conforms; it does unless it is said. */
  readonly marginalConforms?: boolean | undefined
}

/** What is to be different; what is left out stays as it was. */
export interface ReplayChange {
  readonly limits?: OtherLimits | undefined
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
    return { accepted: isAccepted ? 1 : 0, missing: 0, piecesAfter: lot.sampleSize, because: `${found} of ${recorded}, Ac ${lot.accept}` }
  }
  const sample = sampleFor(sampling, lot.quantity)
  const missing = Math.max(0, sample.sampleSize - recorded)
  const piecesAfter = sample.sampleSize
  if (sample.variables) {
    const values = lot.readings.map((reading) => reading.value).filter((value) => value !== null)
    const outcome = limits === undefined ? null : chanceOfValues(sample.variables, values, limits)
    if (outcome === null)
      return { accepted: found === 0 ? 1 : 0, missing, piecesAfter, because: 'too few measured values that differ: judged by counting' }
    return { accepted: outcome.accepted, missing, piecesAfter, because: outcome.reasoning }
  }
  const { accepted, expectedSize } = chanceOfRecorded(sample.stages, recorded, found)
  const estimated = missing > 0 ? `, up to ${missing} more estimated from them` : ''
  return { accepted, missing, piecesAfter: expectedSize, because: `${found} of ${recorded} recorded${estimated}; ${sample.reasoning}` }
}

const everyOne = { isDue: true, because: { kind: 'every' } } as const

/**
 * Replays recorded lots, in order, under a change. A smaller sample is drawn from the recorded readings without replacement, so its verdict
 * is a probability; a larger one adds pieces whose answers are estimated from the recorded ones. A frequency rule sees the lots as they
 * come; a lot passes into its history as accepted when that is the likelier.
 * Shape: PastLot[], ReplayChange → one ReplayedLot for each, lazily, so that long replays can show progress and be stopped.
 * @throws {CoreError} as `sampleFor`, `isDue`, `judgeVariables`, `judgeReading`.
 */
export function* replay(lots: Iterable<PastLot>, change: ReplayChange, limitsBefore?: Limits): Generator<ReplayedLot> {
  const before = historyFrom()
  for (const lot of lots) {
    const foundBefore = lot.readings.reduce((sum, reading) => sum + (reading.isConforming ? 0 : 1), 0)
    const { limits } = change
    const fails = ({ value, isConforming }: PastReading) =>
      value === null || limits === undefined ? !isConforming : isNonconforming(judgeReading(value, limits), limits.marginalConforms)
    const foundAfter = limits ? lot.readings.reduce((sum, reading) => sum + (fails(reading) ? 1 : 0), 0) : foundBefore
    const arrival = { id: lot.id, day: lot.day, atHours: lot.atHours, quantity: lot.quantity, order: lot.order ?? '' }
    const due = change.frequency ? isDue(change.frequency, arrival, before) : everyOne
    const judged = due.isDue
      ? chance(lot, foundAfter, limits ?? limitsBefore, change.sampling)
      : { accepted: 1, missing: 0, piecesAfter: 0, because: `not looked at: ${describeDue(due)}` }
    before.note({ ...arrival, isInspected: due.isDue, isAccepted: due.isDue ? judged.accepted >= 0.5 : null })
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
