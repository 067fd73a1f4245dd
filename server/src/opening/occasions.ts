import type { Moment, OccasionKind } from '@nemawashi/core'
import type { Work } from '../kernel/work/unitOfWork'
import type { OccasionRow } from '../stock/ledger/entities'
import { insertOccasion } from '../stock/writes'

/**
 * Notes that something happened; what is not said about it is not known. Gives its id.
 * @param known its id, where it was told of before it happened
 */
export async function noteOccasion(
  work: Work,
  kind: OccasionKind,
  moment: Moment | 'paused' | 'resumed',
  fields: Partial<Pick<OccasionRow, 'operationId' | 'partnerId' | 'orderNumber' | 'placeId' | 'fromPlaceId' | 'personId'>>,
  known?: string,
): Promise<string> {
  const row: OccasionRow = {
    id: known ?? work.newId(),
    kind,
    moment,
    operationId: null,
    partnerId: null,
    orderNumber: '',
    placeId: null,
    fromPlaceId: null,
    at: work.now,
    personId: work.personId ?? '',
    ...fields,
  }
  await insertOccasion(work, row)
  return row.id
}
