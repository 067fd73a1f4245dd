import type { Moment } from '@nemawashi/core'
import type { PartRow } from '../../define/masters/entities'
import type { Work } from '../../kernel/work/unitOfWork'
import { isSettled } from '@nemawashi/core'
import { cancelInspection } from '../../opening/cancel'
import { openTogether } from '../../opening/openTogether'
import { loadOf, loadReceivingRoute } from '../receiving/receipt'
import { inspectionRows } from '../../inspections/rows'

export interface Leaving {
  readonly part: PartRow
  readonly quantity: number
}

/**
 * Opens what is asked of a dispatch as one: of the order before it is picked, of vehicle, seal and packing before it leaves. It holds no pieces,
 * but keeps the dispatch back until it is found acceptable.
 */
export async function askOfDispatch(
  work: Work,
  { id, customerId, orderNumber }: { id: string; customerId: string; orderNumber: string },
  moment: Extract<Moment, 'beforePicking' | 'beforeDispatch'>,
  leaving: readonly Leaving[],
): Promise<void> {
  const parts = leaving.map(({ part }) => part)
  const lines = leaving.map((line) => ({ ...line, supplierId: null, customerId, orderNumber, at: work.now }))
  const load = await loadOf(await loadReceivingRoute(work.manager, parts, 'shipping'), lines, work.newId, moment)
  await openTogether(
    work,
    load.map((entry) => ({ ...entry, opening: { lotIds: [], loadId: id, holdPlaceId: null, occasionId: id } })),
  )
}

/** Calls off what is open of a dispatch as one. */
export async function cancelDispatchChecks(work: Work, dispatchId: string, reason: string): Promise<void> {
  for (const inspection of await inspectionRows.list(work.manager, { subjectId: dispatchId, subjectKind: 'load' }))
    if (!isSettled(inspection.state)) await cancelInspection(work, inspection, reason)
}
