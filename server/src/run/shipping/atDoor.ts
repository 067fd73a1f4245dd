import { holdReaches, type Balance } from '@nemawashi/core'
import type { Work } from '../../kernel/work/unitOfWork'
import { placeFor } from '../../stock/putAway/placeFor'
import { loadBalances } from '../../stock/ledger/repository'
import { type DispatchPickRow } from './entities'

/** Pieces of a dispatch at the door, in a standing: those that were picked for it, and no others of their lot. */
export async function atDoor(
  work: Work,
  { dispatchId, lotId, containerId }: Pick<DispatchPickRow, 'dispatchId' | 'lotId' | 'containerId'>,
  standing: Balance['standing'],
): Promise<Balance[]> {
  const door = await placeFor(work.manager, 'shipping')
  const own = { containerId: null, eventId: dispatchId }
  return (await loadBalances(work.manager, lotId)).filter(
    (spot) => spot.placeId === door.id && spot.standing === standing && spot.containerId === containerId && holdReaches(own, spot),
  )
}
