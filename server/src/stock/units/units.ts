import { holdReaches, type Standing, type UnitKind } from '@nemawashi/core'
import type { Reader } from '../../kernel/work/database'
import type { Within } from '../holds/holds'
import { loadBalances, unitKindsOf } from '../ledger/repository'

/** A container or a serial number of a lot, with the pieces of it that are meant. */
export interface Unit {
  readonly containerId: string
  readonly kind: UnitKind
  readonly quantity: number
}

/** Which pieces of a lot came: those that are released, unless other standings are named; and where, where that matters. */
export interface Here extends Within {
  readonly standings?: readonly Standing[]
  readonly placeId?: string | null
}

/** What pieces of a lot are told apart by; loose ones are in no unit. */
export async function unitsOf(
  reader: Reader,
  lotId: string,
  { standings = ['released'], placeId = null, containerId = null, eventId = null }: Here,
): Promise<Unit[]> {
  const sums = new Map<string, number>()
  for (const spot of await loadBalances(reader, lotId)) {
    if (spot.containerId === null || !standings.includes(spot.standing)) continue
    if ((placeId !== null && spot.placeId !== placeId) || !holdReaches({ containerId, eventId }, spot)) continue
    sums.set(spot.containerId, (sums.get(spot.containerId) ?? 0) + spot.quantity)
  }
  if (sums.size === 0) return []
  return (await unitKindsOf(reader, lotId)).flatMap(({ id, kind }) => (sums.has(id) ? [{ containerId: id, kind, quantity: sums.get(id) ?? 0 }] : []))
}
