import { quantityOfSamplingUnits, quantityText } from '@nemawashi/core'
import type { ProductionOrder } from '@nemawashi/contract'
import { asksAt } from '../../attach/repository'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { saveNext } from '../../kernel/work/versioned'
import { OrderStepEntity, ProductionOrderEntity } from './entities'
import { noteOccasion } from '../../opening/occasions'
import { freeOf, noteReport, openAtStep, openEveryMinutes, openEveryPieces, piecesComeUp, type StepOf } from './openAtStep'
import { atAct, orderWords, stepAt } from './orderAt'
import { loadOrder } from './orders'
import { reportsOf } from './stepReportRepository'
import { bookPieces, doneOf, requirePieces, timesOf, type Pieces } from './stepReports'

/** What was not told while the step ran comes up with its confirmation: the pieces and minutes since the last time, and the last piece. */
async function catchUp(work: Work, at: StepOf, before: number, after: number): Promise<void> {
  const { minutes, lookedAt } = await timesOf(work, at.step)
  const noted = { done: after, minutes: Math.floor(minutes) }
  if (await piecesComeUp(work, at, before, after)) {
    const occasionId = await noteReport(work, at, { ...noted, kind: 'pieces' })
    await openEveryPieces(work, at, occasionId, before, after)
  }
  await openEveryMinutes(work, at, { before: lookedAt, after: minutes, done: after })
  const isTold = (await reportsOf(work.manager, at.step.id)).some(({ kind }) => kind === 'lastPiece')
  if (!isTold && (await asksAt(work.manager, at.step.operationId, 'lastPiece', work.today)))
    await openAtStep(work, at, 'lastPiece', await noteReport(work, at, { ...noted, kind: 'lastPiece' }), quantityOfSamplingUnits(1, at.part.unit))
}

/**
 * Confirms the running step with what was not reported yet: at the first one its good pieces come to be, at a later one all that is free is
 * accounted for.
 * @throws {ServerError} `step_does_not_add_up`, `step_paused`, `order_not_so_far`, `gate_closed`.
 */
export async function confirmStep(work: Work, id: string, version: number, pieces: Pieces): Promise<ProductionOrder> {
  const at = await atAct(work, id, version, 'confirm')
  const step = await stepAt(work, at)
  const current: StepOf = { ...at, step }
  if ((await timesOf(work, step)).isPaused)
    throw new ServerError('step_paused', `${at.order.code} is paused: resume the step first.`, { order: at.order.code })
  const isFirst = step.position === 1
  const available = at.order.next?.quantity ?? 0
  const before = doneOf(step)
  const after = before + doneOf(pieces)
  const isEnough = (together: number) => (isFirst ? after >= 1 && together <= available : together === available)
  const { unit } = current.part
  const amount = quantityText(available, unit)
  const words = isFirst ? `the order is for ${amount}${before > 0 ? ' more' : ''}` : `${amount} came to the step`
  requirePieces(pieces, isEnough, { words, there: available, unit })
  const { operationId } = step
  const occasionId = await noteOccasion(work, 'stepConfirmed', 'end', { operationId, partnerId: at.row.customerId, orderNumber: at.row.code })
  const good = step.good + pieces.good
  const sum = { good, scrapped: step.scrapped + pieces.scrapped, setAside: step.setAside + pieces.setAside }
  await work.manager.update(OrderStepEntity, { id: step.id }, { state: 'confirmed', endId: occasionId, ...sum })
  await bookPieces(work, at, step, pieces, occasionId)
  const free = await freeOf(work, at.row)
  await catchUp(work, current, before, after)
  if (free > 0) await openAtStep(work, current, 'end', occasionId, free)
  await saveNext(work, ProductionOrderEntity, orderWords, 'step confirmed', at.row, {})
  return loadOrder(work.manager, id)
}
