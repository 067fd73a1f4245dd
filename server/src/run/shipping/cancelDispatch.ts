import { keepEvents, takeFrom } from '@nemawashi/core'
import type { Dispatch } from '@nemawashi/contract'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, saveNext } from '../../kernel/work/versioned'
import { movePieces } from '../../stock/ledger/ledger'
import { cancelDispatchChecks } from './dispatchLoad'
import { DispatchEntity, DispatchPickEntity } from './entities'
import { atDoor } from './atDoor'
import { dispatchWords, assertTransition } from './dispatchState'
import { loadDispatch } from './loadDispatch'

/** Calls a dispatch off; pieces that are held or were decided on meanwhile stay where they are. */
export async function cancelDispatch(work: Work, id: string, version: number): Promise<Dispatch> {
  const row = await loadAt(work, DispatchEntity, dispatchWords, id, version)
  const state = assertTransition(row, 'cancel')
  for (const pick of await work.manager.findBy(DispatchPickEntity, { dispatchId: id })) {
    for (const { spot, quantity } of takeFrom(await atDoor(work, pick, 'released'), pick.quantity)) {
      const to = { placeId: pick.fromPlaceId, standing: 'released', sublot: keepEvents(spot.sublot, (eventId) => eventId !== id) } as const
      await movePieces(work, pick.lotId, { spot, quantity, to }, 'putAway', { occasionId: id })
    }
  }
  await cancelDispatchChecks(work, id, `${row.code} was cancelled`)
  await saveNext(work, DispatchEntity, dispatchWords, 'cancelled', row, { state })
  return loadDispatch(work.manager, id)
}
