import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import type { ConsideredPoint } from '../../opening/evaluatePoints'
import type { LotRow } from '../../stock/ledger/entities'
import { holdLot, openHold } from '../../stock/holds/holds'
import { openEach } from '../../opening/openEach'
import type { Hold } from '../../opening/openTogether'
import { operationsOf } from '../receiving/repository'
import { lotRows, occasionRows } from '../../stock/ledger/rows'
import { partRows } from '../../define/masters/rows'

export async function lotOf(work: Work, lotId: string, field: string): Promise<LotRow> {
  const lot = await lotRows.find(work.manager, { id: lotId })
  if (!lot) throw new ServerError('reference_unknown', `The lot ${lotId} does not exist.`, { field })
  return lot
}

/** Opens what the operations of a kind ask for, of the pieces of a lot that the event set apart; gates hold those. */
export async function openAt(
  work: Work,
  lot: LotRow,
  event: { kind: 'shipping' | 'return'; customerId: string; quantity: number; occasionId: string; placeId: string; containerId: string | null },
): Promise<void> {
  const part = await partRows.load(work.manager, lot.partId)
  const { orderNumber } = await occasionRows.load(work.manager, event.occasionId)
  const moment = event.kind === 'shipping' ? 'beforeDispatch' : 'arrival'
  for (const operationId of await operationsOf(work.manager, part.id, event.kind)) {
    const arrival = {
      operationId,
      moment,
      part,
      supplierId: null,
      customerId: event.customerId,
      quantity: event.quantity,
      orderNumber,
      at: work.now,
    } as const
    const { occasionId, containerId } = event
    const opening = ({ point }: ConsideredPoint) => ({
      lotIds: [lot.id],
      holdPlaceId: point.holdPlaceId ?? event.placeId,
      occasionId,
      eventId: occasionId,
    })
    // What comes back is on hold already.
    const hold: Hold = event.kind === 'return' ? openHold : holdLot
    const standings = [event.kind === 'return' ? 'onHold' : 'released'] as const
    await openEach(work, arrival, lot.id, opening, { hold, where: { containerId, eventId: occasionId, standings } })
  }
}
