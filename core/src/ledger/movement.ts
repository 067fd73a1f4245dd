import { CoreError } from '../errors'
import { largestLot } from '../numeric/lotSize'
import { stockUnitOf } from './stockUnits'
import { nextStandings, standings, standingWords, type Standing } from './standings'
import { restOfLot, type Sublot } from './sublot'

/** One spot of the ledger: a container (or what lies loose), in a place, in a standing, of the lot's rest or of a sublot of it. */
export interface Spot {
  readonly containerId: string | null
  readonly placeId: string
  readonly standing: Standing
  readonly sublot: Sublot
}

/** Where pieces are taken from, or go to. Without a sublot: from the rest of the lot, and to where they are of already. */
export interface MovementEnd {
  readonly placeId: string
  readonly standing: Standing
  readonly sublot?: Sublot
}

/** One line of the ledger. `from` is null for an arrival only. */
export interface Movement {
  readonly containerId: string | null
  readonly quantity: number
  readonly from: MovementEnd | null
  readonly to: MovementEnd
}

/** The sublots of both ends of a movement. */
export function sublotsOf({ from, to }: Pick<Movement, 'from' | 'to'>): { readonly from: Sublot; readonly to: Sublot } {
  const before = from?.sublot ?? restOfLot
  return { from: before, to: to.sublot ?? before }
}

export interface Balance extends Spot {
  readonly quantity: number
}

function keyOf(spot: Spot): string {
  return `${spot.containerId ?? ''}|${spot.placeId}|${spot.standing}|${spot.sublot}`
}

/** Where the quantities of one lot stand: the sum of its movements, spots with something in them only. */
export function balancesOf(movements: readonly Movement[]): Balance[] {
  const sums = new Map<string, Balance>()
  const add = (spot: Spot, quantity: number) => {
    const key = keyOf(spot)
    sums.set(key, { ...spot, quantity: (sums.get(key)?.quantity ?? 0) + quantity })
  }
  for (const movement of movements) {
    const { containerId, quantity, from, to } = movement
    const sublots = sublotsOf(movement)
    if (from) add({ containerId, ...from, sublot: sublots.from }, -quantity)
    add({ containerId, ...to, sublot: sublots.to }, quantity)
  }
  return [...sums.values()].filter((balance) => balance.quantity !== 0)
}

/**
 * The balances of a lot after one more movement. A spot that it empties stays, with nothing in it: pieces that come back to it are as old there as
 * the first that ever came, which is the order of what is given and taken.
 */
export function afterMovement(balances: readonly Balance[], movement: Movement): Balance[] {
  const { containerId, quantity, from, to } = movement
  const sublots = sublotsOf(movement)
  const left = from && keyOf({ containerId, ...from, sublot: sublots.from })
  const arrived: Spot = { containerId, placeId: to.placeId, standing: to.standing, sublot: sublots.to }
  const reached = keyOf(arrived)
  const isNew = !balances.some((balance) => keyOf(balance) === reached)
  const after = balances.map((balance) => {
    const key = keyOf(balance)
    const change = (key === reached ? quantity : 0) - (key === left ? quantity : 0)
    return change === 0 ? balance : { ...balance, quantity: balance.quantity + change }
  })
  return isNew ? [...after, { ...arrived, quantity }] : after
}

/** Quantity by standing, every standing present, in the order of `standings`. */
export function quantityByStanding(balances: readonly { readonly standing: Standing; readonly quantity: number }[]): Record<Standing, number> {
  const sums = Object.fromEntries(standings.map((standing) => [standing, 0])) as Record<Standing, number>
  for (const balance of balances) sums[balance.standing] += balance.quantity
  return sums
}

/**
 * Refuses a quantity that is not a whole number of steps of its unit, one or more.
 * @throws {CoreError} `quantity_invalid`, in words of the unit.
 */
export function checkQuantity(quantity: number, unit = 'piece'): void {
  const refusal = quantityRefusal(quantity, unit)
  if (refusal) throw refusal
}

/** The same as an answer: what is wrong with a quantity, or null. */
export function quantityRefusal(quantity: number, unit = 'piece'): CoreError | null {
  if (Number.isSafeInteger(quantity) && quantity >= 1 && quantity <= largestLot) return null
  const { symbol, places } = stockUnitOf(unit)
  const rule =
    places === 0
      ? `Received a quantity of ${quantity}. It is a whole number from 1 to ${largestLot}.`
      : `Received a quantity of ${quantity / 10 ** places} ${symbol}. It is at least ${unit}, in steps of that, and at most ${largestLot / 10 ** places} ${symbol}.`
  return new CoreError('quantity_invalid', rule, { received: quantity, unit })
}

/**
 * Refuses a movement that the ledger cannot take: nothing, more than there is, or a step that the standing does not allow.
 * @param balances of the same lot, before the movement
 * @throws {CoreError} `quantity_invalid`, `movement_exceeds_balance`, `movement_not_allowed`.
 */
export function checkMovement(balances: readonly Balance[], movement: Movement): void {
  const { quantity, from, to, containerId } = movement
  checkQuantity(quantity)
  if (!from) return
  if (!nextStandings[from.standing].includes(to.standing)) {
    throw new CoreError('movement_not_allowed', `What is ${standingWords[from.standing]} cannot become ${standingWords[to.standing]}.`, {
      from: from.standing,
      to: to.standing,
    })
  }
  const key = keyOf({ containerId, ...from, sublot: sublotsOf(movement).from })
  const available = balances.find((balance) => keyOf(balance) === key)?.quantity ?? 0
  if (quantity > available) {
    throw new CoreError('movement_exceeds_balance', `${quantity} were to be moved, only ${available} are ${standingWords[from.standing]} there.`, {
      received: quantity,
      available,
    })
  }
}
