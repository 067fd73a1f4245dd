import { sampleFor, type Sample } from '../acceptance/rules/sampleFor'
import type { SamplingRule } from '../acceptance/rules/samplingRule'
import { ruleUnder } from '../acceptance/switching/ruleUnder'
import type { SwitchingOptions, SwitchState } from '../acceptance/switching/switching'
import { switchingOf } from '../acceptance/switching/switchingOf'
import type { PointLine } from '../precedence/mergeDuplicateLines'
import { ownLimits, questionOf } from '../precedence/question'
import type { Here, Rules } from './pastOccasion'

/** A line with its sample, as it is about to be asked. */
export interface PlayedLine extends PointLine {
  readonly characteristicId: string
  readonly minutesPerPiece: number | null
}
type SampleOf = (lotSize: number, state: SwitchState | null) => Pick<Sample, 'sampleSize' | 'accept'>

/** Samples, worked out once for a rule (whoever asks by it), the inspection in force (null where it does not switch) and a size. */
function samples(): (rule: SamplingRule) => SampleOf {
  const byRule = new Map<string, SampleOf>()
  return (rule) => {
    const key = JSON.stringify(rule)
    const known = byRule.get(key)
    if (known) return known
    const worked = new Map<SwitchState | null, Map<number, ReturnType<SampleOf>>>()
    const sampleOf: SampleOf = (lotSize, state) => {
      const bySize = worked.get(state) ?? new Map<number, ReturnType<SampleOf>>()
      worked.set(state, bySize)
      const found = bySize.get(lotSize)
      if (found) return found
      const { sampleSize, accept } = sampleFor(state === null ? rule : ruleUnder(rule, state), lotSize)
      bySize.set(lotSize, { sampleSize, accept })
      return { sampleSize, accept }
    }
    byRule.set(key, sampleOf)
    return sampleOf
  }
}

/** A line of a plan as a control point asks it of a part: what does not depend on the lot is worked out once. */
export interface LineOfPart extends Omit<PlayedLine, 'sampleSize' | 'accept'> {
  readonly sampleOf: SampleOf
  /** How its severity switches; null where it stays. */
  readonly options: SwitchingOptions | null
}

/** What control points ask of parts; parts without limits of their own share their lines. */
export function linesAsked({ plans }: Rules): (here: Here) => readonly LineOfPart[] {
  const sampleOf = samples()
  const known = new Map<string, readonly LineOfPart[]>()
  const withTargets = new Set([...plans].flatMap(([id, lines]) => (lines.some(({ targets }) => targets.length > 0) ? [id] : [])))
  return ({ point: { planId, operationId }, occasion, subject }) => {
    const partId = subject === 'load' ? null : occasion.partId
    const key = `${planId} ${operationId} ${subject} ${withTargets.has(planId) ? (partId ?? '') : ''}`
    const found = known.get(key)
    if (found) return found
    const lines = (plans.get(planId) ?? []).map((line): LineOfPart => {
      const { characteristicId, sampling, minutesPerPiece, isRequired, isDecisive } = line
      const options = subject === 'load' ? null : switchingOf(sampling)
      const question = questionOf(operationId, characteristicId, ownLimits(line, partId, 0))
      const asked = { question, characteristicId, minutesPerPiece, isRequired, isDecisive }
      return { ...asked, isByHistory: options !== null, options, sampleOf: sampleOf(sampling) }
    })
    known.set(key, lines)
    return lines
  }
}
