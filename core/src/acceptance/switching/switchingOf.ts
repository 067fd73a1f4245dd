import type { SamplingRule } from '../rules/samplingRule'
import type { SchemeRule } from './judgedLot'
import type { SwitchingOptions } from './switching'

/** A rule whose severity follows the history by itself. */
export function switches(rule: SamplingRule): rule is SchemeRule {
  return rule.kind === 'attributesScheme' && rule.switching !== undefined
}

/** How a rule switches, and with which inspection it begins; null where its severity stays. */
export function switchingOf(rule: SamplingRule): SwitchingOptions | null {
  if (!switches(rule)) return null
  const isStaged = rule.form === 'double' || rule.form === 'multiple'
  return { allowsReduced: rule.switching === 'withReduced', isStaged, start: rule.severity ?? 'normal' }
}
