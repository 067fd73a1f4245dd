import type { ControlPointRow } from '../attach/entities'
import type { Work } from '../kernel/unitOfWork'
import { noteConsidered, type Coming, type ConsideredPoint } from '../record/consider'
import { openInspection, type OpenedInspection } from '../record/openInspection'
import { holdSample, openHold } from '../stock/holds'
import type { HoldCause } from '../stock/repository'

/** Where an inspection opens, and what it looks at. */
export interface Opening {
  readonly lotIds: readonly string[]
  readonly holdPlaceId: string | null
  readonly occasionId: string | null
}
type Hold = (work: Work, lotId: string, cause: HoldCause) => Promise<unknown>

/** Puts on hold what a gate asks for: no more than the sample, or every lot whole. */
async function holdFor(
  work: Work,
  point: ControlPointRow,
  inspection: OpenedInspection,
  { lotIds, holdPlaceId }: Opening,
  hold: Hold,
): Promise<void> {
  for (const lotId of lotIds)
    if (point.holds === 'sample' && holdPlaceId !== null) await holdSample(work, lotId, inspection, inspection.sampleMost, holdPlaceId)
    else await hold(work, lotId, inspection)
}

/**
 * Opens what a control point asks for, with the hold of a gate: noted where the pieces come on hold, or put on those that are there;
 * or notes that the arrival passes by. Gives the inspection; null where none opens.
 */
export async function openConsidered(
  work: Work,
  coming: Coming,
  considered: ConsideredPoint,
  opening: Opening,
  hold: Hold = openHold,
): Promise<OpenedInspection | null> {
  const { point, due } = considered
  const { holdPlaceId, occasionId } = opening
  const isLoad = coming.subject === 'load'
  const lotId = isLoad ? null : (opening.lotIds[0] ?? null)
  const history = isLoad
    ? null
    : { planId: point.planId, operationId: coming.operationId, partId: coming.part.id, partnerId: coming.supplierId ?? coming.customerId }
  // A load is one thing, whatever is on it.
  const lotSize = isLoad ? 1 : coming.quantity
  const inspection = due?.isDue === true ? await openInspection(work, point, { lotId, lotSize, holdPlaceId, occasionId, history }) : null
  if (inspection && point.isGate) await holdFor(work, point, inspection, opening, hold)
  await noteConsidered(work, coming, considered, { occasionId, lotId, inspectionId: inspection?.id ?? null })
  return inspection
}
