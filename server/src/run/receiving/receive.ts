import type { Delivery, endpoints } from '@nemawashi/contract'
import type { z } from 'zod'
import type { PartRow } from '../../define/masters/entities'
import { requirePartner } from '../../define/masters/partners'
import type { Work } from '../../kernel/work/unitOfWork'
import { bookLine } from './bookLine'
import { loadDelivery } from './deliveries'
import { DeliveryEntity } from './entities'
import { receiveExpected } from './receiveExpected'
import { noteOccasion } from '../../opening/occasions'
import { openTogether, type ToOpen } from '../../opening/openTogether'
import { fromSupplier, loadOf, loadReceivingRoute, findPutAwayDestination } from './receipt'
import { asWritten } from '../purchasing/purchaseOrders'
import { checkedParts, refuseSecond, refuseUnusual } from './receiveChecks'

type DeliveryInput = z.output<(typeof endpoints.run.receiveDelivery)['body']>

/**
 * Enters a delivery: its lots, what its receiving operations ask of each, and what they ask of the load as one.
 * @throws {ServerError} `reference_unknown`, `already_received`, `not_as_ordered`, `already_exists` (labels), `containers_do_not_add_up`, `not_expected`,
 *   `gate_closed` (its load, before the receipt); {CoreError} `quantity_invalid`.
 */
export async function bookDelivery(work: Work, { load: facts, expectedId, ...body }: DeliveryInput): Promise<{ id: string; code: string }> {
  const { supplierId, lines } = body
  const orderNumber = await asWritten(work.manager, supplierId, body.orderNumber)
  await requirePartner(work, 'supplier', supplierId, 'supplierId')
  if (!body.isAnother) await refuseSecond(work, body)
  if (!body.isUnusual) await refuseUnusual(work, { ...body, expectedId })
  const parts = await checkedParts(work, lines)
  const expected = expectedId === null ? null : await receiveExpected(work, expectedId, supplierId)
  const occasionId = await noteOccasion(work, 'delivery', 'arrival', { partnerId: supplierId, orderNumber }, expected?.id)
  const code = expected?.code ?? (await work.nextCode('D'))
  await work.manager.insert(DeliveryEntity, { id: occasionId, code, ...facts })
  work.audit({ action: 'received', subject: 'delivery', subjectId: occasionId, after: { ...body, load: facts } })
  const booked = lines.map((line, i) => ({ line, part: parts[i] as PartRow }))
  const from = await fromSupplier(work.manager, { supplierId, orderNumber, at: work.now })
  const arriving = booked.map(({ line: { quantity }, part }) => ({ ...from, part, quantity }))
  const way = await loadReceivingRoute(work.manager, parts)
  const load = await loadOf(way, arriving, work.newId)
  const named = new Set(lines.flatMap(({ containers }) => containers.flatMap(({ label }) => label ?? [])))
  const lotIds: string[] = []
  for (const { line, part } of booked) lotIds.push(await bookLine(work, { occasionId, from, way, load, expected, named }, line, part))
  const ofLoad: ToOpen[] = []
  for (const points of load)
    ofLoad.push({ ...points, opening: { lotIds, holdPlaceId: (await findPutAwayDestination(work.manager, [points], null)).placeId, occasionId } })
  await openTogether(work, ofLoad)
  await work.emit('delivered', { deliveryId: occasionId })
  return { id: occasionId, code }
}

/** The same, with how it stands then. */
export async function receiveDelivery(work: Work, body: DeliveryInput): Promise<Delivery> {
  return loadDelivery(work.manager, (await bookDelivery(work, body)).id)
}
