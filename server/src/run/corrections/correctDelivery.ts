import { unitOfLot } from '../../stock/ledger/repository'
import { checkQuantity } from '@nemawashi/core'
import type { Work } from '../../kernel/work/unitOfWork'
import { holdLot } from '../../stock/holds/holds'
import { postMovement } from '../../stock/ledger/ledger'
import { placeFor } from '../../stock/putAway/placeFor'
import { replaySeverity } from '../../opening/severity'
import { moveHistory, standingOn } from './repository'
import { loadDelivery } from '../receiving/deliveries'
import { openTogether } from '../../opening/openTogether'
import { asWritten } from '../purchasing/purchaseOrders'
import { type CorrectionCase, loadCorrectionCase, valuesOf, sumOf } from './correctionCase'
import { questionsOf, sampleAnew } from './correctionEffects'
import { movementsTo } from './correctionMoves'
import type { Correction, Delivery } from '@nemawashi/contract'
import { updateLot, updateOccasion } from '../../stock/writes'
import { insertDeliveryCorrection } from '../receiving/writes'

/** The right supplier: on the occasion, its lots and the histories, and what that supplier's goods are asked for opens in addition. */
async function correctSupplier(work: Work, { occasion, lots }: CorrectionCase, supplierId: string): Promise<void> {
  await updateOccasion(work, occasion.id, { partnerId: supplierId })
  const questions = new Map<string, Awaited<ReturnType<typeof questionsOf>>['opens']>()
  for (const lot of lots) questions.set(lot.id, (await questionsOf(work.manager, lot, supplierId, work)).opens)
  for (const lot of lots) await updateLot(work, lot.id, { supplierId })
  const ids = lots.map(({ id }) => id)
  await moveHistory(work.manager, ids, occasion.id, supplierId)
  for (const lotId of ids) for (const { id } of await standingOn(work.manager, lotId)) await replaySeverity(work, id, [occasion.partnerId])
  const bay = await placeFor(work.manager, 'inspection')
  for (const lot of lots) {
    const opening = { lotIds: [lot.id], occasionId: occasion.id }
    const entries = (questions.get(lot.id) ?? []).map((entry) => ({
      ...entry,
      opening: { ...opening, containerId: entry.unit?.containerId ?? null, holdPlaceId: entry.considered.point.holdPlaceId ?? bay.id },
    }))
    // What is asked of each unit is asked of other pieces than what is asked of the lot.
    for (const move of new Set(entries.map(({ unit }) => unit)))
      await openTogether(
        work,
        entries.filter(({ unit }) => unit === move),
        holdLot,
      )
  }
}

/**
 * Puts right what was entered wrongly. What was entered first is kept: in the corrections of the delivery, in the ledger and in the chain.
 * @throws {ServerError} as `effectsOf`, and `movement_exceeds_balance`, `correction_too_late`; {CoreError} `quantity_invalid`.
 */
export async function correctDelivery(work: Work, deliveryId: string, correction: Correction, reason: string): Promise<Delivery> {
  const found = await loadCorrectionCase(work.manager, deliveryId, correction)
  const values = await valuesOf(work.manager, found, correction)
  const lotId = 'lotId' in correction ? correction.lotId : null
  if (correction.field === 'quantity' && correction.quantity > 0) checkQuantity(correction.quantity, await unitOfLot(work.manager, correction.lotId))
  const [lot] = found.lots
  const movements = correction.field === 'quantity' && lot ? await movementsTo(work.manager, lot, correction) : []
  const arrived = sumOf(movements.filter(({ from }) => from === null))
  const row = { id: work.newId(), deliveryId, lotId, field: correction.field, ...values, arrived: arrived > 0 ? arrived : null, reason }
  await insertDeliveryCorrection(work, { ...row, at: work.now, personId: work.personId ?? '' })
  work.audit({
    action: 'corrected',
    subject: 'delivery',
    subjectId: deliveryId,
    before: { [correction.field]: values.before },
    after: { [correction.field]: values.after, lotId },
    why: reason,
  })
  if (lotId !== null) for (const movement of movements) await postMovement(work, lotId, movement, 'corrected', { occasionId: deliveryId })
  if (correction.field === 'quantity' && lot) await sampleAnew(work, lot, correction)
  if (correction.field === 'supplierLot') await updateLot(work, correction.lotId, { supplierLot: correction.supplierLot })
  if (correction.field === 'orderNumber')
    await updateOccasion(work, deliveryId, { orderNumber: await asWritten(work.manager, found.occasion.partnerId ?? '', correction.orderNumber) })
  if (correction.field === 'supplier') await correctSupplier(work, found, correction.supplierId)
  return loadDelivery(work.manager, deliveryId)
}
