import type { Due } from './frequencyRule'

const interval = (isDue: boolean, since: number, k: number) =>
  isDue ? `${since - 1} passed by since the last one` : `${since} of ${k} since the last one`

/** Why an arrival is looked at, or is not, in words: `in good standing, 11 accepted in a row: the certificate is enough`. */
export function describeDue({ isDue, because }: Due): string {
  switch (because.kind) {
    case 'every':
      return 'every time'
    case 'first':
      return 'the first arrival'
    case 'afterFailure':
      return `${because.lots} lots in full after one that was not accepted`
    case 'interval':
      return interval(isDue, because.since, because.k)
    case 'drawn':
      return `${isDue ? '' : 'not '}drawn, ${because.percent} % of the arrivals are`
    case 'period':
      return isDue ? `the first of the ${because.period}` : `one was inspected this ${because.period}`
    case 'order':
      if (because.order === '') return 'it belongs to no order'
      return isDue ? `the first of order ${because.order}` : `one of order ${because.order} was inspected`
    case 'pieces':
      return `${because.since} of ${because.pieces} pieces since the last one`
    case 'hours':
      return `${Number(because.since.toFixed(1))} of ${because.hours} hours since the last one`
    case 'standing':
      return isDue
        ? `${because.row} of ${because.clearance} accepted in a row`
        : `in good standing, ${because.row} accepted in a row: the certificate is enough`
    case 'earned':
      if (because.row < because.clearance) return `${because.row} of ${because.clearance} accepted in a row`
      return `skipping earned by ${because.row} in a row; ${because.interval === null ? 'the first arrival' : interval(isDue, because.interval.since, because.interval.k)}`
  }
}
