import { movesFrom } from '@nemawashi/core'
import type { ProductionOrder } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, saveNext } from '../../kernel/work/versioned'
import { requireStep } from '../../stock/restrictions/finerStandings'
import { movePieces } from '../../stock/ledger/ledger'
import { takePieces } from '../../stock/units/pieces'
import { placeFor } from '../../stock/putAway/placeFor'
import { isMadeFrom } from '../../stock/ledger/repository'
import { ProductionOrderEntity } from './entities'
import { noteOccasion } from '../../opening/occasions'
import { orderWords } from './orderAt'
import { loadOrder } from './orders'
import { lotRows } from '../../stock/ledger/rows'
import { placeRows } from '../../define/masters/rows'
import { insertLotUse } from '../../stock/writes'

/** Pieces of another lot go into this one. What is on hold is refused by the ledger. */
export async function issueComponent(
  work: Work,
  id: string,
  {
    version,
    lotId,
    containerId,
    placeId,
    quantity,
  }: { version: number; lotId: string; containerId: string | null; placeId: string; quantity: number },
): Promise<ProductionOrder> {
  const row = await loadAt(work, ProductionOrderEntity, orderWords, id, version)
  if (row.state !== 'released' || row.lotId === null)
    throw new ServerError('order_not_so_far', `${row.code} is ${row.state}: pieces are issued to a released order.`, { state: row.state })
  const lot = await lotRows.find(work.manager, { id: lotId })
  if (!lot) throw new ServerError('not_found', `There is no lot with the id ${lotId}.`, { field: 'lotId' })
  if (lotId === row.lotId) throw new ServerError('order_not_so_far', `${row.code} cannot use its own lot.`, { field: 'lotId' })
  if (await isMadeFrom(work.manager, lotId, row.lotId))
    throw new ServerError('order_not_so_far', `${lot.code} is made from the lot of ${row.code}: it cannot go into it as well.`, { field: 'lotId' })
  const place = await placeRows.find(work.manager, { id: placeId })
  if (!place || !movesFrom(place.purpose))
    throw new ServerError('place_not_for', `What lies in ${place?.name ?? 'that place'} belongs to its order or its dispatch: it is not issued.`, {
      field: 'placeId',
      purpose: place?.purpose ?? null,
    })
  await requireStep(work, lotId, containerId, 'use', 'lotId')
  const occasionId = await noteOccasion(work, 'stepStarted', 'start', { orderNumber: row.code, fromPlaceId: placeId })
  const to = { placeId: (await placeFor(work.manager, 'production')).id, standing: 'used' } as const
  for (const { spot, quantity: taken } of await takePieces(work, lotId, { containerId, placeId, standing: 'released', quantity }))
    await movePieces(work, lotId, { spot, quantity: taken, to }, 'issued', { occasionId })
  await insertLotUse(work, { id: work.newId(), fromLotId: lotId, toLotId: row.lotId, quantity, occasionId, at: work.now })
  await saveNext(work, ProductionOrderEntity, orderWords, 'component issued', row, {})
  return loadOrder(work.manager, id)
}
