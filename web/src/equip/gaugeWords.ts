import type { Gauge } from '@nemawashi/contract'
import { calibrationFault, type GaugeState } from '@nemawashi/core'
import { dayWords } from '../format/format'
import { plantDay } from '../shell/plantTime'

export const gaugeStateWords: Readonly<Record<GaugeState, string>> = { inUse: 'in use', locked: 'locked', retired: 'retired' }

type Due = Pick<Gauge, 'dueOn' | 'intervalMonths' | 'calibratedOn'>

/** Whether a gauge needs a calibration now. */
export const isOverdue = (gauge: Due): boolean => calibrationFault(gauge, plantDay(new Date())) !== null

/** When a gauge is due, as a list says it. */
export function dueOf({ dueOn, intervalMonths }: Due): string {
  if (dueOn !== null) return dayWords(dueOn)
  return intervalMonths === null ? 'needs none' : 'never calibrated'
}

/** `0 to 25 mm`, `up to 200 N`; empty where nothing is said. */
export function rangeWords({ lower, upper, unit }: Pick<Gauge, 'lower' | 'upper' | 'unit'>): string {
  if (lower === null && upper === null) return ''
  const range = lower === null ? `up to ${upper}` : upper === null ? `from ${lower}` : `${lower} to ${upper}`
  return `${range} ${unit ?? ''}`.trim()
}
