import { setApart } from '@nemawashi/core'
import type { Dispatch, PickInput } from '@nemawashi/contract'
import { requirePartner } from '../../define/masters/partners'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { type LotRow } from '../../stock/ledger/entities'
import { requireStep } from '../../stock/restrictions/finerStandings'
import { movePieces } from '../../stock/ledger/ledger'
import { takePieces } from '../../stock/units/pieces'
import { placeFor } from '../../stock/putAway/placeFor'
import { askOfDispatch, type Leaving } from './dispatchLoad'
import { DispatchEntity, DispatchPickEntity, type DispatchRow } from './entities'
import { noteOccasion } from '../../opening/occasions'
import { dispatchWords } from './dispatchState'
import { loadDispatch } from './loadDispatch'
import { lotOf, openAt } from './openForPieces'
import { partRows, placeRows } from '../../define/masters/rows'

/** Takes released pieces to the door, and opens what is asked of each lot, and of all as one, before they leave. */
export async function pickLots(
  work: Work,
  dispatch: { id: string; customerId: string; orderNumber: string },
  picks: readonly PickInput[],
): Promise<Leaving[]> {
  const { id, customerId } = dispatch
  const door = await placeFor(work.manager, 'shipping')
  const byLot = new Map<string, { lot: LotRow; quantity: number }>()
  for (const [i, { lotId, containerId, placeId, quantity }] of picks.entries()) {
    const lot = await lotOf(work, lotId, `picks.${i}.lotId`)
    await requireStep(work, lotId, containerId, 'pick', `picks.${i}.lotId`)
    const place = await placeRows.find(work.manager, { id: placeId })
    if (place?.purpose !== 'store')
      throw new ServerError('reference_unknown', 'Pieces are picked from a place with the purpose "store".', { field: `picks.${i}.placeId` })
    for (const { spot, quantity: taken } of await takePieces(work, lotId, { containerId, placeId, standing: 'released', quantity })) {
      const to = { placeId: door.id, standing: 'released', sublot: setApart(spot.sublot, id) } as const
      await movePieces(work, lotId, { spot, quantity: taken, to }, 'picked', { occasionId: id })
    }
    const pick = { id: work.newId(), dispatchId: id, lotId, containerId, quantity, fromPlaceId: placeId, shipped: null }
    await work.manager.insert(DispatchPickEntity, pick)
    byLot.set(lotId, { lot, quantity: quantity + (byLot.get(lotId)?.quantity ?? 0) })
  }
  const leaving: Leaving[] = []
  for (const { lot, quantity } of byLot.values()) leaving.push({ part: await partRows.load(work.manager, lot.partId), quantity })
  await askOfDispatch(work, dispatch, 'beforeDispatch', leaving)
  for (const { lot, quantity } of byLot.values())
    await openAt(work, lot, { kind: 'shipping', customerId, quantity, occasionId: id, placeId: door.id, containerId: null })
  return leaving
}

/**
 * Picks released pieces for a customer at once: they wait at the door until they are sent. What is asked before picking is asked with it,
 * and keeps them there. @throws {CoreError} `movement_exceeds_balance`.
 */
export async function pickDispatch(
  work: Work,
  { customerId, orderNumber, picks }: { customerId: string; orderNumber: string; picks: readonly PickInput[] },
): Promise<Dispatch> {
  await requirePartner(work, 'customer', customerId, 'customerId')
  const door = await placeFor(work.manager, 'shipping')
  const id = await noteOccasion(work, 'dispatch', 'beforeDispatch', { partnerId: customerId, orderNumber, placeId: door.id })
  const picked = { state: 'picked', leavesOn: null, pickedAt: work.now, pickedById: work.personId } as const
  const row: DispatchRow = { id, code: await work.nextCode('S'), ...picked, sentAt: null, version: 1 }
  await work.manager.insert(DispatchEntity, { ...row })
  work.audit({ action: 'picked', subject: dispatchWords, subjectId: id, after: { customerId, orderNumber, picks } })
  const dispatch = { id, customerId, orderNumber }
  await askOfDispatch(work, dispatch, 'beforePicking', await pickLots(work, dispatch, picks))
  return loadDispatch(work.manager, id)
}
