import { checkQuantity } from '@nemawashi/core'
import type { ProductionOrder } from '@nemawashi/contract'
import { requirePartner } from '../../define/masters/partners'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadReference } from '../../kernel/work/versioned'
import { OrderStepEntity, ProductionOrderEntity, type ProductionOrderRow } from './entities'
import { orderWords } from './orderAt'
import { loadOrder } from './orders'
import { operationsOf } from '../receiving/repository'
import { partRows } from '../../define/masters/rows'

/** Plans an order; its steps are the production operations on the way of the part. @throws {ServerError} `nothing_to_make`. */
export async function planOrder(
  work: Work,
  { partId, quantity, orderNumber, customerId }: { partId: string; quantity: number; orderNumber: string; customerId: string | null },
): Promise<ProductionOrder> {
  const { unit } = await loadReference(work, partRows, 'part', partId, 'partId')
  await requirePartner(work, 'customer', customerId, 'customerId')
  checkQuantity(quantity, unit)
  const operations = await operationsOf(work.manager, partId, 'production')
  if (operations.length === 0) throw new ServerError('nothing_to_make', 'The part has no production step on its way.', { field: 'partId' })
  const order: ProductionOrderRow = {
    id: work.newId(),
    code: await work.nextCode('W'),
    partId,
    quantity,
    orderNumber,
    customerId,
    lotId: null,
    state: 'planned',
    createdAt: work.now,
    releasedAt: null,
    finishedAt: null,
    version: 1,
  }
  await work.manager.insert(ProductionOrderEntity, { ...order })
  for (const [i, operationId] of operations.entries())
    await work.manager.insert(OrderStepEntity, {
      id: work.newId(),
      orderId: order.id,
      position: i + 1,
      operationId,
      state: 'waiting',
      startId: null,
      endId: null,
      good: 0,
      scrapped: 0,
      setAside: 0,
    })
  work.audit({ action: 'planned', subject: orderWords, subjectId: order.id, after: order })
  return loadOrder(work.manager, order.id)
}
