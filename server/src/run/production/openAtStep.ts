import { intervalPassed, quantityOfSamplingUnits, samplingUnitsDone, type Moment } from '@nemawashi/core'
import type { ControlPointRow } from '../../attach/entities'
import type { PartRow } from '../../define/masters/entities'
import type { Work } from '../../kernel/work/unitOfWork'
import { evaluateControlPoints, type ArrivalContext, type ConsideredPoint } from '../../opening/evaluatePoints'
import { holdLot } from '../../stock/holds/holds'
import { placeFor } from '../../stock/putAway/placeFor'
import { namedBalances } from '../../stock/ledger/repository'
import { onLine } from '../../opening/onLine'
import { intervalsAt } from '../../attach/repository'
import { StepReportEntity, type OrderStepRow, type ProductionOrderRow, type StepReportRow } from './entities'
import { noteOccasion } from '../../opening/occasions'
import { openEach } from '../../opening/openEach'
import { openTogether } from '../../opening/openTogether'
import { partRows } from '../../define/masters/rows'

/** A step of an order, and the part that it works on. */
export interface StepOf {
  readonly row: ProductionOrderRow
  readonly part: PartRow
  readonly step: OrderStepRow
}

/** How many pieces a control point is asked about; null where it does not come up. */
type QuantityOf = (point: ControlPointRow) => number | null

/** Opens what a step asks for at a moment; a gate holds what of the lot is free. */
export async function openAtStep(
  work: Work,
  { row, part, step }: StepOf,
  moment: Moment,
  occasionId: string,
  quantityOf: number | QuantityOf,
): Promise<void> {
  const quantity = typeof quantityOf === 'number' ? quantityOf : row.quantity
  const arrival: ArrivalContext = {
    operationId: step.operationId,
    moment,
    part,
    subject: 'lot',
    supplierId: null,
    customerId: row.customerId,
    quantity,
    orderNumber: row.orderNumber,
    at: work.now,
  }
  const line = await placeFor(work.manager, 'production')
  const opening = ({ point }: ConsideredPoint) => ({ lotIds: [row.lotId ?? ''], holdPlaceId: point.holdPlaceId ?? line.id, occasionId })
  if (moment === 'end') return openEach(work, arrival, row.lotId ?? '', opening)
  const considered = await evaluateControlPoints(work.manager, arrival, work.newId)
  const entries = considered.flatMap((entry) => {
    const counted = typeof quantityOf === 'number' ? quantityOf : quantityOf(entry.point)
    if (counted === null) return []
    return [{ arrival: { ...arrival, quantity: counted }, considered: entry, opening: opening(entry) }]
  })
  await openTogether(work, entries, holdLot)
}

const nothing = { good: 0, scrapped: 0, setAside: 0 }

/** Keeps a report of a running step. Gives the id of its occasion. */
export async function noteReport(
  work: Work,
  { row, step }: StepOf,
  report: Pick<StepReportRow, 'kind' | 'done' | 'minutes'> & Partial<StepReportRow>,
  personId?: string,
): Promise<string> {
  const moments = {
    pieces: 'everyPieces',
    timed: 'everyMinutes',
    setUp: 'setUp',
    lastPiece: 'lastPiece',
    paused: 'paused',
    resumed: 'resumed',
  } as const
  const at = { operationId: step.operationId, partnerId: row.customerId, orderNumber: row.code, ...(personId === undefined ? {} : { personId }) }
  const id = await noteOccasion(work, 'stepReported', moments[report.kind], at)
  await work.manager.insert(StepReportEntity, { ...nothing, note: '', ...report, id, stepId: step.id })
  return id
}

/** What comes up every so many pieces, once for all that were made since the last time; `before` and `after` count the pieces of the step. */
export async function openEveryPieces(work: Work, at: StepOf, occasionId: string, before: number, after: number): Promise<void> {
  const { unit } = at.part
  await openAtStep(work, at, 'everyPieces', occasionId, ({ every }) => {
    const passed = every === null ? null : intervalPassed(samplingUnitsDone(before, unit), samplingUnitsDone(after, unit), every)
    return passed === null ? null : quantityOfSamplingUnits(passed.since, unit)
  })
}

/** Whether any control point of the step comes up between two counts. */
async function comesUp(work: Work, { step }: StepOf, moment: 'everyPieces' | 'everyMinutes', before: number, after: number): Promise<boolean> {
  const all = await intervalsAt(work.manager, step.operationId, moment, work.today)
  return all.some((every) => intervalPassed(before, after, every) !== null)
}

/** Whether pieces that were made bring anything up; `before` and `after` are quantities of the step. */
export function piecesComeUp(work: Work, at: StepOf, before: number, after: number): Promise<boolean> {
  const { unit } = at.part
  return comesUp(work, at, 'everyPieces', samplingUnitsDone(before, unit), samplingUnitsDone(after, unit))
}

/** What comes up every so many minutes of running; `before` and `after` count them. What is looked at is all that is at the step. Gives whether any did. */
export async function openEveryMinutes(
  work: Work,
  at: StepOf,
  { before, after, done, personId }: { before: number; after: number; done: number; personId?: string },
): Promise<boolean> {
  if (!(await comesUp(work, at, 'everyMinutes', before, after))) return false
  const occasionId = await noteReport(work, at, { kind: 'timed', done, minutes: Math.floor(after) }, personId)
  const free = await freeOf(work, at.row)
  const quantity = free > 0 ? free : at.row.quantity
  await openAtStep(work, at, 'everyMinutes', occasionId, ({ every }) =>
    every === null || intervalPassed(before, after, every) === null ? null : quantity,
  )
  return true
}

/** Free pieces of the order's lot on the line: those that have left it are not its any more. */
export async function freeOf(work: Work, { lotId }: Pick<ProductionOrderRow, 'lotId'>): Promise<number> {
  return onLine(await namedBalances(work.manager, lotId ?? '')).reduce((sum, { quantity }) => sum + quantity, 0)
}

export async function partOfOrder(work: Work, { partId }: Pick<ProductionOrderRow, 'partId'>): Promise<PartRow> {
  return partRows.load(work.manager, partId)
}
