import { checkLimits, checkSamplingRule, CoreError, parseDecimal, type SamplingRule } from '@nemawashi/core'
import { endpoints, type DetachedLimits, type Plan, type PlanLine, type PlanLineInput } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'
import type { Routes } from '../kernel/routes'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { loadAt, requireFreeCode, requireReference, saveNext } from '../kernel/versioned'
import { detailsOf } from './checkedFields'
import { CharacteristicEntity, CharacteristicRevisionEntity, PlanEntity, PlanLineEntity, PlanRevisionEntity, type PlanRevisionRow } from './entities'
import { planSheetPdf, type SheetLine } from './planSheetPdf'
import { answersAskingFor } from './plansUsing'
import { draftOf, releasedOf, releaseDraft } from './revisions'

const { define } = endpoints
const words = 'plan'

type StoredLine = Omit<PlanLine, 'sampling' | 'isRequired' | 'isDecisive' | 'detached' | 'minutesPerPiece' | 'isAdaptable'> & {
  sampling: string
  isRequired: number
  isDecisive: number
  detached: string | null
  details: string | null
}

/** The lines of a plan revision in order, each with what the library says of its characteristic now. */
export async function loadLines(reader: Reader, planRevisionId: string): Promise<PlanLine[]> {
  const rows = (await reader.query(
    `SELECT l.characteristicId, l.sampling, l.isRequired, l.isDecisive, l.detached, l.stage, l.instruction, c.code, r.name, r.kind, r.class, r.unit,
            r.nominal, r.lower, r.upper, r.details,
            CASE WHEN r.state = 'released' THEN r.revision END AS followsRevision
     FROM plan_line l JOIN characteristic c ON c.id = l.characteristicId
     JOIN characteristic_revision r ON r.id = (SELECT s.id FROM characteristic_revision s WHERE s.characteristicId = c.id ORDER BY s.state = 'released' DESC, s.revision DESC LIMIT 1)
     WHERE l.planRevisionId = ? ORDER BY l.position`,
    [planRevisionId],
  )) as StoredLine[]
  return rows.map(({ details, detached, ...row }) => {
    const { minutesPerPiece, isAdaptable } = detailsOf(details)
    return {
      ...row,
      sampling: JSON.parse(row.sampling) as PlanLine['sampling'],
      isRequired: row.isRequired === 1,
      isDecisive: row.isDecisive === 1,
      detached: detached === null ? null : (JSON.parse(detached) as DetachedLimits),
      minutesPerPiece,
      isAdaptable,
    }
  })
}

async function pointsUsing(reader: Reader, planId: string): Promise<string[]> {
  const rows = (await reader.query(`SELECT code FROM control_point WHERE planId = ? AND state = 'active' ORDER BY code`, [planId])) as {
    code: string
  }[]
  return rows.map((row) => row.code)
}

export async function loadPlan(reader: Reader, id: string): Promise<Plan> {
  const row = await reader.findOneBy(PlanEntity, { id })
  if (!row) throw new ServerError('not_found', `There is no plan with the id ${id}.`)
  const revisions = (await reader.query(
    `SELECT r.*, p.name AS releasedByName FROM plan_revision r LEFT JOIN person p ON p.id = r.releasedById WHERE r.planId = ? ORDER BY r.revision DESC`,
    [id],
  )) as (PlanRevisionRow & { releasedByName: string | null })[]
  const full = []
  for (const { id: revisionId, revision, state, releasedAt, releasedByName } of revisions) {
    full.push({ id: revisionId, revision, state, releasedAt, releasedByName, lines: await loadLines(reader, revisionId) })
  }
  return { ...row, revisions: full, usedBy: await pointsUsing(reader, id) }
}

async function checkLines(work: Work, lines: readonly PlanLineInput[]): Promise<void> {
  const seen = new Set<string>()
  for (const [index, line] of lines.entries()) {
    await requireReference(work, CharacteristicEntity, 'characteristic', line.characteristicId, `lines.${index}.characteristicId`)
    if (seen.has(line.characteristicId)) {
      throw new ServerError(
        'already_exists',
        `Line ${index + 1} asks for a characteristic that stands in the plan already. One line is one question.`,
        { line: index },
      )
    }
    seen.add(line.characteristicId)
    try {
      checkSamplingRule(line.sampling as SamplingRule)
      await checkDetached(work, line)
    } catch (error) {
      if (error instanceof CoreError) throw new CoreError(error.code, `Line ${index + 1}: ${error.message}`, { ...error.facts, line: index })
      throw error
    }
  }
}

/** A line's own limits: only where the characteristic is measured and allows it; they obey what its own limits obey. */
async function checkDetached(work: Work, { characteristicId, detached }: PlanLineInput): Promise<void> {
  if (detached === null) return
  const revision = await work.manager.findOne(CharacteristicRevisionEntity, { where: { characteristicId }, order: { revision: 'DESC' } })
  if (revision?.kind !== 'measured' || !detailsOf(revision.details).isAdaptable) {
    throw new ServerError(
      'input_invalid',
      `${revision?.name ?? 'This characteristic'} takes no limits of its own on a line: it is not measured, or must be followed as it is.`,
      {
        field: 'detached',
      },
    )
  }
  const decimal = (text: string | null) => (text === null || text.trim() === '' ? null : parseDecimal(text))
  checkLimits({ nominal: decimal(detached.nominal), lower: decimal(detached.lower), upper: decimal(detached.upper) }, revision.resolution ?? '1')
}

async function writeLines(work: Work, planRevisionId: string, lines: readonly PlanLineInput[]): Promise<void> {
  await work.manager.delete(PlanLineEntity, { planRevisionId })
  for (const [position, { characteristicId, sampling, isRequired, isDecisive, detached, stage, instruction }] of lines.entries()) {
    await work.manager.insert(PlanLineEntity, {
      planRevisionId,
      position,
      characteristicId,
      sampling: sampling as SamplingRule,
      isRequired,
      isDecisive,
      detached,
      stage,
      instruction,
    })
  }
}

async function insertRevision(work: Work, planId: string, revision: number, lines: readonly PlanLineInput[]): Promise<void> {
  const id = work.newId()
  await work.manager.insert(PlanRevisionEntity, { id, planId, revision, state: 'draft', releasedAt: null, releasedById: null })
  await writeLines(work, id, lines)
}

/** The revision that a line asks for now: the released one, else the latest. */
async function characteristicOf(reader: Reader, characteristicId: string): Promise<SheetLine['characteristic']> {
  const [row] = (await reader.query(
    `SELECT * FROM characteristic_revision WHERE characteristicId = ? ORDER BY state = 'released' DESC, revision DESC LIMIT 1`,
    [characteristicId],
  )) as SheetLine['characteristic'][]
  return row as SheetLine['characteristic']
}

export function planRoutes(routes: Routes, now: () => Date): void {
  routes.list(
    define.listPlans,
    {
      from: `plan t JOIN plan_revision r ON r.planId = t.id AND r.revision = (SELECT MAX(l.revision) FROM plan_revision l WHERE l.planId = t.id)`,
      id: 't.id',
      columns: {
        id: { sql: 't.id' },
        code: { sql: 't.code' },
        name: { sql: 't.name' },
        revision: { sql: 'r.revision', kind: 'number' },
        state: { sql: 'r.state' },
        lines: { sql: '(SELECT COUNT(*) FROM plan_line l WHERE l.planRevisionId = r.id)', kind: 'number' },
      },
      search: ['t.code', 't.name'],
      sort: ['code', 'asc'],
    },
    (query) => (query.state === undefined ? [] : [{ sql: 'r.state = ?', values: [query.state as string] }]),
  )
  routes.read(define.getPlan, (reader, { params }) => loadPlan(reader, params.id))
  routes.stream(define.getPlanSheet, async (reader, { params, query, response }) => {
    const plan = await loadPlan(reader, params.id)
    const revision = query.revision === undefined ? plan.revisions[0] : plan.revisions.find((entry) => entry.revision === query.revision)
    if (!revision) throw new ServerError('not_found', `${plan.code} has no revision ${query.revision}.`)
    const lines: SheetLine[] = []
    for (const line of revision.lines) lines.push({ line, characteristic: await characteristicOf(reader, line.characteristicId) })
    response.type('application/pdf')
    response.setHeader('Content-Disposition', `inline; filename="${plan.code.replaceAll(/[^\w.-]/g, '_')}.pdf"`)
    await planSheetPdf(plan, revision, lines, now(), response)
  })
  routes.change(define.createPlan, async (work, { body }) => {
    await requireFreeCode(work, PlanEntity, words, body.code, null)
    await checkLines(work, body.lines)
    const id = work.newId()
    await work.manager.insert(PlanEntity, { id, code: body.code, name: body.name, version: 1 })
    await insertRevision(work, id, 1, body.lines)
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
    await releaseDraft(work, PlanRevisionEntity, { planId: params.id }, draft)
    await saveNext(work, PlanEntity, words, `revision ${draft.revision} released`, current, {})
    return loadPlan(work.manager, params.id)
  })
  routes.change(define.revisePlan, async (work, { params, body }) => {
    const current = await loadAt(work, PlanEntity, words, params.id, body.version)
    const latest = await work.manager.findOneOrFail(PlanRevisionEntity, { where: { planId: params.id }, order: { revision: 'DESC' } })
    if (latest.state === 'draft') throw new ServerError('draft_exists', `${current.code} has a draft already, revision ${latest.revision}.`)
    await insertRevision(work, params.id, latest.revision + 1, await loadLines(work.manager, latest.id))
    await saveNext(work, PlanEntity, words, `revision ${latest.revision + 1} drafted`, current, {})
    return loadPlan(work.manager, params.id)
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
    await work.manager.update(PlanRevisionEntity, { id: released.id }, { state: 'retired' })
    await saveNext(work, PlanEntity, words, `revision ${released.revision} retired`, current, {})
    return loadPlan(work.manager, params.id)
  })
}
