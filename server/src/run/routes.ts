import { checkLotSize, CoreError } from '@nemawashi/core'
import { endpoints, type DeliveryLineInput } from '@nemawashi/contract'
import { PartEntity, PartnerEntity, PlaceEntity } from '../define/entities'
import type { Routes } from '../kernel/routes'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { requireReference } from '../kernel/versioned'
import { loadDelivery } from './deliveries'
import { DeliveryEntity, LotEntity } from '../stock/entities'
import { postMovement } from '../stock/ledger'
import { openInspection } from '../record/openInspection'
import { pointsAtReceiving } from './pointsAtReceiving'
import { placeFor } from '../stock/placeFor'

const { run } = endpoints

function checkLine(line: DeliveryLineInput, index: number): void {
  try {
    checkLotSize(line.quantity)
    for (const container of line.containers) checkLotSize(container.quantity)
  } catch (error) {
    if (error instanceof CoreError)
      throw new CoreError('quantity_invalid', `Line ${index + 1}: ${error.message}`, { ...error.facts, field: `lines.${index}.quantity` })
    throw error
  }
  if (line.containers.length === 0) return
  const together = line.containers.reduce((sum, container) => sum + container.quantity, 0)
  if (together !== line.quantity) {
    throw new ServerError(
      'containers_do_not_add_up',
      `Line ${index + 1}: the containers hold ${together}, the delivery note says ${line.quantity}.`,
      {
        field: `lines.${index}.containers`,
        together,
        quantity: line.quantity,
      },
    )
  }
  const labels = new Set(line.containers.map((container) => container.label))
  if (labels.size < line.containers.length)
    throw new ServerError('already_exists', `Line ${index + 1}: two containers have the same label.`, { field: `lines.${index}.containers` })
}

/** The same supplier, order and supplier's lot a second time is mostly a slip: it is asked about first. */
async function refuseSecond(
  work: Work,
  { supplierId, orderNumber, lines }: { supplierId: string; orderNumber: string; lines: readonly DeliveryLineInput[] },
): Promise<void> {
  for (const [index, { supplierLot, partId }] of lines.entries()) {
    const [found] = (await work.manager.query(
      `SELECT d.code, d.receivedAt, l.code AS lotCode FROM lot l JOIN delivery d ON d.id = l.deliveryId
       WHERE l.supplierId = ? AND d.orderNumber = ? AND l.supplierLot = ? AND l.partId = ? ORDER BY l.receivedAt DESC LIMIT 1`,
      [supplierId, orderNumber, supplierLot, partId],
    )) as { code: string; receivedAt: string; lotCode: string }[]
    if (found) {
      throw new ServerError(
        'already_received',
        `Lot ${supplierLot} of order ${orderNumber} was received before, as ${found.lotCode} with ${found.code}.`,
        {
          field: `lines.${index}.supplierLot`,
          delivery: found.code,
          lot: found.lotCode,
          receivedAt: found.receivedAt,
        },
      )
    }
  }
}

/** Books one line of a delivery in: lot, containers, inspections, and the arrival in the ledger, on hold where a gate asks for it. */
async function bookIn(work: Work, deliveryId: string, supplierId: string, line: DeliveryLineInput): Promise<void> {
  const part = await work.manager.findOneByOrFail(PartEntity, { id: line.partId })
  const points = await pointsAtReceiving(work, part, supplierId)
  const gates = points.filter((point) => point.isGate)
  const named = gates.find((gate) => gate.holdPlaceId !== null)?.holdPlaceId
  const placeId = named ?? (await placeFor(work.manager, gates.length > 0 ? 'inspection' : 'dock')).id
  const lot = {
    id: work.newId(),
    code: await work.nextCode('L'),
    partId: part.id,
    deliveryId,
    supplierId,
    supplierLot: line.supplierLot,
    quantity: line.quantity,
    receivedAt: work.now,
  }
  await work.manager.insert(LotEntity, { ...lot })
  work.audit({ action: 'received', subject: 'lot', subjectId: lot.id, after: lot })
  const to = { placeId, standing: gates.length > 0 ? ('onHold' as const) : ('released' as const) }
  if (line.containers.length === 0)
    await postMovement(work, lot.id, { containerId: null, quantity: line.quantity, from: null, to }, 'received', deliveryId)
  for (const { label, quantity } of line.containers) {
    const containerId = work.newId()
    await work.manager.query('INSERT INTO container (id, lotId, label, quantity) VALUES (?,?,?,?)', [containerId, lot.id, label, quantity])
    await postMovement(work, lot.id, { containerId, quantity, from: null, to }, 'received', deliveryId)
  }
  for (const point of points) await openInspection(work, point, { lotId: lot.id, lotSize: line.quantity, holdPlaceId: placeId })
}

export function runRoutes(routes: Routes): void {
  routes.list(run.listDeliveries, {
    from: 'delivery d JOIN partner s ON s.id = d.supplierId',
    countFrom: 'delivery d',
    id: 'd.id',
    columns: {
      id: { sql: 'd.id' },
      code: { sql: 'd.code' },
      supplierName: { sql: 's.name' },
      orderNumber: { sql: 'd.orderNumber' },
      partCodes: { sql: `IFNULL((SELECT group_concat(t.code, ', ') FROM lot l JOIN part t ON t.id = l.partId WHERE l.deliveryId = d.id), '')` },
      receivedAt: { sql: 'd.receivedAt' },
      openInspections: {
        sql: `(SELECT COUNT(*) FROM lot l JOIN inspection i ON i.lotId = l.id WHERE l.deliveryId = d.id AND i.state NOT IN ('decided', 'cancelled'))`,
        kind: 'number',
      },
      onHold: {
        sql: `(SELECT IFNULL(SUM(CASE WHEN m.toStanding = 'onHold' THEN m.quantity ELSE 0 END) - SUM(CASE WHEN m.fromStanding = 'onHold' THEN m.quantity ELSE 0 END), 0)
               FROM lot l JOIN movement m ON m.lotId = l.id WHERE l.deliveryId = d.id)`,
        kind: 'number',
      },
    },
    search: [
      'd.code',
      's.name',
      'd.orderNumber',
      `(SELECT group_concat(t.code || ' ' || l.code || ' ' || l.supplierLot) FROM lot l JOIN part t ON t.id = l.partId WHERE l.deliveryId = d.id)`,
    ],
    sort: ['receivedAt', 'desc'],
  })

  routes.read(run.getDelivery, (reader, { params }) => loadDelivery(reader, params.id))

  routes.change(run.receiveDelivery, async (work, { body }) => {
    await requireReference(work, PartnerEntity, 'supplier', body.supplierId, 'supplierId')
    if (!body.isAnother) await refuseSecond(work, body)
    for (const [index, line] of body.lines.entries()) {
      checkLine(line, index)
      await requireReference(work, PartEntity, 'part', line.partId, `lines.${index}.partId`)
    }
    const delivery = {
      id: work.newId(),
      code: await work.nextCode('D'),
      supplierId: body.supplierId,
      orderNumber: body.orderNumber,
      receivedAt: work.now,
      receivedById: work.personId ?? '',
    }
    await work.manager.insert(DeliveryEntity, { ...delivery })
    work.audit({ action: 'received', subject: 'delivery', subjectId: delivery.id, after: body })
    for (const line of body.lines) await bookIn(work, delivery.id, body.supplierId, line)
    return loadDelivery(work.manager, delivery.id)
  })

  routes.change(run.putAway, async (work, { params, body }) => {
    const lot = await work.manager.findOneBy(LotEntity, { id: params.id })
    if (!lot) throw new ServerError('not_found', `There is no lot with the id ${params.id}.`)
    const before = await loadDelivery(work.manager, lot.deliveryId)
    const reasons = before.lots.find((entry) => entry.id === lot.id)?.gateReasons ?? []
    if (reasons.length > 0)
      throw new ServerError('gate_closed', `${lot.code} may not be put away: ${reasons.join('; ')}.`, { lot: lot.code, reasons })
    const place = await work.manager.findOneBy(PlaceEntity, { id: body.toPlaceId })
    if (place?.purpose !== 'store')
      throw new ServerError('reference_unknown', 'Put-away goes to a place with the purpose "store".', {
        field: 'toPlaceId',
        received: body.toPlaceId,
      })
    const { containerId, quantity, fromPlaceId, toPlaceId } = body
    await postMovement(
      work,
      lot.id,
      { containerId, quantity, from: { placeId: fromPlaceId, standing: 'released' }, to: { placeId: toPlaceId, standing: 'released' } },
      'putAway',
      null,
    )
    return loadDelivery(work.manager, lot.deliveryId)
  })
}
