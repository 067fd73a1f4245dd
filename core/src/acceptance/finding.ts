import type { Mark } from '../tolerance/judgeReading'

/** One line of an inspection with the marks of its pieces, as far as they were answered. */
export interface LineMarks {
  readonly name: string
  readonly sampleSize: number
  readonly accept: number
  readonly isRequired: boolean
  readonly isDecisive: boolean
  readonly marks: readonly Mark[]
}

export type Verdict = 'acceptable' | 'notAcceptable' | 'notJudged'

export interface LineFinding {
  readonly name: string
  readonly inspected: number
  readonly blank: number
  readonly nonconforming: number
  readonly accept: number
  readonly verdict: Verdict
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
 * and not at all when nothing was.
 */
export function judgeLine(line: LineMarks): LineFinding {
  const answered = line.marks.filter((mark) => mark !== 'notJudged')
  const nonconforming = answered.filter((mark) => mark === 'nonconforming').length
  const inspected = answered.length
  const blank = line.sampleSize - inspected
  const accept = line.isDecisive ? 0 : line.accept
  const counts = `${inspected} inspected, ${nonconforming} nonconforming`
  const limit = line.isDecisive ? 'decisive, accept none' : `accept up to ${accept}`
  const base = { name: line.name, inspected, blank, nonconforming, accept }
  if (blank > 0 && (line.isRequired || inspected === 0)) {
    const why = line.isRequired ? `${blank} of ${line.sampleSize} not answered yet` : 'not answered, not required'
    return { ...base, verdict: 'notJudged', reasoning: inspected === 0 ? why : `${counts}, ${why}` }
  }
  const verdict: Verdict = nonconforming <= accept ? 'acceptable' : 'notAcceptable'
  return { ...base, verdict, reasoning: `${counts}, ${limit} → ${verdict === 'acceptable' ? 'acceptable' : 'not acceptable'}` }
}

/**
 * What the readings say of the lot: not judged while a required line has blanks; not acceptable when one line is not;
 * acceptable otherwise. An inspection with nothing judged at all is not judged.
 */
export function judgeLot(lines: readonly LineMarks[]): Finding {
  const found = lines.map(judgeLine)
  const open = found.filter((finding, i) => finding.verdict === 'notJudged' && lines[i]?.isRequired)
  const failed = found.filter((finding) => finding.verdict === 'notAcceptable')
  const judged = found.filter((finding) => finding.verdict !== 'notJudged')
  const names = (list: readonly LineFinding[]) => list.map((finding) => finding.name).join(', ')
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
        ? `${first.name}: ${first.nonconforming} nonconforming of ${first.inspected}, ${decisive.length > 0 ? 'decisive' : `accept up to ${first.accept}`}`
        : `${failed.length} of ${found.length} lines not acceptable: ${names(failed)}${decisive.length > 0 ? ` (decisive: ${decisive.join(', ')})` : ''}`
    return { verdict: 'notAcceptable', reasoning: `${cause} → lot not acceptable`, lines: found }
  }
  return {
    verdict: 'acceptable',
    reasoning: `${judged.length === 1 ? '1 line' : `${judged.length} lines`} judged, all acceptable → lot acceptable`,
    lines: found,
  }
}
