import { reducedScore, type SwitchReason, type SwitchState } from './switching'
import type { SeverityNow } from './severityNow'

/** Why inspection switched, in words: `2 of 5 consecutive lots not accepted`. */
export function describeSwitch(because: SwitchReason): string {
  switch (because.kind) {
    case 'refused':
      return `${because.refused} of ${because.of} consecutive lots not accepted`
    case 'score':
      return `switching score ${because.score} reached ${reducedScore}`
    case 'refusedTightened':
      return `${because.refused} lots not accepted under tightened inspection`
    case 'accepted':
      return `${because.lots} consecutive lots accepted`
    case 'refusedReduced':
      return 'a lot was not accepted under reduced inspection'
    case 'gap':
      return 'a count between the acceptance and the rejection number'
    case 'answered':
      return 'acceptance was let begin again'
  }
}

/** `normal inspection`; discontinued inspection looks at tightened samples and accepts nothing. */
export const severityWords: Readonly<Record<SwitchState, string>> = {
  reduced: 'reduced inspection',
  normal: 'normal inspection',
  tightened: 'tightened inspection',
  discontinued: 'inspection discontinued',
}

/** Which inspection a lot gets by its history, and why: `tightened inspection: 2 of 5 consecutive lots not accepted`. */
export function describeSeverity({ state, because, score }: SeverityNow): string {
  if (because !== null) return `${severityWords[state]}: ${describeSwitch(because)}`
  return score > 0 ? `${severityWords[state]}, switching score ${score}` : severityWords[state]
}
