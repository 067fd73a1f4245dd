import type { AlsoFor, InspectionLine } from '@nemawashi/contract'
import {
  countedOf,
  describeSamplingRule,
  ruleUnder,
  sampleFor,
  describeSeverity,
  type CharacteristicKind,
  type SamplingRule,
  type SeverityNow,
} from '@nemawashi/core'

/**
 * Why a line asks for its sample, said from the rule of its plan. Where the rule now gives another sample than the one that was worked out
 * when the inspection opened, only what was asked for is said.
 */
export function sampleWords(
  rule: SamplingRule | null,
  lotSize: number,
  drawn: { readonly sampleSize: number; readonly accept: number; readonly severity: SeverityNow | null; readonly kind: CharacteristicKind },
): string {
  if (rule !== null && drawn.severity !== null)
    return `${sampleWords(ruleUnder(rule, drawn.severity.state), lotSize, { ...drawn, severity: null })}; ${describeSeverity(drawn.severity)}`
  const numbers = `n ${drawn.sampleSize}, Ac ${drawn.accept}`
  if (rule === null) return numbers
  const now = sampleFor(rule, lotSize, countedOf(drawn.kind))
  return now.sampleSize === drawn.sampleSize && now.accept === drawn.accept ? now.reasoning : `${describeSamplingRule(rule)}: ${numbers}`
}

/** The same with what came of it since: asked for others too, and changed by hand. */
export function sampleStory(
  said: string,
  {
    sampleSize,
    accept,
    alsoFor,
    adaptedFrom,
  }: { sampleSize: number; accept: number; alsoFor: readonly AlsoFor[]; adaptedFrom: InspectionLine['adaptedFrom'] },
): string {
  const others = alsoFor.map((plan) => `${plan.planName} (n ${plan.sampleSize})`).join(', ')
  const shared = others === '' ? said : `${said}; asked once, with the larger sample, also for ${others}`
  return adaptedFrom === null ? shared : `${shared}; changed to n ${sampleSize}, Ac ${accept} by ${adaptedFrom.byName}: ${adaptedFrom.reason}`
}
