import { describeSamplingRule, sampleFor, whichApply } from '@nemawashi/core'
import { ControlPointEntity, type ControlPointRow } from '../attach/entities'
import { CharacteristicRevisionEntity, PlanEntity, PlanRevisionEntity, type PartRow } from '../define/entities'
import { loadLines } from '../define/plans'
import { releasedOf } from '../define/revisions'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { InspectionEntity, InspectionLineEntity, type InspectionLineRow, type InspectionRow } from '../record/entities'

/** Control points that open for this part from this supplier at its receiving operations. */
export async function pointsAtReceiving(work: Work, part: PartRow, supplierId: string): Promise<ControlPointRow[]> {
  const operations = (await work.manager.query(
    `SELECT o.id FROM routing_step r JOIN operation o ON o.id = r.operationId WHERE r.partId = ? AND o.kind = 'receiving'`,
    [part.id],
  )) as { id: string }[]
  const open: ControlPointRow[] = []
  for (const { id: operationId } of operations) {
    const points = await work.manager.findBy(ControlPointEntity, { operationId, state: 'active' })
    open.push(...whichApply(points, { partId: part.id, familyId: part.familyId, supplierId }).flatMap((entry) => (entry.opens ? [entry.point] : [])))
  }
  return open
}

/**
 * Opens the inspection of a control point on a lot: its lines keep the revisions that are released now, and the samples are worked out.
 * @throws {ServerError} `nothing_released` when the plan or a characteristic has no released revision: a gate never opens by omission.
 */
export async function openInspection(work: Work, point: ControlPointRow, lotId: string, lotSize: number, holdPlaceId: string | null): Promise<void> {
  const revision = await releasedOf(work, PlanRevisionEntity, { planId: point.planId })
  if (!revision) {
    const plan = await work.manager.findOneByOrFail(PlanEntity, { id: point.planId })
    throw new ServerError(
      'nothing_released',
      `The control point ${point.code} asks for the plan ${plan.code}, which has no released revision. Release one, or retire the control point.`,
      {
        controlPoint: point.code,
        plan: plan.code,
      },
    )
  }
  const id = work.newId()
  const lines: InspectionLineRow[] = []
  for (const [position, line] of (await loadLines(work.manager, revision.id)).entries()) {
    const characteristic = await releasedOf(work, CharacteristicRevisionEntity, { characteristicId: line.characteristicId })
    if (!characteristic)
      throw new ServerError('nothing_released', `The characteristic ${line.code} has no released revision.`, { characteristic: line.code })
    const sample = sampleFor(line.sampling, lotSize)
    lines.push({
      id: work.newId(),
      inspectionId: id,
      position,
      characteristicRevisionId: characteristic.id,
      sampleSize: sample.sampleSize,
      accept: sample.accept,
      samplingWords: describeSamplingRule(line.sampling),
      samplingReasoning: sample.reasoning,
      isRequired: line.isRequired,
      isDecisive: line.isDecisive,
    })
  }
  const row: InspectionRow = {
    id,
    code: await work.nextCode('I'),
    controlPointId: point.id,
    planRevisionId: revision.id,
    operationId: point.operationId,
    lotId,
    state: 'toDo',
    isGate: point.isGate,
    holdPlaceId: point.isGate ? holdPlaceId : null,
    lotSize,
    asked: lines.reduce((sum, line) => sum + line.sampleSize, 0),
    answered: 0,
    openedAt: work.now,
    startedAt: null,
    startedById: null,
    finishedAt: null,
    finishedById: null,
    verdict: null,
    finding: null,
    version: 1,
  }
  await work.manager.insert(InspectionEntity, { ...row })
  for (const line of lines) await work.manager.insert(InspectionLineEntity, { ...line })
  work.audit({ action: 'opened', subject: 'inspection', subjectId: id, after: { code: row.code, point: point.code, lotId, lines: lines.length } })
}
