import type { ProductionOrder } from '@nemawashi/contract'
import type { Work } from '../../kernel/work/unitOfWork'
import { saveNext } from '../../kernel/work/versioned'
import { movePieces } from '../../stock/ledger/ledger'
import { placeFor } from '../../stock/putAway/placeFor'
import { namedBalances } from '../../stock/ledger/repository'
import { onLine } from '../../opening/onLine'
import { ProductionOrderEntity } from './entities'
import { atAct, orderWords } from './orderAt'
import { loadOrder } from './orders'

/** Ends an order: what is released on the line goes to the store of the part. */
export async function finishOrder(work: Work, id: string, version: number): Promise<ProductionOrder> {
  const { row, part } = await atAct(work, id, version, 'finish')
  const toPlaceId = part.putAwayPlaceId ?? (await placeFor(work.manager, 'store')).id
  for (const spot of onLine(await namedBalances(work.manager, row.lotId ?? '')))
    await movePieces(work, row.lotId ?? '', { spot, quantity: spot.quantity, to: { placeId: toPlaceId, standing: 'released' } }, 'putAway', {})
  await saveNext(work, ProductionOrderEntity, orderWords, 'finished', row, { state: 'finished', finishedAt: work.now })
  return loadOrder(work.manager, id)
}
