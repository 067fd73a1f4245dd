import { revisionTransitions } from '@nemawashi/core'
import { LessThanOrEqual, type FindOptionsWhere } from 'typeorm'
import { ServerError } from '../../kernel/base/serverError'
import type { UnitOfWork, Work } from '../../kernel/work/unitOfWork'
import { saveNext } from '../../kernel/work/versioned'
import { PlanEntity, PlanRevisionEntity, type PlanRevisionRow, type PlanRow } from './entities'
import { releaseDraft } from '../library/revisions'

/**
 * Releases a draft at once, or schedules it for a day to come. Whatever was scheduled before it is retired: the newest release counts.
 * @throws {ServerError} `input_invalid` for a day that is past.
 */
export async function releasePlanFrom(work: Work, plan: PlanRow, draft: PlanRevisionRow, effectiveFrom: string | null): Promise<void> {
  const { today } = work
  if (effectiveFrom !== null && effectiveFrom < today) {
    throw new ServerError('input_invalid', `Received ${effectiveFrom}, today is ${today}. A plan takes effect today or later.`, {
      field: 'effectiveFrom',
      received: effectiveFrom,
    })
  }
  await work.manager.update(PlanRevisionEntity, { planId: plan.id, state: revisionTransitions.schedule.to }, { state: revisionTransitions.retire.to })
  if (effectiveFrom === null || effectiveFrom === today) {
    await releaseDraft(work, PlanRevisionEntity, { planId: plan.id }, draft)
    await saveNext(work, PlanEntity, 'plan', `revision ${draft.revision} released`, plan, {})
    return
  }
  await work.manager.update(
    PlanRevisionEntity,
    { id: draft.id },
    { state: revisionTransitions.schedule.to, effectiveFrom, releasedAt: work.now, releasedById: work.personId },
  )
  await saveNext(work, PlanEntity, 'plan', `revision ${draft.revision} released from ${effectiveFrom}`, plan, {})
}

/** Puts scheduled revisions in place whose day has come: of one plan, before it is asked for, or of all. Says how many. */
export async function takeEffect(work: Work, planId?: string): Promise<number> {
  const where: FindOptionsWhere<PlanRevisionRow> = { state: revisionTransitions.schedule.to, effectiveFrom: LessThanOrEqual(work.today) }
  const due = await work.manager.findBy(PlanRevisionEntity, planId === undefined ? where : { ...where, planId })
  for (const revision of due) {
    await work.manager.update(
      PlanRevisionEntity,
      { planId: revision.planId, state: revisionTransitions.takeEffect.to },
      { state: revisionTransitions.retire.to },
    )
    await work.manager.update(PlanRevisionEntity, { id: revision.id }, { state: revisionTransitions.takeEffect.to })
    work.audit({
      action: `revision ${revision.revision} took effect`,
      subject: 'plan',
      subjectId: revision.planId,
      after: { effectiveFrom: revision.effectiveFrom },
    })
  }
  return due.length
}

/** The same for all plans, as the server's own work: at its start and every few minutes. */
export async function takeAllEffect(work: UnitOfWork): Promise<void> {
  await work.run({ personId: null, key: null, content: '' }, async (unit) => {
    if ((await takeEffect(unit)) === 0) unit.nothingChanged()
  })
}
