import { holdReaches, type Balance } from '@nemawashi/core'
import type { BalanceRow, Dispatch } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import { namedBalances } from '../../stock/ledger/repository'
import { gateWords, keptBack } from '../receiving/checks'
import { dispatchHead, picksOf, plannedLines, returnsOf, type DispatchHead } from './repository'
import { checksOn } from '../production/repository'
import { placeRows } from '../../define/masters/rows'

/** Released pieces of a lot at an inspection place: what came back and was freed waits there to be put away. */
async function freeWhereReturned(reader: Reader, lotId: string) {
  const bays = new Set((await placeRows.list(reader, { purpose: 'inspection' })).map((place) => place.id))
  return (await namedBalances(reader, lotId)).filter(({ standing, placeId }) => standing === 'released' && bays.has(placeId))
}

/** What of a pick is at the door, free or on hold; once it has left, what left. */
function leavingOf(
  { id, state }: DispatchHead,
  pick: { readonly containerId: string | null; readonly quantity: number; readonly shipped: number | null },
  balances: readonly BalanceRow[],
): { leaving: number; onHold: number } {
  if (state === 'sent') return { leaving: pick.shipped ?? 0, onHold: 0 }
  const own = balances.filter(
    (spot) => spot.placePurpose === 'shipping' && spot.containerId === pick.containerId && holdReaches({ containerId: null, eventId: id }, spot),
  )
  const count = (standing: Balance['standing']) =>
    Math.min(
      pick.quantity,
      own.filter((spot) => spot.standing === standing).reduce((sum, { quantity }) => sum + quantity, 0),
    )
  return { leaving: count('released'), onHold: count('onHold') }
}

export async function loadDispatch(reader: Reader, id: string): Promise<Dispatch> {
  const head = await dispatchHead(reader, id)
  if (!head) throw new ServerError('not_found', `There is no dispatch with the id ${id}.`)
  const returns = await returnsOf(reader, id)
  const found = await checksOn(reader, [id, ...returns.map((back) => back.id)])
  const leaving = found.get(id) ?? []
  const picks: Dispatch['picks'] = []
  for (const { containerId, shipped, ...pick } of await picksOf(reader, id)) {
    const own = leavingOf(head, { ...pick, containerId, shipped }, await namedBalances(reader, pick.lotId))
    picks.push({ ...pick, ...own, backAndFree: pick.returned > 0 ? await freeWhereReturned(reader, pick.lotId) : [] })
  }
  return {
    ...head,
    lines: await plannedLines(reader, id),
    picks,
    checks: [...found.values()].flat(),
    gates: head.state === 'planned' || head.state === 'picked' ? keptBack(leaving).map(gateWords) : [],
    returns,
  }
}
