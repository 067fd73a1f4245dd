/** A line of a purchase order. */
export interface OrderedLine {
  readonly partId: string
  /** Pieces ordered, a whole number from 1 on. */
  readonly quantity: number
}
/** How far a line is. */
export interface LineFill {
  /** Pieces of it that have come; more than were ordered where too many came. */
  readonly received: number
  /** Pieces that are still to come; never below 0. */
  readonly open: number
}

/**
 * How far the lines of a purchase order are, from what has come on it: worked out and kept nowhere, so that a corrected delivery is right
 * here too. Several lines of one part are filled in their order; what comes beyond all of them stands with the last of them.
 * Shape: lines in their order, pieces that came by part → one fill for each line. Common practice.
 */
export function fillLines(lines: readonly OrderedLine[], arrived: ReadonlyMap<string, number>): LineFill[] {
  const left = new Map(arrived)
  return lines.map(({ partId, quantity }, i) => {
    const remaining = left.get(partId) ?? 0
    const isLast = !lines.slice(i + 1).some((later) => later.partId === partId)
    const received = isLast ? remaining : Math.min(remaining, quantity)
    left.set(partId, remaining - received)
    return { received, open: Math.max(0, quantity - received) }
  })
}
