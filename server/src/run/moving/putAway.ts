import type { BalanceRow, endpoints } from '@nemawashi/contract'
import type { z } from 'zod'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { movePieces } from '../../stock/ledger/ledger'
import { sublotInStore } from '../../stock/units/pieces'
import { namedBalances } from '../../stock/ledger/repository'
import { requireLeave, requireMovable, takeOrSayWhy } from './bound'
import { lotRows } from '../../stock/ledger/rows'
import { placeRows } from '../../define/masters/rows'

type PutAwayInput = z.output<(typeof endpoints.run.putAway)['body']>

/**
 * Takes pieces of a lot to a store, in their standing.
 * @throws {ServerError} `not_found`, `gate_closed`, `reference_unknown`, `place_not_for`; {CoreError} `movement_exceeds_balance`.
 */
export async function putAway(work: Work, lotId: string, body: PutAwayInput): Promise<BalanceRow[]> {
  const lot = await lotRows.find(work.manager, { id: lotId })
  if (!lot) throw new ServerError('not_found', `There is no lot with the id ${lotId}.`)
  const { containerId, quantity, fromPlaceId, toPlaceId, standing, sublot } = body
  const from = await placeRows.find(work.manager, { id: fromPlaceId })
  const to = await placeRows.find(work.manager, { id: toPlaceId })
  if (!from) throw new ServerError('reference_unknown', `The place ${fromPlaceId} does not exist.`, { field: 'fromPlaceId' })
  if (to?.purpose !== 'store')
    throw new ServerError('reference_unknown', 'Put-away goes to a place with the purpose "store".', { field: 'toPlaceId', received: toPlaceId })
  const taken = await takeOrSayWhy(work, lot, { containerId, placeId: fromPlaceId, standing, quantity, sublot }, true)
  await requireMovable(work, lot, from, taken)
  await requireLeave(work, lot, to, standing, taken)
  for (const { spot, quantity: moved } of taken) {
    const stored = await sublotInStore(work, lot.id, spot.sublot)
    await movePieces(work, lot.id, { spot, quantity: moved, to: { placeId: toPlaceId, standing, sublot: stored } }, 'putAway', {})
  }
  return namedBalances(work.manager, lot.id)
}
