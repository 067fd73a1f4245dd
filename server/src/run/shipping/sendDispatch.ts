import { holdReaches, takeFrom } from '@nemawashi/core'
import type { Dispatch } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, saveNext } from '../../kernel/work/versioned'
import { requireStep } from '../../stock/restrictions/finerStandings'
import { movePieces } from '../../stock/ledger/ledger'
import { placeOfCustomers } from '../../stock/putAway/placeFor'
import { openHolds } from '../../stock/ledger/holdRepository'
import { keptBack, requireGates } from '../receiving/checks'
import { DispatchEntity, DispatchPickEntity, type DispatchPickRow, type DispatchRow } from './entities'
import { atDoor } from './atDoor'
import { dispatchWords, assertTransition } from './dispatchState'
import { loadDispatch } from './loadDispatch'

/** @throws {ServerError} `gate_closed` where pieces of it are on hold at the door. */
async function requireNoneHeld(work: Work, { code }: DispatchRow, picks: readonly DispatchPickRow[]): Promise<void> {
  for (const pick of picks) {
    const held = await atDoor(work, pick, 'onHold')
    if (held.length === 0) continue
    const holding = (await openHolds(work.manager, pick.lotId, null)).filter((hold) => held.some((spot) => holdReaches(hold, spot)))
    const count = held.reduce((sum, { quantity }) => sum + quantity, 0)
    const cause = holding.length > 0 ? ` for ${[...new Set(holding.map((gate) => gate.code))].join(', ')}` : ''
    const reasons = [`${count} of its pieces ${count === 1 ? 'is' : 'are'} on hold${cause}`]
    throw new ServerError('gate_closed', `${code} may not leave: ${reasons.join('; ')}.`, { reasons, inspectionId: holding[0]?.id ?? null })
  }
}

/**
 * Lets a dispatch leave with the pieces that were picked for it and are still free; what a decision took out of it stays behind.
 * @throws {ServerError} `gate_closed`, `already_sent`, `nothing_there` where none of its pieces is left.
 */
export async function sendDispatch(work: Work, id: string, version: number): Promise<Dispatch> {
  const row = await loadAt(work, DispatchEntity, dispatchWords, id, version)
  const state = assertTransition(row, 'send')
  const { checks } = await loadDispatch(work.manager, id)
  requireGates(`${row.code} may not leave`, keptBack(checks))
  const away = await placeOfCustomers(work.manager)
  const picks = await work.manager.findBy(DispatchPickEntity, { dispatchId: id })
  await requireNoneHeld(work, row, picks)
  let together = 0
  for (const pick of picks) {
    const own = takeFrom(await atDoor(work, pick, 'released'), pick.quantity)
    if (own.length > 0) await requireStep(work, pick.lotId, pick.containerId, 'ship', 'lotId')
    let shipped = 0
    for (const { spot, quantity } of own) {
      await movePieces(work, pick.lotId, { spot, quantity, to: { placeId: away.id, standing: 'shipped' } }, 'shipped', { occasionId: id })
      shipped += quantity
    }
    await work.manager.update(DispatchPickEntity, { id: pick.id }, { shipped })
    together += shipped
  }
  if (together === 0)
    throw new ServerError('nothing_there', `${row.code} has no pieces left: what was picked for it was decided on otherwise. Cancel it.`, {
      field: 'picks',
    })
  await saveNext(work, DispatchEntity, dispatchWords, 'sent', row, { state, sentAt: work.now })
  return loadDispatch(work.manager, id)
}
