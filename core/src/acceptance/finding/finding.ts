import { isNonconforming, type Mark } from '../../tolerance/judgeReading'
import { judgeSample, type SampleJudgement } from '../plans/judgeSample'
import type { Counting } from '../tables/attributePlans'
import { judgeVariables, type VariablesFacts, type VariablesPlan, type VariablesSummary } from '../variables/judgeVariables'
import type { Stage } from '../plans/stagedPlan'

/** One line of an inspection with the marks of its pieces, as far as they were answered. */
export interface LineMarks {
  readonly name: string
  readonly sampleSize: number
  readonly accept: number
  readonly isRequired: boolean
  readonly isDecisive: boolean
  readonly marks: readonly Mark[]
  /** Answers that say nothing about conformity (a noted fact, an answer of a list that is neither). */
  readonly unjudged?: number
  /** Does △ count as conforming? It does unless the characteristic says otherwise. */
  readonly marginalConforms?: boolean
  /** Stages of a double or multiple plan; the pieces are taken in their order. */
  readonly stages?: readonly Stage[] | null
  /** Nonconformities found on the pieces, where these are counted and not the pieces. */
  readonly nonconformities?: number | null
  /** By variables: the plan, the measured values and the limits. */
  readonly variables?: VariablesPlan | null
  readonly values?: readonly number[]
  /** Readings summed up in one answer, where they are not recorded piece by piece. */
  readonly summary?: (VariablesSummary & { readonly nonconforming: number }) | null
  readonly limits?: { readonly lower: number | null; readonly upper: number | null }
  /** Nonconformities of each answered piece, where these are counted. */
  readonly nonconformitiesByPiece?: readonly number[] | null
  /** Plans of others that ask the same of the first pieces: nothing is accepted that one of them would refuse. */
  readonly also?: readonly SharedPlan[] | null
  /** Inspection is discontinued by the history of the line: no sample lets the lot pass, a person decides. */
  readonly isStopped?: boolean
}

/** The plan of another control point that asks the same: judged on the first pieces of the sample, as many as it asks for. */
export interface SharedPlan {
  readonly planName: string
  readonly sampleSize: number
  readonly accept: number
  readonly stages: readonly Stage[] | null
  readonly variables: VariablesPlan | null
}

export type Verdict = 'acceptable' | 'notAcceptable' | 'notJudged'

/** What a verdict rests on, as facts; `describeLine` puts them into words. */
export type LineReason =
  /** Cells of the sample, or of the stage that it stands in, are blank. */
  | { readonly kind: 'open'; readonly of: number; readonly stage: number | null; readonly isRequired: boolean }
  | { readonly kind: 'noted'; readonly count: number }
  /** Ac is null where a stage cannot accept yet, Re where it is Ac + 1 and goes without saying. */
  | {
      readonly kind: 'counted'
      readonly stage: number | null
      readonly accept: number | null
      readonly reject: number | null
      readonly returnsToNormal: boolean
    }
  | ({ readonly kind: 'measured' } & VariablesFacts)
  /** By variables, without a spread: judged by counting. */
  | { readonly kind: 'noSpread'; readonly isTooFew: boolean }
  /** The plan of another one that asks the same refuses what this one would accept: so many found in its own sample. */
  | {
      readonly kind: 'shared'
      readonly planName: string
      readonly inspected: number
      readonly nonconforming: number
      readonly accept: number
      readonly reject: number | null
    }
  /** Acceptance is stopped: whatever was found. */
  | { readonly kind: 'stopped' }
  /** As it was said by a release that kept the words and not the facts. */
  | { readonly kind: 'said'; readonly words: string }

export interface LineFinding {
  readonly name: string
  readonly inspected: number
  readonly blank: number
  readonly nonconforming: number
  readonly counting: Counting
  readonly accept: number
  readonly isDecisive: boolean
  readonly verdict: Verdict
  /** Nothing is left to answer on it: judged, noted, or not required. */
  readonly isComplete: boolean
  readonly because: LineReason
}

/** `describeFinding` puts it into words. */
export interface Finding {
  readonly verdict: Verdict
  readonly lines: readonly LineFinding[]
}

/**
 * What the readings say of one line. A decisive line accepts no nonconforming piece, whatever its acceptance number.
 * A blank never passes: a required line with blanks is not judged. A line that is not required is judged on what was answered,
 * and not at all when nothing was. Of a double or multiple plan only the stages that are needed have to be answered.
 * @throws {CoreError} as `judgeSample` and `judgeVariables`.
 */
export function judgeLine(line: LineMarks): LineFinding {
  const own = judgeAlone(line)
  if (own.verdict !== 'acceptable') return own
  for (const plan of line.also ?? []) {
    const { planName, sampleSize } = plan
    const other = judgeAlone(partOf(line, plan))
    if (other.verdict === 'acceptable') continue
    const { inspected, nonconforming, blank } = other
    if (other.verdict === 'notJudged') return { ...own, blank, isComplete: other.isComplete, verdict: 'notJudged', because: other.because }
    const reject = other.because.kind === 'counted' ? other.because.reject : null
    const because = { kind: 'shared', planName, inspected: Math.min(inspected, sampleSize), nonconforming, accept: plan.accept, reject } as const
    return { ...own, verdict: 'notAcceptable', because }
  }
  return own
}

/** The line as another plan asks for it: its first pieces. Of a summary nobody knows which pieces they were: all that was found counts. */
function partOf(line: LineMarks, { sampleSize, accept, stages, variables }: SharedPlan): LineMarks {
  const counts = line.nonconformitiesByPiece?.slice(0, sampleSize)
  return {
    ...line,
    sampleSize,
    accept,
    stages,
    variables,
    also: null,
    marks: line.marks.slice(0, sampleSize),
    ...(line.unjudged === undefined ? {} : { unjudged: line.marks.slice(0, sampleSize).filter((mark) => mark === 'notJudged').length }),
    ...(counts === undefined ? {} : { nonconformities: counts.reduce((sum, count) => sum + count, 0) }),
    ...(line.values === undefined ? {} : { values: line.values.slice(0, sampleSize) }),
    ...(line.summary ? { summary: { ...line.summary, count: Math.min(line.summary.count, sampleSize) } } : {}),
  }
}

function judgeAlone(line: LineMarks): LineFinding {
  const judged = line.marks.filter((mark) => mark !== 'notJudged')
  const unjudged = line.unjudged ?? 0
  const pieces = judged.filter((mark) => isNonconforming(mark, line.marginalConforms)).length
  const nonconforming = line.summary?.nonconforming ?? line.nonconformities ?? pieces
  const inspected = line.summary?.count ?? judged.length + unjudged
  const accept = line.isDecisive ? 0 : line.accept
  const counting = line.nonconformities === undefined || line.nonconformities === null ? 'nonconforming' : 'nonconformities'
  const stages = stagesOf(line)
  const isPerUnit = typeof line.nonconformities === 'number'
  const counts = line.summary && stages ? summedUpTo(stages, inspected, nonconforming) : { inspected, found: nonconforming }
  const staged = stages ? judgeSample(stages, counts, isPerUnit) : null
  const blank = staged && stages ? openInStage(stages, counts.inspected, staged) : Math.max(0, line.sampleSize - inspected)
  const base = { name: line.name, inspected, blank, nonconforming, counting, accept, isDecisive: line.isDecisive } as const
  const hasStages = (stages?.length ?? 0) > 1
  if (blank > 0 && (line.isRequired || inspected === 0)) {
    const because = { kind: 'open', of: line.sampleSize, stage: staged && hasStages ? staged.stage : null, isRequired: line.isRequired } as const
    return { ...base, isComplete: !line.isRequired, verdict: 'notJudged', because }
  }
  if (judged.length === 0 && !line.summary) return { ...base, isComplete: true, verdict: 'notJudged', because: { kind: 'noted', count: unjudged } }
  if (line.isStopped) return { ...base, isComplete: true, verdict: 'notAcceptable', because: { kind: 'stopped' } }
  const verdictOf = (isAcceptable: boolean) => ({ isComplete: true, verdict: isAcceptable ? ('acceptable' as const) : ('notAcceptable' as const) })
  const isDecided = line.isDecisive && nonconforming > 0
  if (line.variables && line.limits && (line.values || line.summary) && !isDecided) {
    const { isAcceptable, because } = judgeMeasured(line.variables, line.summary ?? summariseValues(line.values ?? []), line.limits, nonconforming)
    return { ...base, ...verdictOf(isAcceptable), because }
  }
  const at = staged && stages ? (stages[staged.stage - 1] as Stage) : null
  return {
    ...base,
    ...verdictOf(staged && at ? isAccepted(staged, nonconforming, at, staged.stage === stages?.length) : nonconforming <= accept),
    because: {
      kind: 'counted',
      stage: staged && hasStages ? staged.stage : null,
      accept: at ? at.accept : accept,
      reject: at?.reject ?? null,
      returnsToNormal: staged?.returnsToNormal ?? false,
    },
  }
}

/** The stages that a line is judged by; null where its two numbers are enough. */
export function stagesOf({ stages = null, isDecisive }: LineMarks): readonly Stage[] | null {
  // One stage with a gap between acceptance and rejection (reduced inspection) is a plan of its own too.
  const [first] = stages ?? []
  const isStaged = stages !== null && (stages.length > 1 || (first !== undefined && first.reject > (first.accept ?? 0) + 1))
  return isStaged && !isDecisive ? stages : null
}

/** A summary may be of more readings than the plan asks for; then it is judged as the whole of it. */
function summedUpTo(stages: readonly Stage[], inspected: number, nonconforming: number) {
  const total = stages.reduce((sum, stage) => sum + stage.sampleSize, 0)
  return { inspected: Math.min(inspected, total), found: Math.min(nonconforming, total) }
}

/**
 * A sample that went on is one that need not be answered and was answered in part: it is judged on what was answered, by the numbers of the stage
 * that it stands in.
 */
function isAccepted({ verdict }: SampleJudgement, found: number, { accept, reject }: Stage, isLast: boolean): boolean {
  if (verdict !== 'goOn') return verdict === 'accept'
  return found <= (isLast ? reject - 1 : (accept ?? 0))
}

/** Cells still to answer: the rest of the stage that the sample stands in, also where its result is certain already. */
function openInStage(stages: readonly Stage[], inspected: number, judged: SampleJudgement): number {
  if (!judged.isEarly) return judged.stillNeeded
  const end = stages.slice(0, judged.stage).reduce((sum, stage) => sum + stage.sampleSize, 0)
  return end - inspected
}

/** By variables; readings that are all alike have no spread and are judged by their number outside the limits. */
function judgeMeasured(
  plan: VariablesPlan,
  summary: VariablesSummary,
  limits: { lower: number | null; upper: number | null },
  outside: number,
): { readonly isAcceptable: boolean; readonly because: LineReason } {
  if (plan.method === 's' && (summary.count < 2 || !(summary.deviation > 0)))
    return { isAcceptable: outside === 0, because: { kind: 'noSpread', isTooFew: summary.count < 2 } }
  const { isAcceptable, ...facts } = judgeVariables(plan, limits, summary)
  return { isAcceptable, because: { kind: 'measured', ...facts } }
}

/** Number, mean and standard deviation (divisor n − 1; 0 of a single one) of values. */
export function summariseValues(values: readonly number[]): VariablesSummary {
  const count = values.length
  const mean = values.reduce((sum, value) => sum + value, 0) / count
  return { count, mean, deviation: Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / Math.max(1, count - 1)) }
}

/**
 * What the readings say of the lot: not judged while a required line has blanks; not acceptable when one line is not;
 * acceptable otherwise, also when its lines only note facts. An inspection with nothing answered at all is not judged.
 */
export function judgeLot(lines: readonly LineMarks[]): Finding {
  const found = lines.map(judgeLine)
  const isOpen = found.some((finding) => !finding.isComplete)
  const hasFailed = found.some((finding) => finding.verdict === 'notAcceptable')
  const hasAnswer = found.some((finding) => finding.verdict !== 'notJudged' || finding.inspected > 0)
  return { verdict: isOpen || !hasAnswer ? 'notJudged' : hasFailed ? 'notAcceptable' : 'acceptable', lines: found }
}
