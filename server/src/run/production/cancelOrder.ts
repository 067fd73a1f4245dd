import { isOrderCancellable, isSettled } from '@nemawashi/core'
import type { ProductionOrder } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, saveNext } from '../../kernel/work/versioned'
import { cancelInspection } from '../../opening/cancel'
import { ProductionOrderEntity } from './entities'
import { orderWords } from './orderAt'
import { loadOrder } from './orders'
import { inspectionRows } from '../../inspections/rows'

/** Calls an order off that has made nothing, with what it asks for. @throws {ServerError} `order_not_so_far`, `stale_version`. */
export async function cancelOrder(work: Work, id: string, version: number, reason: string): Promise<ProductionOrder> {
  const row = await loadAt(work, ProductionOrderEntity, orderWords, id, version)
  const order = await loadOrder(work.manager, id)
  const made = order.balances.reduce((sum, { quantity }) => sum + quantity, 0)
  if (!isOrderCancellable({ state: row.state, made }))
    throw new ServerError(
      'order_not_so_far',
      `${row.code} is ${row.state} and has made ${made}: what was made is accounted for, and the order is finished.`,
      {
        state: row.state,
        next: order.next?.act ?? null,
      },
    )
  for (const { id: inspectionId, state } of order.steps.flatMap(({ checks }) => checks))
    if (!isSettled(state)) await cancelInspection(work, await inspectionRows.load(work.manager, inspectionId), `${row.code} was cancelled: ${reason}`)
  await saveNext(work, ProductionOrderEntity, orderWords, 'cancelled', row, { state: 'cancelled' }, reason)
  return loadOrder(work.manager, id)
}
