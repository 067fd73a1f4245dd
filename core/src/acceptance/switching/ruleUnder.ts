import type { SamplingRule } from '../rules/samplingRule'
import type { SwitchState } from './switching'

/** The rule under the inspection in force; discontinued inspection looks at what tightened does. Other rules have no severity. */
export function ruleUnder(rule: SamplingRule, state: SwitchState): SamplingRule {
  return rule.kind === 'attributesScheme' ? { ...rule, severity: state === 'discontinued' ? 'tightened' : state } : rule
}
