import { lotsLookedAt } from '../inspections/repository'
import { plansFollowing } from '../inspections/headRepository'
import { isUnitKind, usualConsequence } from '@nemawashi/core'
import type { InspectionLine, Reading } from '@nemawashi/contract'
import type { DomainEventFacts } from '../kernel/work/domainEvents'
import type { Work } from '../kernel/work/unitOfWork'
import type { InspectionRow } from '../inspections/entities'
import { openHold } from '../stock/holds/holds'
import { openInspection, loadPointSample } from './openInspection'
import { piecesLookedAt } from '../inspections/unit'
import { lotRows } from '../stock/ledger/rows'
import { controlPointRows } from '../attach/rows'

declare module '../kernel/work/domainEvents' {
  interface DomainEventFacts {
    /** An inspection was judged; `inspection` is as it was before. */
    inspectionFinished: {
      readonly inspection: InspectionRow
      readonly lines: readonly InspectionLine[]
      readonly readings: readonly Reading[]
      readonly verdict: 'acceptable' | 'notAcceptable'
    }
    /** A finding lets what it holds of a lot go without a decision, as its control point says; `inspection` is as it was before. */
    freedByFinding: { readonly lotId: string; readonly inspection: InspectionRow }
    /** One that was judged is open again. */
    inspectionReopened: { readonly inspection: InspectionRow }
  }
}

/** Plans that the finding, and the answers which stand, ask for, each once. */
function plansAskedFor({ inspection, lines, readings, verdict }: DomainEventFacts['inspectionFinished']): string[] {
  const plans = new Set<string>()
  const { followPlanId } = inspection.consequence ?? usualConsequence
  if (verdict === 'notAcceptable' && followPlanId !== null) plans.add(followPlanId)
  for (const line of lines) {
    for (const { code, followUpPlanId } of line.details.answers) {
      if (followUpPlanId === null) continue
      if (readings.some(({ lineId, value }) => lineId === line.id && value === code)) plans.add(followUpPlanId)
    }
  }
  return [...plans]
}

/**
 * Opens what the finding and the answers of an inspection ask for in addition, on the same lot or load and with the same gate. What it opened before, at an
 * earlier finish, is not opened again.
 * @throws {ServerError} `nothing_released` when such a plan has no released revision.
 */
export async function openFollowUps(work: Work, finished: DomainEventFacts['inspectionFinished']): Promise<void> {
  const { inspection } = finished
  const planIds = plansAskedFor(finished)
  if (planIds.length === 0) return
  const open = await plansFollowing(work.manager, inspection.id)
  const point = await controlPointRows.load(work.manager, inspection.controlPointId)
  for (const planId of planIds) {
    if (open.includes(planId)) continue
    const { lotId, lotSize, holdPlaceId, occasionId, subjectId, subjectKind } = inspection
    const following = { ...point, ...usualConsequence, planId, isGate: inspection.isGate }
    const subject = {
      lotId,
      unit: isUnitKind(subjectKind) ? { kind: subjectKind, containerId: subjectId } : null,
      partId: lotId === null ? null : (await lotRows.load(work.manager, lotId)).partId,
      lotSize,
      holdPlaceId,
      occasionId,
      loadId: subjectId,
      followsId: inspection.id,
      history: null,
    }
    const opened = await openInspection(work, following, subject, await loadPointSample(work, following, subject))
    if (!inspection.isGate) continue
    const pieces = await piecesLookedAt(work.manager, inspection)
    for (const held of await lotsLookedAt(work.manager, inspection)) await openHold(work, held, opened, pieces)
  }
}
