import { assess, riskOf, sampleFor, type Assessment, type Counting, type SamplingRule } from '@nemawashi/core'
import { roundEnd } from './roundEnd'

/** A sampling rule beside its risk: the curve to where it flattens out, the two qualities that the sentence is about, and the sentence. */
export interface WeighedRule {
  readonly assessment: Assessment
  readonly sentence: string
  /** Per cent nonconforming at the end of the axis. */
  readonly end: number
  readonly marks: readonly { readonly percent: number; readonly accepted: number }[]
}

/**
 * What a sampling rule lets through at a lot size.
 * @throws {CoreError} as `sampleFor` and `assess`.
 */
export function weighRule(sampling: SamplingRule, lotSize: number, counted: Counting): WeighedRule {
  const sample = sampleFor(sampling, lotSize, counted)
  const aql = 'aqlPercent' in sampling ? sampling.aqlPercent : null
  const choice = { sampling, frequency: { kind: 'everyArrival' } } as const
  const options = { lotSize, lotsPerMonth: null, minutesPerPiece: null }
  if (sample.stages.length === 1 && sample.variables === null && sample.counting === 'nonconforming') {
    const risk = riskOf({ sampleSize: sample.sampleSize, accept: sample.reject - 1 }, lotSize, aql)
    const { sentence, goodPercent, poorPercent } = risk
    const end = roundEnd(Math.max(poorPercent * 1.7, goodPercent * 2, 0.2))
    const marks = [
      { percent: goodPercent, accepted: risk.goodAccepted },
      { percent: poorPercent, accepted: risk.poorAccepted },
    ]
    return { assessment: assess(choice, { ...options, toPercent: end, goodPercent, poorPercent }), sentence, end, marks }
  }
  const first = assess(choice, { ...options, toPercent: 100, goodPercent: aql ?? 1, poorPercent: 10 })
  const [goodPercent, poorPercent] = [aql ?? first.at95 ?? 1, first.at10 ?? 50]
  const end = roundEnd(Math.max(poorPercent * 1.7, goodPercent * 2, 0.2))
  const assessment = assess(choice, { ...options, toPercent: end, goodPercent, poorPercent })
  const marks = [
    { percent: goodPercent, accepted: 1 - assessment.producersRisk },
    { percent: poorPercent, accepted: assessment.consumersRisk },
  ]
  return { assessment, sentence: assessment.sentence, end, marks }
}
