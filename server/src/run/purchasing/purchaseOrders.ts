import { checkQuantity, CoreError, fillLines } from '@nemawashi/core'
import type { PurchaseOrder, PurchaseOrderInput } from '@nemawashi/contract'
import { requirePartner } from '../../define/masters/partners'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, loadReference, saveNext } from '../../kernel/work/versioned'
import { PurchaseLineEntity, PurchaseOrderEntity, type PurchaseOrderRow } from './entities'
import { arrivedOn, deliveriesOn, orderOf, purchaseHead, purchaseLines } from './repository'
import { partRows } from '../../define/masters/rows'

const words = 'purchase order'

export async function loadPurchaseOrder(reader: Reader, id: string): Promise<PurchaseOrder> {
  const head = await purchaseHead(reader, id)
  if (!head) throw new ServerError('not_found', `There is no purchase order with the id ${id}.`)
  const lines = await purchaseLines(reader, id)
  const fills = fillLines(lines, await arrivedOn(reader, head))
  return {
    ...head,
    isClosed: Boolean(head.isClosed),
    lines: lines.map((line, i) => ({ ...line, received: fills[i]?.received ?? 0, open: fills[i]?.open ?? 0 })),
    deliveries: await deliveriesOn(reader, head),
  }
}

/** @throws {CoreError} `quantity_invalid`, with the line. */
export function checkLineQuantity(quantity: number, i: number, unit: string): void {
  try {
    checkQuantity(quantity, unit)
  } catch (error) {
    if (!(error instanceof CoreError)) throw error
    throw new CoreError('quantity_invalid', `Line ${i + 1}: ${error.message}`, { ...error.facts, field: `lines.${i}.quantity` })
  }
}

/** Enters what was ordered. @throws {ServerError} `already_exists`, `reference_unknown`; {CoreError} `quantity_invalid`. */
export async function createPurchaseOrder(work: Work, { lines, ...body }: PurchaseOrderInput): Promise<PurchaseOrder> {
  await requirePartner(work, 'supplier', body.supplierId, 'supplierId')
  const { supplierId, orderNumber } = body
  if ((await orderOf(work.manager, supplierId, orderNumber)) !== null)
    throw new ServerError('already_exists', `The order ${orderNumber} is there already for this supplier.`, {
      field: 'orderNumber',
      received: orderNumber,
    })
  for (const [i, { partId, quantity }] of lines.entries()) {
    const { unit } = await loadReference(work, partRows, 'part', partId, `lines.${i}.partId`)
    checkLineQuantity(quantity, i, unit)
  }
  const row: PurchaseOrderRow = { ...body, id: work.newId(), isClosed: false, enteredAt: work.now, personId: work.personId ?? '', version: 1 }
  await work.manager.insert(PurchaseOrderEntity, { ...row })
  for (const [position, line] of lines.entries())
    await work.manager.insert(PurchaseLineEntity, { id: work.newId(), orderId: row.id, position, ...line })
  work.audit({ action: 'entered', subject: words, subjectId: row.id, after: { ...row, lines } })
  return loadPurchaseOrder(work.manager, row.id)
}

/** A number of an order as it is written there, so that both are found by it. */
export async function asWritten(reader: Reader, supplierId: string, orderNumber: string): Promise<string> {
  return (await orderOf(reader, supplierId, orderNumber))?.orderNumber ?? orderNumber
}

/** Nothing more is waited for, or something is again. @throws {ServerError} `not_found`, `stale_version`. */
export async function closePurchaseOrder(work: Work, id: string, version: number, isClosed: boolean): Promise<PurchaseOrder> {
  const current = await loadAt(work, PurchaseOrderEntity, words, id, version)
  if (current.isClosed === isClosed) work.nothingChanged()
  else await saveNext(work, PurchaseOrderEntity, words, isClosed ? 'closed' : 'opened again', current, { isClosed })
  return loadPurchaseOrder(work.manager, id)
}
