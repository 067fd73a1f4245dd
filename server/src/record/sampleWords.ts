import { describeSamplingRule, ruleUnder, sampleFor, saySeverity, type SamplingRule, type SeverityNow } from '@nemawashi/core'

/**
 * Why a line asks for its sample, said from the rule of its plan. Where the rule now gives another sample than the one that was worked out
 * when the inspection opened, only what was asked for is said.
 */
export function sampleWords(
  rule: SamplingRule | null,
  lotSize: number,
  asked: { readonly sampleSize: number; readonly accept: number; readonly severity: SeverityNow | null },
): string {
  if (rule !== null && asked.severity !== null)
    return `${sampleWords(ruleUnder(rule, asked.severity.state), lotSize, { ...asked, severity: null })}; ${saySeverity(asked.severity)}`
  const numbers = `n ${asked.sampleSize}, Ac ${asked.accept}`
  if (rule === null) return numbers
  const now = sampleFor(rule, lotSize)
  return now.sampleSize === asked.sampleSize && now.accept === asked.accept ? now.reasoning : `${describeSamplingRule(rule)}: ${numbers}`
}
