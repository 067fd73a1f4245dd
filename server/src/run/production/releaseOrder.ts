import { serialsFor } from '@nemawashi/core'
import type { ProductionOrder } from '@nemawashi/contract'
import type { Work } from '../../kernel/work/unitOfWork'
import { saveNext } from '../../kernel/work/versioned'
import type { LotRow } from '../../stock/ledger/entities'
import { ProductionOrderEntity } from './entities'
import { noteOccasion } from '../../opening/occasions'
import { atAct, orderWords } from './orderAt'
import { loadOrder } from './orders'
import { checkSerials, labelOfSerial } from '../receiving/serials'
import { insertContainer, insertLot } from '../../stock/writes'

/**
 * Releases an order: the lot that its pieces will be is there before the first check, and so are their serial numbers.
 * @throws {ServerError} `serials_missing`, `already_exists`.
 */
export async function releaseOrder(work: Work, id: string, version: number, given: readonly string[] | null = null): Promise<ProductionOrder> {
  const { row, part } = await atAct(work, id, version, 'release')
  const originId = await noteOccasion(work, 'orderReleased', 'start', { partnerId: row.customerId, orderNumber: row.orderNumber })
  const lot: LotRow = {
    id: work.newId(),
    code: await work.nextCode('L'),
    partId: part.id,
    originId,
    supplierId: null,
    supplierLot: '',
    quantity: row.quantity,
    createdAt: work.now,
  }
  const serials = given ?? (part.tracking === 'serial' ? serialsFor(lot.code, row.quantity) : [])
  await checkSerials(work, part, { serials, quantity: row.quantity, field: 'serials', words: row.code })
  await insertLot(work, lot)
  for (const serial of serials)
    await insertContainer(work, { id: work.newId(), lotId: lot.id, label: labelOfSerial(part, serial), serial, quantity: 1 })
  work.audit({ action: 'given', subject: 'lot', subjectId: lot.id, after: serials.length > 0 ? { ...lot, serials } : lot })
  await saveNext(work, ProductionOrderEntity, orderWords, 'released', row, { state: 'released', lotId: lot.id, releasedAt: work.now })
  return loadOrder(work.manager, id)
}
