import { quantityText } from '@nemawashi/core'
import type { Dispatch, endpoints } from '@nemawashi/contract'
import { In } from 'typeorm'
import type { z } from 'zod'
import { requirePartner } from '../../define/masters/partners'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, saveNext } from '../../kernel/work/versioned'
import { keptBack, requireGates } from '../receiving/checks'
import { askOfDispatch, type Leaving } from './dispatchLoad'
import { dispatchWords, assertTransition } from './dispatchState'
import { loadDispatch } from './loadDispatch'
import { pickLots } from './pickDispatch'
import { DispatchEntity, DispatchLineEntity, type DispatchLineRow, type DispatchRow } from './entities'
import { noteOccasion } from '../../opening/occasions'
import { lotRows, occasionRows } from '../../stock/ledger/rows'
import { partRows } from '../../define/masters/rows'

type PlanInput = z.output<(typeof endpoints.run.planDispatch)['body']>
type Picks = z.output<(typeof endpoints.run.pickPlanned)['body']>['picks']

async function leavingOf(work: Work, lines: PlanInput['lines']): Promise<Leaving[]> {
  const ids = [...new Set(lines.map(({ partId }) => partId))]
  const parts = new Map((await partRows.list(work.manager, { id: In(ids) })).map((part) => [part.id, part]))
  return lines.map(({ partId, quantity }, i) => {
    const part = parts.get(partId)
    if (!part) throw new ServerError('reference_unknown', `The part ${partId} does not exist.`, { field: `lines.${i}.partId`, received: partId })
    return { part, quantity }
  })
}

/** Plans what is to leave, part by part; what is asked of it before it is picked opens. @throws {ServerError} `reference_unknown`. */
export async function planDispatch(work: Work, { customerId, orderNumber, leavesOn, lines }: PlanInput): Promise<Dispatch> {
  await requirePartner(work, 'customer', customerId, 'customerId')
  const leaving = await leavingOf(work, lines)
  const id = await noteOccasion(work, 'dispatch', 'beforePicking', { partnerId: customerId, orderNumber })
  const code = await work.nextCode('S')
  const row: DispatchRow = { id, code, state: 'planned', leavesOn, pickedAt: null, pickedById: null, sentAt: null, version: 1 }
  await work.manager.insert(DispatchEntity, { ...row })
  for (const [position, line] of lines.entries()) {
    const kept: DispatchLineRow = { id: work.newId(), dispatchId: id, position, ...line }
    await work.manager.insert(DispatchLineEntity, { ...kept })
  }
  work.audit({ action: 'planned', subject: dispatchWords, subjectId: id, after: { code, customerId, orderNumber, leavesOn, lines } })
  await askOfDispatch(work, { id, customerId, orderNumber }, 'beforePicking', leaving)
  return loadDispatch(work.manager, id)
}

/** Less than is planned may be there, but nobody ordered more. */
async function requirePlanned(work: Work, { code, lines }: Dispatch, picks: Picks): Promise<void> {
  const left = new Map<string, number>()
  const units = new Map(lines.map((line) => [line.partId, line.unit]))
  for (const { partId, quantity } of lines) left.set(partId, (left.get(partId) ?? 0) + quantity)
  for (const [i, { lotId, quantity }] of picks.entries()) {
    const lot = await lotRows.find(work.manager, { id: lotId })
    if (!lot) throw new ServerError('reference_unknown', `The lot ${lotId} does not exist.`, { field: `picks.${i}.lotId` })
    const planned = left.get(lot.partId)
    const unit = units.get(lot.partId) ?? 'piece'
    if (planned === undefined || quantity > planned)
      throw new ServerError(
        'not_planned',
        planned === undefined
          ? `${lot.code} is of a part that ${code} does not have.`
          : `Received ${quantityText(quantity, unit)} of ${lot.code}: ${quantityText(planned, unit)} are left to pick for ${code}.`,
        { field: planned === undefined ? `picks.${i}.lotId` : `picks.${i}.quantity`, lot: lot.code, received: quantity, planned: planned ?? 0 },
      )
    left.set(lot.partId, planned - quantity)
  }
}

/**
 * Picks a planned dispatch, once everything that is asked before is acceptable.
 * @throws {ServerError} `already_sent`, `already_picked`, `gate_closed`, `not_planned`, `stale_version` and as a pick without a plan.
 */
export async function pickPlanned(work: Work, id: string, version: number, picks: Picks): Promise<Dispatch> {
  const row = await loadAt(work, DispatchEntity, dispatchWords, id, version)
  const state = assertTransition(row, 'pick')
  const planned = await loadDispatch(work.manager, id)
  requireGates(`${row.code} may not be picked`, keptBack(planned.checks))
  await requirePlanned(work, planned, picks)
  const { orderNumber } = await occasionRows.load(work.manager, id)
  await pickLots(work, { id, customerId: planned.customerId, orderNumber }, picks)
  await saveNext(work, DispatchEntity, dispatchWords, 'picked', row, { state, pickedAt: work.now, pickedById: work.personId })
  return loadDispatch(work.manager, id)
}
