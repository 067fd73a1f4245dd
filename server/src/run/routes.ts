import { lotWithLabel, receivedBefore, deliveryList } from './repository'
import { checkLotSize, CoreError } from '@nemawashi/core'
import { endpoints, type DeliveryLineInput } from '@nemawashi/contract'
import { PartEntity, PartnerEntity, PlaceEntity } from '../define/entities'
import type { Kernel } from '../kernel/kernel'
import type { Routes } from '../kernel/routes'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { requireReference } from '../kernel/versioned'
import { gateReasons, inspectionsOfLot, loadDelivery } from './deliveries'
import { namedBalances } from '../stock/repository'
import { cancelDispatch, loadDispatch, pickDispatch, sendDispatch, takeBack } from './dispatches'
import { dispatchFilters, dispatchList, pickableList } from './dispatchRepository'
import { confirmStep, finishOrder, issueComponent, planOrder, releaseOrder, startStep } from './orderActs'
import { stockFilters, stockList } from './stockRepository'
import { orderFilters, orderList } from './orderRepository'
import { loadOrder } from './orders'
import { noteOccasion } from './occasions'
import { ContainerEntity, LotEntity } from '../stock/entities'
import { DeliveryEntity } from './entities'
import { postMovement } from '../stock/ledger'
import { receiptOf } from './receipt'
import { openConsidered } from './openConsidered'
import { rehearse } from './rehearse'
import { tryFrequency } from './tryFrequency'
import { placeFor } from '../stock/placeFor'

const { attach, run } = endpoints

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
  const labels = line.containers.flatMap(({ label }) => (label === null ? [] : [label]))
  if (new Set(labels).size < labels.length)
    throw new ServerError('already_exists', `Line ${index + 1}: two containers have the same label.`, { field: `lines.${index}.containers` })
}

/** A label says which container it is, wherever in the plant it is read. */
async function requireFreeLabels(work: Work, lines: readonly DeliveryLineInput[]): Promise<void> {
  const seen = new Map<string, number>()
  for (const [index, { containers }] of lines.entries()) {
    for (const { label } of containers) {
      if (label === null) continue
      const taken = await lotWithLabel(work.manager, label)
      const other = seen.get(label)
      const where = taken !== null ? `lot ${taken} has it` : other === undefined ? null : `line ${other + 1} has it`
      if (where !== null)
        throw new ServerError('already_exists', `Line ${index + 1}: the label ${label} is on another container already: ${where}.`, {
          field: `lines.${index}.containers`,
          label,
        })
      seen.set(label, index)
    }
  }
}

/** The plant's next number for a container; one that somebody has written on a container already is passed over. */
async function freshLabel(work: Work): Promise<string> {
  for (;;) {
    const label = await work.nextCode('K')
    if (!(await work.manager.existsBy(ContainerEntity, { label }))) return label
  }
}

/** The same supplier, order and supplier's lot a second time is mostly a slip: it is asked about first. */
async function refuseSecond(
  work: Work,
  { supplierId, orderNumber, lines }: { supplierId: string; orderNumber: string; lines: readonly DeliveryLineInput[] },
): Promise<void> {
  for (const [index, { supplierLot, partId }] of lines.entries()) {
    const found = await receivedBefore(work.manager, { supplierId, orderNumber, supplierLot, partId })
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
async function bookIn(work: Work, occasionId: string, supplierId: string, line: DeliveryLineInput): Promise<void> {
  const part = await work.manager.findOneByOrFail(PartEntity, { id: line.partId })
  const asked = await receiptOf(work.manager, { part, supplierId, quantity: line.quantity, at: work.now }, work.newId)
  const gates = asked.flatMap(({ considered: { point, due } }) => (point.isGate && due?.isDue ? [point] : []))
  const named = gates.find((gate) => gate.holdPlaceId !== null)?.holdPlaceId
  const placeId = named ?? (await placeFor(work.manager, gates.length > 0 ? 'inspection' : 'dock')).id
  const lot = {
    id: work.newId(),
    code: await work.nextCode('L'),
    partId: part.id,
    originId: occasionId,
    supplierId,
    supplierLot: line.supplierLot,
    quantity: line.quantity,
    createdAt: work.now,
  }
  await work.manager.insert(LotEntity, { ...lot })
  work.audit({ action: 'received', subject: 'lot', subjectId: lot.id, after: lot })
  const to = { placeId, standing: gates.length > 0 ? ('onHold' as const) : ('released' as const) }
  if (line.containers.length === 0)
    await postMovement(work, lot.id, { containerId: null, quantity: line.quantity, from: null, to }, 'received', { occasionId })
  for (const { label, quantity } of line.containers) {
    const containerId = work.newId()
    await work.manager.insert(ContainerEntity, { id: containerId, lotId: lot.id, label: label ?? (await freshLabel(work)), quantity })
    await postMovement(work, lot.id, { containerId, quantity, from: null, to }, 'received', { occasionId })
  }
  for (const { coming, considered } of asked) await openConsidered(work, coming, considered, { lotId: lot.id, holdPlaceId: placeId, occasionId })
}

function orderRoutes(routes: Routes): void {
  routes.list(run.listOrders, orderList, orderFilters)
  routes.read(run.getOrder, (reader, { params }) => loadOrder(reader, params.id))
  routes.change(run.createOrder, (work, { body }) => planOrder(work, body))
  routes.change(run.releaseOrder, (work, { params, body }) => releaseOrder(work, params.id, body.version))
  routes.change(run.issueComponent, (work, { params, body }) => issueComponent(work, params.id, body))
  routes.change(run.startStep, (work, { params, body }) => startStep(work, params.id, body.version))
  routes.change(run.confirmStep, (work, { params, body }) => confirmStep(work, params.id, body.version, body))
  routes.change(run.finishOrder, (work, { params, body }) => finishOrder(work, params.id, body.version))
}

function dispatchRoutes(routes: Routes): void {
  routes.list(run.listStock, stockList, stockFilters)
  routes.list(run.listPickable, pickableList)
  routes.list(run.listDispatches, dispatchList, dispatchFilters)
  routes.read(run.getDispatch, (reader, { params }) => loadDispatch(reader, params.id))
  routes.change(run.pickDispatch, (work, { body }) => pickDispatch(work, body))
  routes.change(run.sendDispatch, (work, { params, body }) => sendDispatch(work, params.id, body.version))
  routes.change(run.cancelDispatch, (work, { params, body }) => cancelDispatch(work, params.id, body.version))
  routes.change(run.takeBack, (work, { params, body }) => takeBack(work, params.id, body))
}

export function runRoutes(routes: Routes, { clock }: Pick<Kernel, 'clock'>): void {
  orderRoutes(routes)
  dispatchRoutes(routes)
  routes.list(run.listDeliveries, deliveryList)
  routes.read(run.getDelivery, (reader, { params }) => loadDelivery(reader, params.id))

  routes.read(attach.rehearse, (reader, { query }) => rehearse(reader, query, clock.now()))
  routes.read(attach.tryFrequency, (reader, { body }) => tryFrequency(reader, body, clock.now()))

  routes.change(run.receiveDelivery, async (work, { body }) => {
    await requireReference(work, PartnerEntity, 'supplier', body.supplierId, 'supplierId')
    if (!body.isAnother) await refuseSecond(work, body)
    for (const [index, line] of body.lines.entries()) {
      checkLine(line, index)
      await requireReference(work, PartEntity, 'part', line.partId, `lines.${index}.partId`)
    }
    await requireFreeLabels(work, body.lines)
    const id = await noteOccasion(work, 'delivery', 'arrival', { partnerId: body.supplierId, orderNumber: body.orderNumber })
    await work.manager.insert(DeliveryEntity, { id, code: await work.nextCode('D') })
    work.audit({ action: 'received', subject: 'delivery', subjectId: id, after: body })
    for (const line of body.lines) await bookIn(work, id, body.supplierId, line)
    return loadDelivery(work.manager, id)
  })

  routes.change(run.putAway, async (work, { params, body }) => {
    const lot = await work.manager.findOneBy(LotEntity, { id: params.id })
    if (!lot) throw new ServerError('not_found', `There is no lot with the id ${params.id}.`)
    const reasons = gateReasons(await inspectionsOfLot(work.manager, lot.id))
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
      {},
    )
    return { balances: await namedBalances(work.manager, lot.id) }
  })
}
