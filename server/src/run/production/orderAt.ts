import type { ProductionOrder } from '@nemawashi/contract'
import type { PartRow } from '../../define/masters/entities'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt } from '../../kernel/work/versioned'
import { requireGates } from '../receiving/checks'
import { OrderStepEntity, ProductionOrderEntity, type OrderStepRow, type ProductionOrderRow } from './entities'
import { loadOrder } from './orders'
import { partRows } from '../../define/masters/rows'

export const orderWords = 'production order'
const actWords = {
  release: 'be released',
  start: 'have a step started',
  report: 'have pieces reported',
  confirm: 'have a step confirmed',
  finish: 'be finished',
} as const

/** An order as it stands when something is done with it. */
export interface At {
  readonly row: ProductionOrderRow
  readonly order: ProductionOrder
  readonly part: PartRow
}

/** The order, where this act comes next and no gate stands before it. @throws {ServerError} `order_not_so_far`, `gate_closed`, `stale_version`. */
export async function atAct(work: Work, id: string, version: number, act: keyof typeof actWords, isGateAsked = true): Promise<At> {
  const row = await loadAt(work, ProductionOrderEntity, orderWords, id, version)
  const order = await loadOrder(work.manager, id)
  // A step that is running is reported on until it is confirmed.
  const wanted = act === 'report' ? 'confirm' : act
  if (order.next?.act !== wanted)
    throw new ServerError('order_not_so_far', `${order.code} cannot ${actWords[act]} now.`, { state: order.state, next: order.next?.act ?? null })
  if (isGateAsked) requireGates(`${order.code} cannot ${actWords[act]} yet`, order.next.gates)
  return { row, order, part: await partRows.load(work.manager, row.partId) }
}

/** The step that the next act is about. */
export function stepAt(work: Work, { order }: At): Promise<OrderStepRow> {
  return work.manager.findOneByOrFail(OrderStepEntity, { id: order.next?.stepId ?? '' })
}
