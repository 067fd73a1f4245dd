import { eventsOf, setApart, quantityText } from '@nemawashi/core'
import type { Dispatch } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { movePieces } from '../../stock/ledger/ledger'
import { takePieces } from '../../stock/units/pieces'
import { placeFor, placeOfCustomers } from '../../stock/putAway/placeFor'
import { loadBalances, unitOfLot } from '../../stock/ledger/repository'
import { cameBackOf } from './repository'
import { CustomerReturnEntity, DispatchEntity, DispatchPickEntity } from './entities'
import { noteOccasion } from '../../opening/occasions'
import { loadDispatch } from './loadDispatch'
import { lotOf, openAt } from './openForPieces'
import { occasionRows } from '../../stock/ledger/rows'

/** Whether pieces left with this dispatch, and with no later one. */
const isSentWith = (sublot: string, dispatchId: string) => eventsOf(sublot).at(-1) === dispatchId

/** Takes back what a customer returns: it is on hold whatever is asked for, and stays so until somebody decides. */
export async function receiveReturn(
  work: Work,
  dispatchId: string,
  { pickId, quantity, reason }: { pickId: string; quantity: number; reason: string },
): Promise<Dispatch> {
  const row = await work.manager.findOneBy(DispatchEntity, { id: dispatchId })
  const pick = await work.manager.findOneBy(DispatchPickEntity, { id: pickId, dispatchId })
  if (!row || !pick) throw new ServerError('not_found', 'There is no such dispatch, or nothing of it was picked so.')
  if (row.state !== 'sent') throw new ServerError('not_sent', `${row.code} has not left: nothing of it can come back.`, { state: row.state })
  const { partnerId, orderNumber } = await occasionRows.load(work.manager, dispatchId)
  const bay = await placeFor(work.manager, 'inspection')
  const lot = await lotOf(work, pick.lotId, 'pickId')
  const unit = await unitOfLot(work.manager, lot.id)
  const format = (amount: number) => quantityText(amount, unit)
  const left = pick.shipped ?? 0
  const before = await cameBackOf(work.manager, pickId)
  if (quantity > left - before)
    throw new ServerError(
      'movement_exceeds_balance',
      `${format(quantity)} were to come back; ${format(left)} left, and ${format(before)} of them came back before.`,
      { field: 'quantity', received: quantity, available: left - before },
    )
  // They lie where they were sent to, whichever place that is for today.
  const gone = (await loadBalances(work.manager, lot.id)).find(
    (spot) => spot.standing === 'shipped' && spot.containerId === pick.containerId && spot.quantity > 0 && isSentWith(spot.sublot, dispatchId),
  )
  const fromPlaceId = gone?.placeId ?? (await placeOfCustomers(work.manager)).id
  const id = await noteOccasion(work, 'return', 'arrival', { partnerId, orderNumber, placeId: bay.id, fromPlaceId })
  const back = { id, code: await work.nextCode('B'), dispatchId, lotId: lot.id, pickId, quantity, reason }
  await work.manager.insert(CustomerReturnEntity, back)
  work.audit({ action: 'came back', subject: 'customer return', subjectId: id, after: back })
  const came = { containerId: pick.containerId, placeId: fromPlaceId, standing: 'shipped', quantity } as const
  for (const { spot, quantity: taken } of await takePieces(work, lot.id, { ...came, isMeant: ({ sublot }) => isSentWith(sublot, dispatchId) })) {
    const to = { placeId: bay.id, standing: 'onHold', sublot: setApart(spot.sublot, id) } as const
    await movePieces(work, lot.id, { spot, quantity: taken, to }, 'cameBack', { occasionId: id })
  }
  await openAt(work, lot, { kind: 'return', customerId: partnerId ?? '', quantity, occasionId: id, placeId: bay.id, containerId: pick.containerId })
  return loadDispatch(work.manager, dispatchId)
}
