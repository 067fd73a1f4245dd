import type { Finding, LineFinding } from './finding'
import { describeVariables } from '../variables/describeVariables'

/*
 * The words of a finding. They are said where somebody reads them and kept nowhere: what is stored are the facts.
 */

const arrow = { acceptable: '→ acceptable', notAcceptable: '→ not acceptable', notJudged: '→ not judged' } as const
/** The arithmetic of one line in a sentence. Shape: LineFinding → words, without the line's name. */
export function describeLine(line: LineFinding): string {
  const { because, inspected, nonconforming } = line
  const counts = `${inspected} inspected, ${nonconforming} ${line.counting}`
  switch (because.kind) {
    case 'said':
      return because.words
    case 'noted':
      return `${because.count} noted, no verdict`
    case 'open': {
      const place = because.stage === null ? `of ${because.of}` : `in stage ${because.stage}`
      const why = because.isRequired ? `${line.blank} ${place} not answered yet` : 'not answered, not required'
      return inspected === 0 ? why : `${counts}, ${why}`
    }
    case 'stopped':
      return `${counts}, inspection is discontinued: a person decides ${arrow[line.verdict]}`
    case 'shared': {
      const reject = because.reject === null ? '' : `, Re ${because.reject}`
      return `${counts}; of the first ${because.inspected} ${because.nonconforming}, ${because.planName}: Ac ${because.accept}${reject} ${arrow[line.verdict]}`
    }
    case 'measured':
      return `${inspected} inspected, ${describeVariables(because)} ${arrow[line.verdict]}`
    case 'noSpread': {
      const why = because.isTooFew ? 'too few readings for a spread' : 'all readings alike'
      return `${inspected} inspected, ${why}, ${nonconforming} nonconforming ${arrow[line.verdict]}`
    }
    case 'counted': {
      const { stage, accept, reject, returnsToNormal } = because
      const numbers = [accept === null ? '' : `Ac ${accept}`, reject === null ? '' : `Re ${reject}`].filter((words) => words !== '').join(', ')
      const limit = line.isDecisive ? 'decisive, accept none' : `${stage === null ? '' : `stage ${stage}: `}${numbers}`
      return `${counts}, ${limit} ${arrow[line.verdict]}${returnsToNormal ? ', and normal inspection comes back' : ''}`
    }
  }
}

/** What the readings say of the lot, in a sentence. Shape: Finding → words. */
export function describeFinding({ verdict, lines }: Finding): string {
  const judged = lines.filter((line) => line.verdict !== 'notJudged')
  const names = (list: readonly LineFinding[]) => list.map((line) => line.name).join(', ')
  if (verdict === 'notJudged') {
    const open = lines.filter((line) => !line.isComplete)
    if (open.length === 0) return 'nothing was answered → not judged'
    const blank = open.reduce((sum, line) => sum + line.blank, 0)
    return `${blank} ${blank === 1 ? 'reading' : 'readings'} still blank on ${names(open)} → not judged`
  }
  if (verdict === 'acceptable') {
    if (judged.length === 0) return 'everything noted, nothing to judge → lot acceptable'
    return `${judged.length === 1 ? '1 line' : `${judged.length} lines`} judged, all acceptable → lot acceptable`
  }
  const failed = judged.filter((line) => line.verdict === 'notAcceptable')
  const decisive = failed.filter((line) => line.isDecisive)
  const [first] = failed
  const cause =
    failed.length === 1 && first !== undefined
      ? first.because.kind === 'stopped'
        ? `${first.name}: inspection is discontinued, ${first.nonconforming} ${first.counting} of ${first.inspected}`
        : first.because.kind === 'shared'
          ? `${first.name}: ${first.because.nonconforming} ${first.counting} of the first ${first.because.inspected}, Ac ${first.because.accept} of ${first.because.planName}`
          : `${first.name}: ${first.nonconforming} ${first.counting} of ${first.inspected}, ${first.isDecisive ? 'decisive' : `Ac ${first.accept}`}`
      : `${failed.length} of ${lines.length} lines not acceptable: ${names(failed)}${decisive.length > 0 ? ` (decisive: ${names(decisive)})` : ''}`
  return `${cause} → lot not acceptable`
}
