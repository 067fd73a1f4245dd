import { balancesOf, checkMovement, type Balance, type Movement, type MovementKind } from '@nemawashi/core'
import type { BalanceRow } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'
import type { Work } from '../kernel/unitOfWork'
import type { MovementRow } from './entities'

function movementOf(row: MovementRow): Movement {
  const { containerId, quantity, fromPlaceId, fromStanding, toPlaceId, toStanding } = row
  return {
    containerId,
    quantity,
    from: fromPlaceId !== null && fromStanding !== null ? { placeId: fromPlaceId, standing: fromStanding } : null,
    to: { placeId: toPlaceId, standing: toStanding },
  }
}

export async function loadMovements(reader: Reader, lotId: string): Promise<MovementRow[]> {
  return (await reader.query('SELECT * FROM movement WHERE lot_id = ? ORDER BY seq', [lotId])) as MovementRow[]
}

/** Where the quantities of a lot stand now: the sum of its movements, as the database keeps it. */
export async function loadBalances(reader: Reader, lotId: string): Promise<Balance[]> {
  const rows = (await reader.query(
    'SELECT container_id, place_id, standing, quantity FROM balance WHERE lot_id = ? AND quantity > 0 ORDER BY since_seq, standing',
    [lotId],
  )) as (Balance & { containerId: string })[]
  return rows.map((row) => ({ ...row, containerId: row.containerId === '' ? null : row.containerId }))
}

/** The balances of a movement list up to and including an instant. */
export function balancesAt(movements: readonly MovementRow[], at: string): Balance[] {
  return balancesOf(movements.filter((movement) => movement.at <= at).map(movementOf))
}

/** Balances with the names of their places and containers, for people. */
export async function namedBalances(reader: Reader, lotId: string): Promise<BalanceRow[]> {
  const balances = await loadBalances(reader, lotId)
  const places = (await reader.query('SELECT id, name FROM place WHERE id IN (SELECT value FROM json_each(?))', [
    JSON.stringify(balances.map((balance) => balance.placeId)),
  ])) as { id: string; name: string }[]
  const containers = (await reader.query('SELECT id, label FROM container WHERE lot_id = ?', [lotId])) as { id: string; label: string }[]
  const nameOf = new Map([...places.map(({ id, name }) => [id, name] as const), ...containers.map(({ id, label }) => [id, label] as const)])
  return balances.map((balance) => ({
    ...balance,
    containerLabel: balance.containerId === null ? null : (nameOf.get(balance.containerId) ?? null),
    placeName: nameOf.get(balance.placeId) ?? '',
  }))
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
  await work.manager.query(
    `INSERT INTO movement (lot_id, container_id, quantity, from_place_id, from_standing, to_place_id, to_standing, kind, occasion_id, decision_id, hold_id, at, person_id) VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?)`,
    [
      lotId,
      containerId,
      quantity,
      from?.placeId ?? null,
      from?.standing ?? null,
      to.placeId,
      to.standing,
      kind,
      occasionId,
      decisionId,
      holdId,
      work.now,
      work.personId,
    ],
  )
  work.audit({ action: kind, subject: 'lot', subjectId: lotId, after: movement })
}
