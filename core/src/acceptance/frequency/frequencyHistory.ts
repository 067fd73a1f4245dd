import type { Arrival, PastArrival } from './frequencyRule'

/**
 * What of the arrivals before a frequency rule rests on, and nothing else of them: kept up as they come, or read from wherever they are kept.
 * However many came before, it is as large as this.
 */
export interface FrequencyHistory {
  /** The last arrival that was inspected; null where none was. */
  readonly last: Pick<Arrival, 'day' | 'atHours'> | null
  /** Arrivals after it, which all passed by, and their pieces. */
  readonly since: { readonly arrivals: number; readonly pieces: number }
  /** Accepted lots in a row up to now; what was not inspected, or is not judged yet, neither counts nor breaks. */
  readonly acceptedInRow: number
  /** Inspected ones since the last that was not accepted; null where none ever was refused. */
  readonly sinceFailure: number | null
  /** Whether one of an order was inspected. */
  readonly hasSeenOrder: (order: string) => boolean
}

/** A history that goes on, arrival by arrival. */
export interface GoingHistory extends FrequencyHistory {
  /** Takes the next arrival in, in place. */
  readonly note: (past: PastArrival) => void
}

/** A history to go on with. @param from what came before, for instance from a database; nothing without it */
export function historyFrom(from?: FrequencyHistory): GoingHistory {
  let { last, since, acceptedInRow, sinceFailure } = from ?? { last: null, since: { arrivals: 0, pieces: 0 }, acceptedInRow: 0, sinceFailure: null }
  const orders = new Set<string>()
  return {
    get last() {
      return last
    },
    get since() {
      return since
    },
    get acceptedInRow() {
      return acceptedInRow
    },
    get sinceFailure() {
      return sinceFailure
    },
    hasSeenOrder: (order) => orders.has(order) || (from?.hasSeenOrder(order) ?? false),
    note({ day, atHours, quantity, order = '', isInspected, isAccepted }) {
      if (isInspected) {
        last = { day, atHours }
        since = { arrivals: 0, pieces: 0 }
        if (sinceFailure !== null) sinceFailure += 1
        if (order !== '') orders.add(order)
      } else since = { arrivals: since.arrivals + 1, pieces: since.pieces + quantity }
      if (isAccepted === true) acceptedInRow += 1
      if (isAccepted === false) [acceptedInRow, sinceFailure] = [0, 0]
    },
  }
}

/** The history that arrivals make, oldest first. Shape: PastArrival[] → GoingHistory. */
export function historyOf(before: Iterable<PastArrival>): GoingHistory {
  const history = historyFrom()
  for (const past of before) history.note(past)
  return history
}
