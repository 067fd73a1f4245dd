import { calibrationFault, type Calibration } from './calibrationFault'
import { isResolutionFine } from '../tolerance/answers'
import { compareDecimal, subtractDecimal, type Decimal } from '../tolerance/decimal'
import { convertUnit, unitOf } from '../tolerance/units'
import { usualUnits, type MeasureUnit } from '../tolerance/usualUnits'

/** In use; locked, so that nobody measures with it for now; retired for good. */
export const gaugeStates = ['inUse', 'locked', 'retired'] as const
export type GaugeState = (typeof gaugeStates)[number]

/** What is known of one gauge. */
export interface GaugeFacts extends Calibration {
  readonly kind: string
  readonly state: GaugeState
  /** The smallest step that it shows, in its unit; null where it shows no number (a go and no-go gauge). */
  readonly resolution: Decimal | null
  readonly unit: string | null
  readonly lower: Decimal | null
  readonly upper: Decimal | null
}

/** What is to be measured with it. */
export interface MeasuringTask {
  readonly gaugeKind: string
  readonly unit: string | null
  readonly lower: Decimal | null
  readonly upper: Decimal | null
}

/** Why a gauge should not be used, with the numbers that it rests on. */
export type GaugeObjection =
  | { readonly kind: 'retired' | 'locked' | 'neverCalibrated' }
  | { readonly kind: 'wrongKind'; readonly asked: string; readonly actual: string }
  | { readonly kind: 'otherQuantity'; readonly asked: string; readonly actual: string }
  | { readonly kind: 'overdue'; readonly dueOn: string }
  | { readonly kind: 'tooCoarse'; readonly resolution: Decimal; readonly tolerance: Decimal; readonly unit: string }
  | { readonly kind: 'outOfRange'; readonly limit: Decimal; readonly lower: Decimal | null; readonly upper: Decimal | null; readonly unit: string }
export type ObjectionKind = GaugeObjection['kind']

const barring: readonly ObjectionKind[] = ['retired', 'locked', 'wrongKind', 'otherQuantity']

/** Whether no reason that somebody gives helps: such a gauge measures nothing here. */
export function isBarring({ kind }: GaugeObjection): boolean {
  return barring.includes(kind)
}

/** Resolution against the tolerance, and range against the limits, in the unit of the gauge. */
function sizeObjections(gauge: GaugeFacts, task: MeasuringTask, known: readonly MeasureUnit[]): GaugeObjection[] {
  const { unit } = gauge
  if (unit === null || task.unit === null) return []
  if (unit !== task.unit) {
    const [own, asked] = [unitOf(unit, known), unitOf(task.unit, known)]
    if (own.quantity !== asked.quantity || own.factor === null || asked.factor === null)
      return [{ kind: 'otherQuantity', asked: task.unit, actual: unit }]
  }
  const here = (limit: Decimal | null) => (limit === null || unit === task.unit ? limit : convertUnit(limit, task.unit as string, unit, null, known))
  const [lower, upper] = [here(task.lower), here(task.upper)]
  const found: GaugeObjection[] = []
  if (gauge.resolution !== null && lower !== null && upper !== null) {
    if (!isResolutionFine(lower, upper, gauge.resolution))
      found.push({ kind: 'tooCoarse', resolution: gauge.resolution, tolerance: subtractDecimal(upper, lower), unit })
  }
  const isBelow = (limit: Decimal) => gauge.lower !== null && compareDecimal(limit, gauge.lower) < 0
  const isAbove = (limit: Decimal) => gauge.upper !== null && compareDecimal(limit, gauge.upper) > 0
  const outside = [lower, upper].find((limit) => limit !== null && (isBelow(limit) || isAbove(limit)))
  if (outside != null) found.push({ kind: 'outOfRange', limit: outside, lower: gauge.lower, upper: gauge.upper, unit })
  return found
}

/**
 * Everything that speaks against using a gauge for a task on a day; empty where nothing does. Those that bar it come first.
 * Shape: gauge, task, day as `2026-11-30`, the plant's units → objections.
 * @throws {CoreError} `unit_unknown` where a unit is not in the list.
 */
export function gaugeObjections(gauge: GaugeFacts, task: MeasuringTask, today: string, known: readonly MeasureUnit[] = usualUnits): GaugeObjection[] {
  const found: GaugeObjection[] = gauge.state === 'inUse' ? [] : [{ kind: gauge.state }]
  if (gauge.kind !== task.gaugeKind) found.push({ kind: 'wrongKind', asked: task.gaugeKind, actual: gauge.kind })
  found.push(...sizeObjections(gauge, task, known))
  const fault = calibrationFault(gauge, today)
  if (fault === 'overdue' && gauge.dueOn !== null) found.push({ kind: fault, dueOn: gauge.dueOn })
  else if (fault === 'neverCalibrated') found.push({ kind: fault })
  return found
}

/** Whether a gauge has gone over its day since it was chosen: nobody has said yet why it may be used all the same. @param day when it measures */
export function isOverSinceChosen(use: { readonly dueOn: string | null; readonly objections: readonly GaugeObjection[] }, day: string): boolean {
  return use.dueOn !== null && use.dueOn < day && !use.objections.some(({ kind }) => kind === 'overdue')
}

/** An objection in words, as they stand behind the code of the gauge. @param dayWords how a day is written */
export function describeObjection(objection: GaugeObjection, dayWords: (day: string) => string = (day) => day): string {
  switch (objection.kind) {
    case 'retired':
      return 'is retired'
    case 'locked':
      return 'is locked'
    case 'neverCalibrated':
      return 'was never calibrated'
    case 'wrongKind':
      return `is a ${objection.actual}, asked for is a ${objection.asked}`
    case 'otherQuantity':
      return `measures in ${objection.actual}, which does not convert to ${objection.asked}`
    case 'overdue':
      return `was due for calibration on ${dayWords(objection.dueOn)}`
    case 'tooCoarse':
      return `shows steps of ${objection.resolution} ${objection.unit}; a tolerance of ${objection.tolerance} ${objection.unit} has fewer than ten of them`
    case 'outOfRange':
      return `measures from ${objection.lower ?? '…'} to ${objection.upper ?? '…'} ${objection.unit}, the limit ${objection.limit} ${objection.unit} is outside of that`
  }
}

/** Which gauge measured, and why although something spoke against it: `SPT-2, although it shows steps of 0.2 N …; Rosa Lind: no other one is free`. */
export function describeGaugeUse(
  use: {
    readonly code: string
    readonly objections: readonly GaugeObjection[]
    readonly reason: string
    readonly byName: string
    /** How many values it gave, and how many of them it sent by itself. */
    readonly values?: number
    readonly sent?: number
  },
  dayWords?: (day: string) => string,
): string {
  const { values = 0, sent = 0 } = use
  const sending = sent === 0 ? '' : sent === values ? ', which sent them' : `, which sent ${sent} of ${values}`
  if (use.objections.length === 0) return use.code + sending
  const against = use.objections.map((objection) => describeObjection(objection, dayWords)).join(' and ')
  return `${use.code}${sending}, although it ${against} (${use.byName}: ${use.reason})`
}
