import { inspectionTransitions } from '@nemawashi/core'
import type { Work } from '../kernel/work/unitOfWork'
import { cancelHolds } from '../stock/holds/holds'
import type { InspectionRow } from '../inspections/entities'
import { lotsLookedAt } from '../inspections/repository'
import { replaySeverity } from './severity'
import { saveInspection } from '../inspections/writes'

/** Calls an inspection off, with the reason; what only it holds is free where it stands. */
export async function cancelInspection(work: Work, current: InspectionRow, reason: string): Promise<void> {
  await saveInspection(
    work,
    'cancelled',
    current,
    { state: inspectionTransitions.cancel.to, cancelledAt: work.now, cancelledById: work.personId, cancelReason: reason },
    reason,
  )
  for (const lotId of await lotsLookedAt(work.manager, current)) await cancelHolds(work, lotId, current.id)
  if (current.finishedAt !== null) await replaySeverity(work, current.id)
}
