import type { ProductionOrder } from '@nemawashi/contract'
import type { Work } from '../../kernel/work/unitOfWork'
import { saveNext } from '../../kernel/work/versioned'
import { OrderStepEntity, ProductionOrderEntity } from './entities'
import { noteOccasion } from '../../opening/occasions'
import { openAtStep } from './openAtStep'
import { atAct, orderWords, stepAt } from './orderAt'
import { loadOrder } from './orders'

export async function startStep(work: Work, id: string, version: number): Promise<ProductionOrder> {
  const at = await atAct(work, id, version, 'start')
  const step = await stepAt(work, at)
  const { operationId } = step
  const occasionId = await noteOccasion(work, 'stepStarted', 'start', { operationId, partnerId: at.row.customerId, orderNumber: at.row.code })
  await work.manager.update(OrderStepEntity, { id: step.id }, { state: 'running', startId: occasionId })
  await openAtStep(work, { ...at, step }, 'start', occasionId, at.order.next?.quantity ?? 0)
  await saveNext(work, ProductionOrderEntity, orderWords, 'step started', at.row, {})
  return loadOrder(work.manager, id)
}
