import type { Work } from '../../kernel/work/unitOfWork'
import { DeliveryCorrectionEntity, type DeliveryCorrectionRow } from './entities'

/** That something of a delivery was entered wrongly: what it was, and what it is. Only added to. */
export async function insertDeliveryCorrection(work: Work, row: DeliveryCorrectionRow): Promise<void> {
  await work.manager.insert(DeliveryCorrectionEntity, row)
}
