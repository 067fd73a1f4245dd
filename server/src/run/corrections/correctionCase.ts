import type { BalanceRow, Correction } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import type { LotRow, OccasionRow } from '../../stock/ledger/entities'
import { namedBalances } from '../../stock/ledger/repository'
import { lotRows, occasionRows } from '../../stock/ledger/rows'
import { partnerRows } from '../../define/masters/rows'
import { deliveryRows } from '../receiving/rows'

/** What of a delivery is put right, with the lots that it concerns. */
export interface CorrectionCase {
  readonly occasion: OccasionRow
  readonly lots: readonly LotRow[]
}

export async function loadCorrectionCase(reader: Reader, deliveryId: string, correction: Correction): Promise<CorrectionCase> {
  const occasion = await occasionRows.find(reader, { id: deliveryId })
  if (!occasion || !(await deliveryRows.find(reader, { id: deliveryId })))
    throw new ServerError('not_found', `There is no delivery with the id ${deliveryId}.`)
  const all = await lotRows.list(reader, { originId: deliveryId })
  const lots = 'lotId' in correction ? all.filter(({ id }) => id === correction.lotId) : all
  if (lots.length === 0) throw new ServerError('reference_unknown', 'The delivery has no such lot.', { field: 'lotId' })
  return { occasion, lots }
}

/** Pieces that can be said never to have come: still here, and not picked for anybody. */
export const inReach = ({ standing, placePurpose }: BalanceRow) => (standing === 'onHold' || standing === 'released') && placePurpose !== 'shipping'

export const sumOf = (balances: readonly { readonly quantity: number }[]) => balances.reduce((sum, { quantity }) => sum + quantity, 0)

/** Pieces of a lot, or of one container of it, that came: all that were booked, but for those that never did. */
export async function cameOf(
  reader: Reader,
  lotId: string,
  containerId: string | null,
): Promise<{ there: BalanceRow[]; came: number; never: BalanceRow[] }> {
  const spots = (await namedBalances(reader, lotId)).filter((balance) => balance.containerId === containerId)
  const never = spots.filter(({ standing }) => standing === 'notArrived')
  return { there: spots, came: sumOf(spots) - sumOf(never), never }
}

/** What stood there before; refused where it is entered like that already. */
export async function valuesOf(
  reader: Reader,
  { occasion, lots }: CorrectionCase,
  correction: Correction,
): Promise<{ before: string; after: string }> {
  const currentValue = async () => {
    switch (correction.field) {
      case 'quantity': {
        const { came } = await cameOf(reader, correction.lotId, correction.containerId)
        return [String(came), String(correction.quantity)] as const
      }
      case 'supplierLot':
        return [lots[0]?.supplierLot ?? '', correction.supplierLot] as const
      case 'supplier': {
        const [was, is] = [
          await partnerRows.find(reader, { id: occasion.partnerId ?? '' }),
          await partnerRows.find(reader, { id: correction.supplierId }),
        ]
        if (is?.kind !== 'supplier' || !is.isActive)
          throw new ServerError('reference_unknown', `${is?.name ?? correction.supplierId} is no supplier that is in use.`, { field: 'supplierId' })
        return [was?.name ?? '', is.name] as const
      }
      case 'orderNumber':
        return [occasion.orderNumber, correction.orderNumber] as const
    }
  }
  const [was, after] = await currentValue()
  if (was === after) throw new ServerError('nothing_corrected', `It is entered as ${after} already.`, { field: correction.field, received: after })
  return { before: was, after }
}
