import { holdReaches, type PiecesMeant } from './holdReaches'
import type { Balance } from './movement'

/** What is open on pieces of a lot: so many of those that it means, or all of them (null). */
export interface OpenHoldOn extends PiecesMeant {
  readonly quantity: number | null
}

/** So many pieces of a spot. */
export interface Taken {
  readonly spot: Balance
  readonly quantity: number
}

const sumOf = (spots: readonly { readonly quantity: number }[]) => spots.reduce((sum, { quantity }) => sum + quantity, 0)
const onHoldIn = (hold: PiecesMeant, balances: readonly Balance[]) => balances.filter((spot) => spot.standing === 'onHold' && holdReaches(hold, spot))

/**
 * How many pieces a cause holds: all that is on hold of those that it means, or no more than the sample that it took. What several holds of one
 * cause mean is counted once; one of all of them outweighs a sample.
 */
export function heldQuantity(holds: readonly OpenHoldOn[], balances: readonly Balance[]): number {
  const spots = balances.filter((spot) => spot.standing === 'onHold' && holds.some((hold) => holdReaches(hold, spot)))
  const whole = spots.filter((spot) => holds.some((hold) => hold.quantity === null && holdReaches(hold, spot)))
  const sampled = Math.max(0, ...holds.map(({ quantity }) => quantity ?? 0))
  return Math.max(sumOf(whole), Math.min(sampled, sumOf(spots)))
}

/** So many pieces from these spots, in their order; fewer where there are fewer. */
export function takeFrom(spots: readonly Balance[], count: number): Taken[] {
  let left = count
  const taken: Taken[] = []
  for (const spot of spots) {
    const quantity = Math.min(left, spot.quantity)
    if (quantity > 0) taken.push({ spot, quantity })
    left -= quantity
  }
  return taken
}

/**
 * Which of so many pieces are free once these holds are all that is open: what one of all pieces reaches is not, and of what a sample is held
 * as many stay on hold as it holds. Samples of one lot are the same pieces as far as they go: nobody looks at more than the largest asks for.
 * Shape: spots on hold, holds on their lot, count → pieces by spot, together at most the count.
 */
export function freeable(spots: readonly Balance[], balances: readonly Balance[], holds: readonly OpenHoldOn[], count: number): Taken[] {
  const samples = holds.flatMap((hold) =>
    hold.quantity === null ? [] : [{ hold, spare: Math.max(0, sumOf(onHoldIn(hold, balances)) - hold.quantity) }],
  )
  let left = count
  const free: Taken[] = []
  for (const spot of spots) {
    if (holds.some((hold) => hold.quantity === null && holdReaches(hold, spot))) continue
    const reaching = samples.filter(({ hold }) => holdReaches(hold, spot))
    const quantity = Math.min(left, spot.quantity, ...reaching.map(({ spare }) => spare))
    if (quantity <= 0) continue
    for (const sample of reaching) sample.spare -= quantity
    left -= quantity
    free.push({ spot, quantity })
  }
  return free
}
