import { endpoints } from '@nemawashi/contract'
import type { Stage } from './stage'

const { run } = endpoints

/** Takes what is free of a delivery to where it is usually kept. */
export async function putAway(stage: Stage, deliveryId: string): Promise<void> {
  const clerk = stage.by('dario')
  const delivery = await clerk.call(run.getDelivery, { params: { id: deliveryId } })
  for (const lot of delivery.lots) {
    if (lot.gateReasons.length > 0 || lot.putAwayPlaceId === null) continue
    for (const { containerId, placeId, standing, quantity } of lot.balances) {
      if (standing !== 'released' || placeId === lot.putAwayPlaceId) continue
      await clerk.call(run.putAway, { params: { id: lot.id }, body: { containerId, fromPlaceId: placeId, quantity, toPlaceId: lot.putAwayPlaceId } })
    }
  }
}
