import type { Delivery, endpoints } from '@nemawashi/contract'
import type { z } from 'zod'
import { hasDocument } from '../../documents/repository'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadDelivery } from './deliveries'
import { DeliveryEntity } from './entities'
import { DeliveryPaperEntity, type DeliveryPaperRow } from './paperEntities'
import { lotRows } from '../../stock/ledger/rows'

type Paper = z.output<(typeof endpoints.run.addPaper)['body']>

/** Puts a document to a delivery, or to one of its lots. @throws {ServerError} `not_found`, `reference_unknown`. */
export async function addPaper(work: Work, deliveryId: string, { documentId, kind, lotId }: Paper): Promise<Delivery> {
  if (!(await work.manager.existsBy(DeliveryEntity, { id: deliveryId })))
    throw new ServerError('not_found', `There is no delivery with the id ${deliveryId}.`)
  if (!(await hasDocument(work.manager, documentId)))
    throw new ServerError('reference_unknown', 'The document is not kept here. Choose its file again.', { field: 'documentId', received: documentId })
  if (lotId !== null && !(await lotRows.exists(work.manager, { id: lotId, originId: deliveryId })))
    throw new ServerError('reference_unknown', 'The lot did not come with this delivery.', { field: 'lotId', received: lotId })
  const row: DeliveryPaperRow = { id: work.newId(), deliveryId, lotId, documentId, kind, at: work.now, personId: work.personId ?? '' }
  await work.manager.insert(DeliveryPaperEntity, { ...row })
  work.audit({ action: 'paper added', subject: 'delivery', subjectId: deliveryId, after: { documentId, kind, lotId } })
  return loadDelivery(work.manager, deliveryId)
}
