import type { Mark } from '../tolerance/judgeReading'
import { isNonconforming } from './piecesAsked'
import { judgeSample, type SampleJudgement } from './judgeSample'
import { judgeVariables, type VariablesPlan, type VariablesSummary } from './judgeVariables'
import type { Stage } from './stagedPlan'

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
}

export type Verdict = 'acceptable' | 'notAcceptable' | 'notJudged'

export interface LineFinding {
  readonly name: string
  readonly inspected: number
  readonly blank: number
  readonly nonconforming: number
  readonly accept: number
  readonly verdict: Verdict
  /** Nothing is left to answer on it: judged, noted, or not required. */
  readonly isComplete: boolean
  readonly reasoning: string
}

export interface Finding {
  readonly verdict: Verdict
  readonly reasoning: string
  readonly lines: readonly LineFinding[]
}

/**
 * What the readings say of one line. A decisive line accepts no nonconforming piece, whatever its acceptance number.
 * A blank never passes: a required line with blanks is not judged. A line that is not required is judged on what was answered,
 * and not at all when nothing was. Of a double or multiple plan only the stages that are needed have to be answered.
 * @throws {CoreError} as `judgeSample` and `judgeVariables`.
 */
export function judgeLine(line: LineMarks): LineFinding {
  const judged = line.marks.filter((mark) => mark !== 'notJudged')
  const unjudged = line.unjudged ?? 0
  const pieces = judged.filter((mark) => isNonconforming(mark, line.marginalConforms)).length
  const nonconforming = line.summary?.nonconforming ?? line.nonconformities ?? pieces
  const inspected = line.summary?.count ?? judged.length + unjudged
  const accept = line.isDecisive ? 0 : line.accept
  const counts = `${inspected} inspected, ${nonconforming} ${line.nonconformities === undefined || line.nonconformities === null ? 'nonconforming' : 'nonconformities'}`
  // One stage with a gap between acceptance and rejection (reduced inspection) is a plan of its own too.
  const [first] = line.stages ?? []
  const isStaged =
    line.stages !== null && line.stages !== undefined && (line.stages.length > 1 || (first !== undefined && first.reject > (first.accept ?? 0) + 1))
  const stages = isStaged && !line.isDecisive && !line.summary ? (line.stages ?? null) : null
  const staged = stages ? judgeSample(stages, { inspected, found: nonconforming }, typeof line.nonconformities === 'number') : null
  const blank = staged && stages ? openInStage(stages, inspected, staged) : Math.max(0, line.sampleSize - inspected)
  const base = { name: line.name, inspected, blank, nonconforming, accept }
  if (blank > 0 && (line.isRequired || inspected === 0)) {
    const of = staged && (stages?.length ?? 0) > 1 ? `in stage ${staged.stage}` : `of ${line.sampleSize}`
    const why = line.isRequired ? `${blank} ${of} not answered yet` : 'not answered, not required'
    return { ...base, isComplete: !line.isRequired, verdict: 'notJudged', reasoning: inspected === 0 ? why : `${counts}, ${why}` }
  }
  if (judged.length === 0 && !line.summary) return { ...base, isComplete: true, verdict: 'notJudged', reasoning: `${unjudged} noted, no verdict` }
  if (line.variables && line.limits && (line.values || line.summary)) {
    const summary = line.summary ?? summarise(line.values ?? [])
    const { isAcceptable, reasoning } = judgeMeasured(line.variables, summary, line.limits, nonconforming, line.isDecisive)
    return { ...base, isComplete: true, verdict: isAcceptable ? 'acceptable' : 'notAcceptable', reasoning: `${inspected} inspected, ${reasoning}` }
  }
  const isAcceptable = staged ? staged.verdict === 'accept' : nonconforming <= accept
  const limit = line.isDecisive
    ? 'decisive, accept none'
    : staged && stages
      ? `${stages.length > 1 ? `stage ${staged.stage}: ` : ''}${numbersOf(stages[staged.stage - 1] as Stage)}`
      : `Ac ${accept}`
  return {
    ...base,
    isComplete: true,
    verdict: isAcceptable ? 'acceptable' : 'notAcceptable',
    reasoning: `${counts}, ${limit} → ${isAcceptable ? 'acceptable' : 'not acceptable'}${staged?.returnsToNormal ? ', and normal inspection comes back' : ''}`,
  }
}

function numbersOf({ accept, reject }: Stage): string {
  return accept === null ? `Re ${reject}` : `Ac ${accept}, Re ${reject}`
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
  isDecisive: boolean,
) {
  if (isDecisive && outside > 0) return { isAcceptable: false, reasoning: `${outside} nonconforming, decisive, accept none → not acceptable` }
  if (plan.method === 's' && (summary.count < 2 || !(summary.deviation > 0))) {
    const isAcceptable = outside === 0
    const why = summary.count < 2 ? 'too few readings for a spread' : 'all readings alike'
    return { isAcceptable, reasoning: `${why}, ${outside} nonconforming → ${isAcceptable ? 'acceptable' : 'not acceptable'}` }
  }
  return judgeVariables(plan, limits, summary)
}

function summarise(values: readonly number[]): VariablesSummary {
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
  const open = found.filter((finding) => !finding.isComplete)
  const failed = found.filter((finding) => finding.verdict === 'notAcceptable')
  const judged = found.filter((finding) => finding.verdict !== 'notJudged')
  const names = (list: readonly LineFinding[]) => list.map((finding) => finding.name).join(', ')
  const isAllNoted = judged.length === 0 && found.some((finding) => finding.inspected > 0)
  if (open.length === 0 && isAllNoted)
    return { verdict: 'acceptable', reasoning: 'everything noted, nothing to judge → lot acceptable', lines: found }
  if (open.length > 0 || judged.length === 0) {
    const blank = open.reduce((sum, finding) => sum + finding.blank, 0)
    const reasoning = open.length > 0 ? `${blank} readings still blank on ${names(open)} → not judged` : 'nothing was answered → not judged'
    return { verdict: 'notJudged', reasoning, lines: found }
  }
  if (failed.length > 0) {
    const decisive = lines.filter((line, i) => line.isDecisive && found[i]?.verdict === 'notAcceptable').map((line) => line.name)
    const first = failed[0] as LineFinding
    const cause =
      failed.length === 1
        ? `${first.name}: ${first.nonconforming} nonconforming of ${first.inspected}, ${decisive.length > 0 ? 'decisive' : `Ac ${first.accept}`}`
        : `${failed.length} of ${found.length} lines not acceptable: ${names(failed)}${decisive.length > 0 ? ` (decisive: ${decisive.join(', ')})` : ''}`
    return { verdict: 'notAcceptable', reasoning: `${cause} → lot not acceptable`, lines: found }
  }
  return {
    verdict: 'acceptable',
    reasoning: `${judged.length === 1 ? '1 line' : `${judged.length} lines`} judged, all acceptable → lot acceptable`,
    lines: found,
  }
}
