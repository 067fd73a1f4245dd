import { cellCount } from '../tolerance/answers'
import type { Sent } from './instrumentLine'

/** A button that bounces, or is pressed twice by a hand that meant once, sends the same value again within so many milliseconds. */
export const doublePressMs = 200
/** What was pressed longer ago than this does not go into the cell that happens to be open by now. */
export const lateAfterMs = 5_000
/** An instrument that said nothing for so long is taken for silent; one that has nothing to send says so every ten seconds. */
export const silentAfterMs = 30_000

/**
 * Whether a value is the same press once more: the same number and unit, pressed within 200 ms of the one before.
 * Shape: two values with the milliseconds at which they were pressed, by one clock → boolean. Source: our choice; nobody presses five times a second.
 */
export function isDoublePress(before: { readonly value: string; readonly unit: string; readonly atMs: number }, next: typeof before): boolean {
  return before.value === next.value && before.unit === next.unit && Math.abs(next.atMs - before.atMs) < doublePressMs
}

/** A value as one would type it: with its unit behind it where the instrument sent one or the register says it, so that it is converted. */
export function sentText(
  { value, unit }: Pick<Sent, 'value' | 'unit'>,
  { lineUnit, gaugeUnit }: { lineUnit: string | null; gaugeUnit: string | null },
): string {
  const named = unit || (gaugeUnit ?? '')
  return named === '' || named === lineUnit ? value : `${value} ${named}`
}

/** Why a value that came does not go into the open cell by itself; a person takes it there, or leaves it. */
export const waitingReasons = ['otherGauge', 'late', 'notMeasured', 'asking', 'typing', 'answered', 'queued', 'unfit'] as const
export type WaitingReason = (typeof waitingReasons)[number]

/** The bench at the moment at which a value comes. */
export interface BenchMoment {
  readonly line: { readonly kind: string; readonly recording: 'pieces' | 'summary'; readonly sampleSize: number } | null
  /** The gauge that the line is measured with. */
  readonly gaugeId: string | null
  readonly piece: number
  /** Whether the open cell holds an answer. */
  readonly isAnswered: boolean
  /** Whether something is typed that is not kept yet. */
  readonly isTyping: boolean
  /** Whether a value outside the limits is being asked about. */
  readonly isAsking: boolean
  /** How many values wait for a person already: what came first is not overtaken. */
  readonly waiting: number
}

/**
 * Whether a value goes into the open cell by itself (null), or why it waits. A value never replaces an answer or what somebody is typing, and
 * one that was pressed over five seconds ago lands in no cell by itself.
 * Shape: the value's gauge and age in ms, the bench → null or the reason.
 */
export function whyItWaits({ gaugeId, ageMs }: { readonly gaugeId: string; readonly ageMs: number }, bench: BenchMoment): WaitingReason | null {
  if (ageMs > lateAfterMs) return 'late'
  if (bench.line === null || bench.line.kind !== 'measured' || bench.line.recording !== 'pieces') return 'notMeasured'
  if (bench.gaugeId !== gaugeId) return 'otherGauge'
  if (bench.waiting > 0) return 'queued'
  if (bench.isAsking) return 'asking'
  if (bench.isTyping) return 'typing'
  return bench.isAnswered || bench.piece > cellCount(bench.line) ? 'answered' : null
}

const waits: Readonly<Record<WaitingReason, string>> = {
  otherGauge: 'the line is measured with another gauge',
  late: 'it was pressed earlier and came late',
  notMeasured: 'the line takes no single values',
  asking: 'another value is being asked about',
  typing: 'something is being typed',
  answered: 'the piece has an answer',
  queued: 'another value waits before it',
  unfit: 'it does not convert to what the line is measured in',
}
/** The reason in words: `it was pressed earlier and came late`. */
export const waitingWords = (reason: WaitingReason): string => waits[reason]
