import type { AlsoFor, InspectionLine } from '@nemawashi/contract'
import {
  countedOf,
  describeSamplingRule,
  ruleUnder,
  sampleFor,
  saySeverity,
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
  asked: { readonly sampleSize: number; readonly accept: number; readonly severity: SeverityNow | null; readonly kind: CharacteristicKind },
): string {
  if (rule !== null && asked.severity !== null)
    return `${sampleWords(ruleUnder(rule, asked.severity.state), lotSize, { ...asked, severity: null })}; ${saySeverity(asked.severity)}`
  const numbers = `n ${asked.sampleSize}, Ac ${asked.accept}`
  if (rule === null) return numbers
  const now = sampleFor(rule, lotSize, countedOf(asked.kind))
  return now.sampleSize === asked.sampleSize && now.accept === asked.accept ? now.reasoning : `${describeSamplingRule(rule)}: ${numbers}`
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
  const others = alsoFor.map((of) => `${of.planName} (n ${of.sampleSize})`).join(', ')
  const shared = others === '' ? said : `${said}; asked once, with the larger sample, also for ${others}`
  return adaptedFrom === null ? shared : `${shared}; changed to n ${sampleSize}, Ac ${accept} by ${adaptedFrom.byName}: ${adaptedFrom.reason}`
}
