import { spotsOf } from './repository'
import {
  afterMovement,
  balancesOf,
  checkMovement,
  sublotsOf,
  type Balance,
  type Movement,
  type MovementEnd,
  type MovementKind,
} from '@nemawashi/core'
import type { Work } from '../../kernel/work/unitOfWork'
import { MovementEntity, type MovementRow } from './entities'

function movementOf(row: MovementRow): Movement {
  const { containerId, quantity, fromPlaceId, fromStanding, fromSublot, toPlaceId, toStanding, toSublot } = row
  return {
    containerId,
    quantity,
    from: fromPlaceId !== null && fromStanding !== null ? { placeId: fromPlaceId, standing: fromStanding, sublot: fromSublot } : null,
    to: { placeId: toPlaceId, standing: toStanding, sublot: toSublot },
  }
}

/** The balances of a movement list up to and including an instant. */
export function balancesAt(movements: readonly MovementRow[], at: string): Balance[] {
  return balancesOf(movements.filter((movement) => movement.at <= at).map(movementOf))
}

/** Why something moved: the occasion, the decision that is carried out, or the hold that begins or ends. */
export interface MovementCause {
  readonly occasionId?: string | null
  readonly decisionId?: string | null
  readonly holdId?: string | null
}

const ofWork = new WeakMap<Work, Map<string, readonly Balance[]>>()

/** What a change knows of a lot's spots: read when it is first asked, and kept by what it posts itself, which is all that moves meanwhile. */
async function knownSpots(work: Work, lotId: string): Promise<Map<string, readonly Balance[]>> {
  const lots = ofWork.get(work) ?? new Map<string, readonly Balance[]>()
  ofWork.set(work, lots)
  if (lots.has(lotId)) return lots
  const spots = await spotsOf(work.manager, lotId)
  // Somebody else of the same change may have asked, and posted, meanwhile.
  if (!lots.has(lotId)) lots.set(lotId, spots)
  return lots
}

/** Where the quantities of a lot stand by now, within a change: as `loadBalances` says it, and read once however much is moved. */
export async function balancesNow(work: Work, lotId: string): Promise<Balance[]> {
  return ((await knownSpots(work, lotId)).get(lotId) ?? []).filter(({ quantity }) => quantity > 0)
}

/** Posts one movement, refused by the core's rule first and by the database's triggers in any case. */
export async function postMovement(
  work: Work,
  lotId: string,
  movement: Movement,
  kind: MovementKind,
  { occasionId = null, decisionId = null, holdId = null }: MovementCause,
): Promise<void> {
  // An arrival takes from nowhere: there is nothing that it could overdraw, and nothing to read for it.
  const lots = movement.from === null ? ofWork.get(work) : await knownSpots(work, lotId)
  const spots = lots?.get(lotId)
  checkMovement(spots ?? [], movement)
  if (spots) lots?.set(lotId, afterMovement(spots, movement))
  const { containerId, quantity, from, to } = movement
  const sublots = sublotsOf(movement)
  await work.manager.insert(MovementEntity, {
    lotId,
    containerId,
    quantity,
    fromPlaceId: from?.placeId ?? null,
    fromStanding: from?.standing ?? null,
    toPlaceId: to.placeId,
    toStanding: to.standing,
    fromSublot: sublots.from,
    toSublot: sublots.to,
    kind,
    occasionId,
    decisionId,
    holdId,
    at: work.now,
    personId: work.personId ?? '',
  })
  work.audit({ action: kind, subject: 'lot', subjectId: lotId, after: movement })
}

/** Moves so many pieces from a spot; they stay of the sublot that they are of, unless another one is said. */
export async function movePieces(
  work: Work,
  lotId: string,
  { spot, quantity, to }: { readonly spot: Balance; readonly quantity: number; readonly to: MovementEnd },
  kind: MovementKind,
  cause: MovementCause,
): Promise<void> {
  const { containerId, placeId, standing, sublot } = spot
  await postMovement(work, lotId, { containerId, quantity, from: { placeId, standing, sublot }, to }, kind, cause)
}
