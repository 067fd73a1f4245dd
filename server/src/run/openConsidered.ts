import type { Work } from '../kernel/unitOfWork'
import { noteConsidered, type Coming, type ConsideredPoint } from '../record/consider'
import { openInspection } from '../record/openInspection'
import { openHold } from '../stock/holds'
import type { HoldCause } from '../stock/repository'

/**
 * Opens what a control point asks for, with the hold of a gate: noted where the pieces come on hold, or put on those that are there;
 * or notes that the arrival passes by. Gives the inspection; null where none opens.
 */
export async function openConsidered(
  work: Work,
  coming: Coming,
  considered: ConsideredPoint,
  { lotId, holdPlaceId, occasionId }: { lotId: string; holdPlaceId: string | null; occasionId: string | null },
  hold: (work: Work, lotId: string, cause: HoldCause) => Promise<unknown> = openHold,
): Promise<{ id: string; code: string } | null> {
  const { point, due } = considered
  const inspection = due?.isDue === true ? await openInspection(work, point, { lotId, lotSize: coming.quantity, holdPlaceId, occasionId }) : null
  if (inspection && point.isGate) await hold(work, lotId, inspection)
  await noteConsidered(work, coming, considered, { occasionId, lotId, inspectionId: inspection?.id ?? null })
  return inspection
}
