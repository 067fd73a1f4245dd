import type { FrequencyRule, SamplingChoice } from '@nemawashi/core'
import { frequencyKinds, ruleKinds } from './samplingKinds'

/** The rules of the workshop as they stand in the address, so that a comparison can be mailed. */
export function packRules(choices: readonly SamplingChoice[]): string {
  return JSON.stringify(choices)
}

/** Reads them back; what is not a rule is left out, and nothing at all gives null. */
export function unpackRules(text: unknown): SamplingChoice[] | null {
  if (typeof text !== 'string') return null
  try {
    const parsed = JSON.parse(text) as unknown
    if (!Array.isArray(parsed)) return null
    const choices = parsed.slice(0, 4).filter(isChoice)
    return choices.length > 0 ? choices : null
  } catch {
    return null
  }
}

function isChoice(value: unknown): value is SamplingChoice {
  const { sampling, frequency } = (value ?? {}) as { sampling?: { kind?: string }; frequency?: FrequencyRule }
  return (sampling?.kind ?? '') in ruleKinds && (frequency?.kind ?? '') in frequencyKinds
}
