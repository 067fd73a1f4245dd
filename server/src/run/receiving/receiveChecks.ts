import { quantityText, quantityWords } from '@nemawashi/core'
import type { DeliveryLineInput } from '@nemawashi/contract'
import { In } from 'typeorm'
import type { PartRow } from '../../define/masters/entities'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { expectedLines } from './expectedRepository'
import { checkLineQuantity } from '../purchasing/purchaseOrders'
import { orderOf } from '../purchasing/repository'
import { lotWithLabel, receivedBefore } from './repository'
import { checkSerials } from './serials'
import { partRows } from '../../define/masters/rows'

function checkLine(line: DeliveryLineInput, index: number, unit: string): void {
  for (const { quantity } of [line, ...line.containers]) checkLineQuantity(quantity, index, unit)
  if (line.containers.length === 0) return
  const together = line.containers.reduce((sum, container) => sum + container.quantity, 0)
  if (together !== line.quantity) {
    throw new ServerError(
      'containers_do_not_add_up',
      `Line ${index + 1}: the containers hold ${quantityText(together, unit)}, the delivery note says ${quantityWords(line.quantity, unit)}.`,
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

/** The same supplier, order and supplier's lot a second time is mostly a slip: it is asked about first. */
export async function refuseSecond(
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

/** Goods on an order that is closed, or other goods than were announced, are mostly a slip: it is asked about first. @throws {ServerError} `not_as_ordered`. */
export async function refuseUnusual(
  work: Work,
  {
    supplierId,
    orderNumber,
    expectedId,
    lines,
  }: { supplierId: string; orderNumber: string; expectedId: string | null; lines: readonly DeliveryLineInput[] },
): Promise<void> {
  const order = await orderOf(work.manager, supplierId, orderNumber)
  if (order?.isClosed)
    throw new ServerError('not_as_ordered', `The purchase order ${order.orderNumber} is closed: nothing more is waited for on it.`, {
      field: 'orderNumber',
      received: orderNumber,
    })
  if (expectedId === null) return
  const announced = new Set((await expectedLines(work.manager, expectedId)).map(({ partId }) => partId))
  const index = lines.findIndex(({ partId }) => !announced.has(partId))
  if (announced.size === 0 || index < 0) return
  const part = await partRows.find(work.manager, { id: lines[index]?.partId ?? '' })
  throw new ServerError('not_as_ordered', `Line ${index + 1}: ${part?.code ?? 'that part'} was not announced with this delivery.`, {
    field: `lines.${index}.partId`,
    received: part?.code ?? '',
  })
}

/**
 * Checks the lines of a delivery before any of it is booked in, and gives their parts.
 * @throws {ServerError} `reference_unknown`, `containers_do_not_add_up`, `serials_missing`, `already_exists`; {CoreError} `quantity_invalid`.
 */
export async function checkedParts(work: Work, lines: readonly DeliveryLineInput[]): Promise<PartRow[]> {
  const named = await partRows.list(work.manager, { id: In([...new Set(lines.map(({ partId }) => partId))]) })
  const known = new Map(named.map((part) => [part.id, part]))
  const parts: PartRow[] = []
  const serials = new Map<string, string>()
  for (const [index, line] of lines.entries()) {
    const part = known.get(line.partId)
    if (!part)
      throw new ServerError('reference_unknown', `The part ${line.partId} does not exist.`, { field: `lines.${index}.partId`, received: line.partId })
    checkLine(line, index, part.unit)
    await checkSerials(work, part, { ...line, field: `lines.${index}.serials`, words: `Line ${index + 1}` }, serials)
    parts.push(part)
  }
  await requireFreeLabels(work, lines)
  return parts
}
