import { loadBalances } from './repository'
import { balancesOf, checkMovement, sublotsOf, type Balance, type Movement, type MovementEnd, type MovementKind } from '@nemawashi/core'
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

/** Posts one movement, refused by the core's rule first and by the database's triggers in any case. */
export async function postMovement(
  work: Work,
  lotId: string,
  movement: Movement,
  kind: MovementKind,
  { occasionId = null, decisionId = null, holdId = null }: MovementCause,
): Promise<void> {
  // An arrival takes from nowhere: there is nothing that it could overdraw.
  checkMovement(movement.from === null ? [] : await loadBalances(work.manager, lotId), movement)
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
