import { lotWithLabel, receivedBefore } from './repository'
import { checkLotSize, CoreError } from '@nemawashi/core'
import type { Delivery, DeliveryLineInput, endpoints } from '@nemawashi/contract'
import type { z } from 'zod'
import { PartEntity, PartnerEntity, type PartRow } from '../define/entities'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { requireReference } from '../kernel/versioned'
import { pointsOnce, type Asked } from '../record/consider'
import type { Unit } from '../stock/units'
import { ContainerEntity, LotEntity } from '../stock/entities'
import { openHold } from '../stock/holds'
import { postMovement } from '../stock/ledger'
import { placeFor } from '../stock/placeFor'
import { loadDelivery } from './deliveries'
import { DeliveryEntity } from './entities'
import { receiveExpected, type Foreseen } from './expected'
import { noteOccasion } from './occasions'
import { openTogether, type ToOpen } from './openTogether'
import { fromSupplier, loadOf, receiptOf, whereTo, type FromSupplier } from './receipt'
import { checkSerials, labelOfSerial } from './serials'

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
async function freshLabel(work: Work, beside: readonly (string | null)[]): Promise<string> {
  for (;;) {
    const label = await work.nextCode('K')
    if (!beside.includes(label) && !(await work.manager.existsBy(ContainerEntity, { label }))) return label
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

/** What a line is told apart by: its containers, and pieces with serial numbers as units of one. */
async function unitsOf(
  work: Work,
  { containers, serials }: DeliveryLineInput,
  part: PartRow,
): Promise<(Unit & { label: string; serial: string | null })[]> {
  const units = []
  const beside = containers.map(({ label }) => label)
  for (const { label, quantity } of containers)
    units.push({ containerId: work.newId(), kind: 'container' as const, quantity, label: label ?? (await freshLabel(work, beside)), serial: null })
  for (const serial of serials)
    units.push({ containerId: work.newId(), kind: 'serial' as const, quantity: 1, label: labelOfSerial(part, serial), serial })
  return units
}

/** What the lines of a delivery have in common. */
interface Coming {
  readonly occasionId: string
  readonly from: FromSupplier
  readonly load: readonly Asked[]
  readonly foreseen: Foreseen | null
}

/** Books one line of a delivery in: lot, containers, inspections, and the arrival in the ledger, on hold where a gate asks for it. Gives the lot's id. */
async function bookIn(work: Work, { occasionId, from, load, foreseen }: Coming, line: DeliveryLineInput, part: PartRow): Promise<string> {
  const units = await unitsOf(work, line, part)
  const groups = await receiptOf(work.manager, { ...from, part, quantity: line.quantity }, units, work.newId, pointsOnce(work))
  const { supplierId } = from
  const holding = foreseen?.holding ?? []
  const asked = groups.flat()
  const placeOf = (unit: Unit | null) => {
    const reaching = asked.filter((of) => of.unit === null || of.unit === unit)
    return whereTo(work.manager, [...reaching, ...load], { part, supplierId }, holding)
  }
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
  const toLot = await placeOf(null)
  const places = new Map<Unit | null, typeof toLot>([[null, toLot]])
  if (units.length === 0)
    await postMovement(work, lot.id, { containerId: null, quantity: line.quantity, from: null, to: toLot }, 'received', { occasionId })
  const isAskedApart = asked.some(({ unit }) => unit !== null)
  for (const unit of units) {
    const { containerId, label, serial, quantity } = unit
    await work.manager.insert(ContainerEntity, { id: containerId, lotId: lot.id, label, serial, quantity })
    const to = isAskedApart ? await placeOf(unit) : toLot
    places.set(unit, to)
    await postMovement(work, lot.id, { containerId, quantity, from: null, to }, 'received', { occasionId })
  }
  for (const group of groups) {
    const entries: ToOpen[] = []
    for (const { coming, considered, unit } of group) {
      const { holdPlaceId: named, isGate } = considered.point
      const to = places.get(unit) ?? toLot
      // What is held of it only goes where the check is done.
      const apart = to.standing === 'onHold' || !isGate ? to.placeId : (named ?? (await placeFor(work.manager, 'inspection')).id)
      entries.push({ coming, considered, opening: { lotIds: [lot.id], containerId: unit?.containerId ?? null, holdPlaceId: apart, occasionId } })
    }
    await openTogether(work, entries)
  }
  for (const inspection of holding) await openHold(work, lot.id, inspection)
  return lot.id
}

async function partOf(work: Work, { partId }: DeliveryLineInput, index: number): Promise<PartRow> {
  const part = await work.manager.findOneBy(PartEntity, { id: partId })
  if (part) return part
  throw new ServerError('reference_unknown', `The part ${partId} does not exist.`, { field: `lines.${index}.partId`, received: partId })
}

type DeliveryInput = z.output<(typeof endpoints.run.receiveDelivery)['body']>

/**
 * Enters a delivery: its lots, what its receiving operations ask of each, and what they ask of the load as one.
 * @throws {ServerError} `reference_unknown`, `already_received`, `already_exists` (labels), `containers_do_not_add_up`, `not_expected`,
 *   `gate_closed` (its load, before the receipt); {CoreError} `quantity_invalid`.
 */
export async function bookDelivery(work: Work, { load: facts, expectedId, ...body }: DeliveryInput): Promise<{ id: string; code: string }> {
  const { supplierId, orderNumber, lines } = body
  await requireReference(work, PartnerEntity, 'supplier', supplierId, 'supplierId')
  if (!body.isAnother) await refuseSecond(work, body)
  const parts: PartRow[] = []
  for (const [index, line] of lines.entries()) {
    checkLine(line, index)
    const part = await partOf(work, line, index)
    await checkSerials(work, part, { ...line, field: `lines.${index}.serials`, words: `Line ${index + 1}` })
    parts.push(part)
  }
  await requireFreeLabels(work, lines)
  const foreseen = expectedId === null ? null : await receiveExpected(work, expectedId, supplierId)
  const occasionId = await noteOccasion(work, 'delivery', 'arrival', { partnerId: supplierId, orderNumber }, foreseen?.id)
  const code = foreseen?.code ?? (await work.nextCode('D'))
  await work.manager.insert(DeliveryEntity, { id: occasionId, code, ...facts })
  work.audit({ action: 'received', subject: 'delivery', subjectId: occasionId, after: { ...body, load: facts } })
  const booked = lines.map((line, i) => ({ line, part: parts[i] as PartRow }))
  const from = await fromSupplier(work.manager, { supplierId, orderNumber, at: work.now })
  const arriving = booked.map(({ line: { quantity }, part }) => ({ ...from, part, quantity }))
  const load = await loadOf(work.manager, arriving, work.newId)
  const lotIds: string[] = []
  for (const { line, part } of booked) lotIds.push(await bookIn(work, { occasionId, from, load, foreseen }, line, part))
  const ofLoad: ToOpen[] = []
  for (const asked of load)
    ofLoad.push({ ...asked, opening: { lotIds, holdPlaceId: (await whereTo(work.manager, [asked], null)).placeId, occasionId } })
  await openTogether(work, ofLoad)
  await work.happened('delivered', { deliveryId: occasionId })
  return { id: occasionId, code }
}

/** The same, with how it stands then. */
export async function receiveDelivery(work: Work, body: DeliveryInput): Promise<Delivery> {
  return loadDelivery(work.manager, (await bookDelivery(work, body)).id)
}
