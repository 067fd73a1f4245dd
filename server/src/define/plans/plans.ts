import { revisionTransitions, requireSuits, type SamplingRule } from '@nemawashi/core'
import { planRevisions, pointsUsing, planList, planFilters, characteristicOf, pointsEver } from './repository'
import { endpoints, type Plan } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import type { Routes } from '../../kernel/routes'
import { ServerError } from '../../kernel/base/serverError'
import { loadAt, requireFreeCode, saveNext } from '../../kernel/work/versioned'
import { PlanEntity, PlanRevisionEntity } from './entities'
import { checkLines, insertPlanRevision, loadLines, writeLines } from './planLines'
import type { Kernel } from '../../kernel/kernel'
import { sendPaper } from '../../kernel/pdf/paper'
import { planSheet, type SheetLine } from './planSheetPdf'
import { answersAskingFor } from '../library/usesRepository'
import { releasePlanFrom } from './planSchedule'
import { discardDraft, draftOf, releasedOf } from '../library/revisions'

const { define } = endpoints
const words = 'plan'

export async function loadPlan(reader: Reader, id: string): Promise<Plan> {
  const row = await reader.findOneBy(PlanEntity, { id })
  if (!row) throw new ServerError('not_found', `There is no plan with the id ${id}.`)
  const revisions = await planRevisions(reader, id)
  const full = []
  for (const { id: revisionId, revision, state, releasedAt, releasedByName, effectiveFrom } of revisions) {
    full.push({ id: revisionId, revision, state, effectiveFrom, releasedAt, releasedByName, lines: await loadLines(reader, revisionId) })
  }
  return { ...row, revisions: full, usedBy: await pointsUsing(reader, id) }
}

export function planRoutes(routes: Routes, kernel: Kernel): void {
  routes.list(define.listPlans, planList, planFilters)
  routes.read(define.getPlan, (reader, { params }) => loadPlan(reader, params.id))
  routes.stream(define.getPlanSheet, async (reader, { params, query, response }) => {
    const plan = await loadPlan(reader, params.id)
    const revision = query.revision === undefined ? plan.revisions[0] : plan.revisions.find((entry) => entry.revision === query.revision)
    if (!revision) throw new ServerError('not_found', `${plan.code} has no revision ${query.revision}.`)
    const lines: SheetLine[] = []
    for (const line of revision.lines) lines.push({ line, characteristic: await characteristicOf(reader, line.characteristicId) })
    await sendPaper(kernel, response, planSheet, { plan, revision, lines }, plan.code)
  })
  routes.change(define.createPlan, async (work, { body }) => {
    await requireFreeCode(work, PlanEntity, words, body.code, null)
    await checkLines(work, body.lines)
    const id = work.newId()
    await work.manager.insert(PlanEntity, { id, code: body.code, name: body.name, version: 1 })
    await insertPlanRevision(work, id, 1, body.lines)
    work.audit({ action: 'created', subject: words, subjectId: id, after: body })
    return loadPlan(work.manager, id)
  })
  routes.change(define.updatePlan, async (work, { params, body }) => {
    const current = await loadAt(work, PlanEntity, words, params.id, body.version)
    await checkLines(work, body.lines)
    const draft = await draftOf(work, PlanRevisionEntity, { planId: params.id }, words, current.code)
    const before = await loadLines(work.manager, draft.id)
    await writeLines(work, draft.id, body.lines)
    work.audit({ action: 'draft changed', subject: words, subjectId: params.id, before, after: body.lines })
    await saveNext(work, PlanEntity, words, 'changed', current, { name: body.name })
    return loadPlan(work.manager, params.id)
  })
  routes.change(define.releasePlan, async (work, { params, body }) => {
    const current = await loadAt(work, PlanEntity, words, params.id, body.version)
    const draft = await draftOf(work, PlanRevisionEntity, { planId: params.id }, words, current.code)
    const lines = await loadLines(work.manager, draft.id)
    if (lines.length === 0) throw new ServerError('plan_without_lines', `${current.code} has no line: it would ask for nothing.`)
    const waiting = lines.filter((line) => line.followsRevision === null).map((line) => line.code)
    if (waiting.length > 0) {
      throw new ServerError(
        'nothing_released',
        `${waiting.join(', ')} ${waiting.length === 1 ? 'has' : 'have'} no released revision yet. Release the characteristic first.`,
        {
          characteristics: waiting,
        },
      )
    }
    for (const { sampling, kind, name } of lines) requireSuits(sampling as SamplingRule, kind, name)
    await releasePlanFrom(work, current, draft, body.effectiveFrom)
    return loadPlan(work.manager, params.id)
  })
  routes.change(define.revisePlan, async (work, { params, body }) => {
    const current = await loadAt(work, PlanEntity, words, params.id, body.version)
    const latest = await work.manager.findOneOrFail(PlanRevisionEntity, { where: { planId: params.id }, order: { revision: 'DESC' } })
    if (latest.state === 'draft') throw new ServerError('draft_exists', `${current.code} has a draft already, revision ${latest.revision}.`)
    await insertPlanRevision(work, params.id, latest.revision + 1, await loadLines(work.manager, latest.id))
    await saveNext(work, PlanEntity, words, `revision ${latest.revision + 1} drafted`, current, {})
    return loadPlan(work.manager, params.id)
  })
  routes.change(define.discardPlan, async (work, { params, body }) => {
    const current = await loadAt(work, PlanEntity, words, params.id, body.version)
    const draft = await draftOf(work, PlanRevisionEntity, { planId: params.id }, words, current.code)
    if (draft.revision === 1) {
      const users = [...(await pointsEver(work.manager, params.id)), ...(await answersAskingFor(work.manager, params.id))]
      if (users.length > 0)
        throw new ServerError('still_in_use', `${current.code} is asked for by ${users.join(', ')}. Change those first.`, { users })
    }
    const lines = await loadLines(work.manager, draft.id)
    await writeLines(work, draft.id, [])
    const { left } = await discardDraft(work, PlanRevisionEntity, { planId: params.id }, draft)
    const before = { code: current.code, name: current.name, lines }
    work.audit({ action: `draft of revision ${draft.revision} discarded`, subject: words, subjectId: params.id, before })
    if (left) await work.manager.update(PlanEntity, { id: params.id }, { version: body.version + 1 })
    else await work.manager.delete(PlanEntity, { id: params.id })
    return { left: left ? await loadPlan(work.manager, params.id) : null }
  })
  routes.change(define.retirePlan, async (work, { params, body }) => {
    const current = await loadAt(work, PlanEntity, words, params.id, body.version)
    const released = await releasedOf(work, PlanRevisionEntity, { planId: params.id })
    if (!released) throw new ServerError('already_retired', `${current.code} has no released revision that could be retired.`)
    const points = await pointsUsing(work.manager, params.id)
    if (points.length > 0) {
      throw new ServerError(
        'still_in_use',
        `${current.code} hangs on ${points.join(', ')}: deliveries would arrive unchecked. Retire or change those control points first.`,
        { points },
      )
    }
    const answers = await answersAskingFor(work.manager, params.id)
    if (answers.length > 0) {
      throw new ServerError('still_in_use', `${current.code} is asked for by answers of ${answers.join(', ')}. Revise those characteristics first.`, {
        characteristics: answers,
      })
    }
    await work.manager.update(PlanRevisionEntity, { id: released.id }, { state: revisionTransitions.retire.to })
    await saveNext(work, PlanEntity, words, `revision ${released.revision} retired`, current, {})
    return loadPlan(work.manager, params.id)
  })
}
