import type { DeliveryLineInput } from '@nemawashi/contract'
import type { PartRow } from '../../define/masters/entities'
import type { Work } from '../../kernel/work/unitOfWork'
import type { PointToOpen } from '../../opening/evaluatePoints'
import { openHold } from '../../stock/holds/holds'
import { postMovement } from '../../stock/ledger/ledger'
import { placeFor } from '../../stock/putAway/placeFor'
import type { Unit } from '../../stock/units/units'
import type { ReceivedExpected } from './receiveExpected'
import { openTogether, type ToOpen } from '../../opening/openTogether'
import { receiptOf, findPutAwayDestination, type FromSupplier, type ReceivingRoute } from './receipt'
import { labelOfSerial } from './serials'
import { containerRows } from '../../stock/ledger/rows'
import { insertContainer, insertLot } from '../../stock/writes'

/** The plant's next number for a container; one that somebody has written on a container already is passed over. */
async function freshLabel(work: Work, named: ReadonlySet<string>): Promise<string> {
  for (;;) {
    const label = await work.nextCode('K')
    if (!named.has(label) && !(await containerRows.exists(work.manager, { label }))) return label
  }
}

/** What a line is told apart by: its containers, and pieces with serial numbers as units of one. */
async function unitsToBook(
  work: Work,
  { containers, serials }: DeliveryLineInput,
  part: PartRow,
  named: ReadonlySet<string>,
): Promise<(Unit & { label: string; serial: string | null })[]> {
  const units = []
  for (const { label, quantity } of containers)
    units.push({ containerId: work.newId(), kind: 'container' as const, quantity, label: label ?? (await freshLabel(work, named)), serial: null })
  for (const serial of serials)
    units.push({ containerId: work.newId(), kind: 'serial' as const, quantity: 1, label: labelOfSerial(part, serial), serial })
  return units
}

/** What the lines of a delivery have in common. */
export interface OfDelivery {
  readonly occasionId: string
  readonly from: FromSupplier
  readonly way: ReceivingRoute
  readonly load: readonly PointToOpen[]
  readonly expected: ReceivedExpected | null
  /** Labels that the delivery names for its containers, which the plant gives to no other one. */
  readonly named: ReadonlySet<string>
}

/** Books one line of a delivery in: lot, containers, inspections, and the arrival in the ledger, on hold where a gate asks for it. Gives the lot's id. */
export async function bookLine(
  work: Work,
  { occasionId, from, way, load, expected, named }: OfDelivery,
  line: DeliveryLineInput,
  part: PartRow,
): Promise<string> {
  const units = await unitsToBook(work, line, part, named)
  const groups = await receiptOf(way, { ...from, part, quantity: line.quantity }, units, work.newId)
  const { supplierId } = from
  const holding = expected?.holding ?? []
  const points = groups.flat()
  const placeOf = (unit: Unit | null) => {
    const reaching = points.filter((due) => due.unit === null || due.unit === unit)
    return findPutAwayDestination(work.manager, [...reaching, ...load], { part, supplierId }, holding)
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
  await insertLot(work, lot)
  work.audit({ action: 'received', subject: 'lot', subjectId: lot.id, after: lot })
  const toLot = await placeOf(null)
  const places = new Map<Unit | null, typeof toLot>([[null, toLot]])
  if (units.length === 0)
    await postMovement(work, lot.id, { containerId: null, quantity: line.quantity, from: null, to: toLot }, 'received', { occasionId })
  const isAskedApart = points.some(({ unit }) => unit !== null)
  for (const unit of units) {
    const { containerId, label, serial, quantity } = unit
    await insertContainer(work, { id: containerId, lotId: lot.id, label, serial, quantity })
    const to = isAskedApart ? await placeOf(unit) : toLot
    places.set(unit, to)
    await postMovement(work, lot.id, { containerId, quantity, from: null, to }, 'received', { occasionId })
  }
  for (const group of groups) {
    const entries: ToOpen[] = []
    for (const { arrival, considered, unit } of group) {
      const { holdPlaceId: bay, isGate } = considered.point
      const to = places.get(unit) ?? toLot
      // What is held of it only goes where the check is done.
      const apart = to.standing === 'onHold' || !isGate ? to.placeId : (bay ?? (await placeFor(work.manager, 'inspection')).id)
      entries.push({ arrival, considered, opening: { lotIds: [lot.id], containerId: unit?.containerId ?? null, holdPlaceId: apart, occasionId } })
    }
    await openTogether(work, entries)
  }
  for (const inspection of holding) await openHold(work, lot.id, inspection)
  return lot.id
}
