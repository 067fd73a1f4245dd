import {
  checkQuantity,
  quantityRefusal,
  quantityText,
  quantityWords,
  CoreError,
  eventsOf,
  keepEvents,
  restOfLot,
  standingWords,
  takeFrom,
  type Balance,
  type Standing,
  type Sublot,
  type Taken,
} from '@nemawashi/core'
import type { Work } from '../../kernel/work/unitOfWork'
import { unsettledEvents, loadBalances, unitOfLot } from '../ledger/repository'

/** Which pieces are to be moved, and how many of them. */
export interface PiecesToMove {
  readonly containerId: string | null
  readonly placeId: string
  readonly standing: Standing
  readonly quantity: number
  /** Of which sublot; left out: of whichever are there. */
  readonly sublot?: Sublot | undefined
  /** Which of those that are there, where not all of them may be taken. */
  readonly isMeant?: (spot: Balance) => boolean
}

/**
 * So many pieces of a lot, spot by spot.
 * @throws {CoreError} `quantity_invalid`, `movement_exceeds_balance` where fewer are there; facts: received, available.
 */
export async function takePieces(
  work: Work,
  lotId: string,
  { containerId, placeId, standing, quantity, sublot, isMeant = () => true }: PiecesToMove,
): Promise<Taken[]> {
  const spots = (await loadBalances(work.manager, lotId)).filter(
    (spot) =>
      spot.containerId === containerId &&
      spot.placeId === placeId &&
      spot.standing === standing &&
      (sublot === undefined || spot.sublot === sublot) &&
      isMeant(spot),
  )
  const available = spots.reduce((sum, spot) => sum + spot.quantity, 0)
  if (quantityRefusal(quantity) === null && quantity <= available) return takeFrom(spots, quantity)
  // A refusal is in words of the unit, which is looked up for it alone.
  const unit = await unitOfLot(work.manager, lotId)
  checkQuantity(quantity, unit)
  throw new CoreError(
    'movement_exceeds_balance',
    `${quantityText(quantity, unit)} were to be moved, only ${quantityWords(available, unit)} are ${standingWords[standing]} there.`,
    { received: quantity, available },
  )
}

/**
 * The sublot of pieces that join others in a store: they stay told apart by events that something is still open of, an inspection or a dispatch,
 * and by no other.
 */
export async function sublotInStore(work: Work, lotId: string, sublot: Sublot): Promise<Sublot> {
  if (eventsOf(sublot).length === 0) return restOfLot
  const open = await unsettledEvents(work.manager, lotId)
  return keepEvents(sublot, (eventId) => open.includes(eventId))
}
