import { isPaused, quantityOfSamplingUnits, quantityText, runningMinutes } from '@nemawashi/core'
import type { ProductionOrder, StepReportInput } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { saveNext } from '../../kernel/work/versioned'
import { postMovement } from '../../stock/ledger/ledger'
import { placeFor } from '../../stock/putAway/placeFor'
import { OrderStepEntity, ProductionOrderEntity, type OrderStepRow } from './entities'
import { atAct, orderWords, stepAt, type At } from './orderAt'
import { piecesMeant, type PiecesOf } from './stepSerials'
import { loadOrder } from './orders'
import { noteReport, openAtStep, openEveryMinutes, openEveryPieces, type StepOf } from './openAtStep'
import { reportsOf, startedAt } from './stepReportRepository'

export interface Pieces {
  readonly good: number
  readonly scrapped: number
  readonly setAside: number
  /** Which of them, where pieces have serial numbers. */
  readonly scrappedSerials?: readonly string[] | undefined
  readonly setAsideSerials?: readonly string[] | undefined
}
type Counts = Pick<Pieces, 'good' | 'scrapped' | 'setAside'>
export const doneOf = ({ good, scrapped, setAside }: Counts): number => good + scrapped + setAside

/** Whole pieces, none below zero, and no more than are there. @throws {ServerError} `step_does_not_add_up`. */
export function requirePieces(
  pieces: Pieces,
  isEnough: (together: number) => boolean,
  { words, there, unit }: { readonly words: string; readonly there: number; readonly unit: string },
): void {
  const format = (quantity: number) => quantityText(quantity, unit)
  const { good, scrapped, setAside } = pieces
  const together = doneOf(pieces)
  const isWhole = [good, scrapped, setAside].every((value) => Number.isSafeInteger(value) && value >= 0)
  if (!isWhole || !isEnough(together))
    throw new ServerError(
      'step_does_not_add_up',
      `Received ${format(good)} good, ${format(scrapped)} scrapped and ${format(setAside)} set aside, ${format(together)} together; ${words}.`,
      { field: 'good', together, there },
    )
}

/** Books what was made: at the first step pieces come to be, at every one what is lost goes where it belongs. */
export async function bookPieces(work: Work, { row }: At, step: OrderStepRow, pieces: Pieces, occasionId: string): Promise<void> {
  const lotId = row.lotId ?? ''
  const line = { placeId: (await placeFor(work.manager, 'production')).id, standing: 'released' } as const
  const meant = await piecesMeant(work, { row, isFirst: step.position === 1 }, pieces)
  if (step.position === 1)
    for (const { containerId, quantity } of meant.made)
      await postMovement(work, lotId, { containerId, quantity, from: null, to: line }, 'made', { occasionId })
  const lose = async (lost: readonly PiecesOf[], to: 'scrapped' | 'quarantined') => {
    const kind = to === 'scrapped' ? 'scrappedAtStep' : 'setAsideAtStep'
    const placeId = (await placeFor(work.manager, to === 'scrapped' ? 'scrap' : 'quarantine')).id
    for (const { containerId, quantity } of lost)
      await postMovement(work, lotId, { containerId, quantity, from: line, to: { placeId, standing: to } }, kind, { occasionId })
  }
  await lose(meant.scrapped, 'scrapped')
  await lose(meant.setAside, 'quarantined')
}

/** How long a step has run up to now, and up to when its time was looked at last. */
export async function timesOf(work: Work, step: OrderStepRow): Promise<{ minutes: number; lookedAt: number; isPaused: boolean }> {
  const reports = await reportsOf(work.manager, step.id)
  const started = await startedAt(work.manager, step.id)
  const at = reports.map(({ kind, at: instant }) => ({ kind, atMs: Date.parse(instant) }))
  return {
    minutes: started === null ? 0 : runningMinutes(Date.parse(started), at, Date.parse(work.now)),
    lookedAt: Math.max(0, ...reports.filter(({ kind }) => kind === 'timed').map(({ minutes }) => minutes)),
    isPaused: isPaused(reports),
  }
}

async function reportPieces(work: Work, at: At, stepAt: StepOf, pieces: Pieces, minutes: number): Promise<void> {
  const { step } = stepAt
  const available = at.order.next?.quantity ?? 0
  const { unit } = stepAt.part
  requirePieces(pieces, (together) => together >= 1 && together <= available, {
    words: `${quantityText(available, unit)} are still to be made`,
    there: available,
    unit,
  })
  const before = doneOf(step)
  const after = before + doneOf(pieces)
  const occasionId = await noteReport(work, stepAt, {
    good: pieces.good,
    scrapped: pieces.scrapped,
    setAside: pieces.setAside,
    kind: 'pieces',
    done: after,
    minutes: Math.floor(minutes),
  })
  await bookPieces(work, at, step, pieces, occasionId)
  const sum = { good: step.good + pieces.good, scrapped: step.scrapped + pieces.scrapped, setAside: step.setAside + pieces.setAside }
  await work.manager.update(OrderStepEntity, { id: step.id }, sum)
  await openEveryPieces(work, stepAt, occasionId, before, after)
}

/**
 * Takes a report of a running step: pieces made, a set-up change, the last piece, a pause and its end. What comes up by it opens; no pieces
 * are reported and no last piece is told while a gate of the step stands.
 * @throws {ServerError} `order_not_so_far`, `gate_closed`, `step_does_not_add_up`, `step_paused`, `step_not_paused`, `stale_version`.
 */
export async function reportStep(work: Work, id: string, version: number, report: StepReportInput): Promise<ProductionOrder> {
  const isGoingOn = report.kind === 'pieces' || report.kind === 'lastPiece'
  const at = await atAct(work, id, version, 'report', isGoingOn)
  const step = await stepAt(work, at)
  const current: StepOf = { ...at, step }
  const { minutes, lookedAt, isPaused: isStill } = await timesOf(work, step)
  if (isStill && report.kind !== 'resumed')
    throw new ServerError('step_paused', `${at.order.code} is paused: resume the step first.`, { order: at.order.code })
  if (!isStill && report.kind === 'resumed')
    throw new ServerError('step_not_paused', `${at.order.code} is running: there is no pause to end.`, { order: at.order.code })
  const done = doneOf(step)
  const noted = { done, minutes: Math.floor(minutes) }
  if (report.kind === 'pieces') await reportPieces(work, at, current, report, minutes)
  else {
    const note = 'note' in report ? report.note : ''
    const occasionId = await noteReport(work, current, { ...noted, kind: report.kind, note })
    if (report.kind === 'setUp') await openAtStep(work, current, 'setUp', occasionId, Math.max(1, at.order.next?.quantity ?? 1))
    if (report.kind === 'lastPiece') await openAtStep(work, current, 'lastPiece', occasionId, quantityOfSamplingUnits(1, current.part.unit))
  }
  if (!isStill) await openEveryMinutes(work, current, { before: lookedAt, after: minutes, done })
  const actions = { pieces: 'pieces reported', setUp: 'set-up changed', lastPiece: 'last piece made', paused: 'paused', resumed: 'resumed' } as const
  await saveNext(work, ProductionOrderEntity, orderWords, actions[report.kind], at.row, {})
  return loadOrder(work.manager, id)
}
