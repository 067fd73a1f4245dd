import type { PlanLineInput } from '@nemawashi/contract'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { PlanEntity, PlanLineEntity, PlanRevisionEntity } from './entities'
import { writeLines } from './planLines'

interface Revised {
  readonly id: string
  readonly revisionId: string
  /** Of the plan, after the import. */
  readonly version: number
  /** Before the import. */
  readonly name: string
}

/** What an import of plans did, as its audit entry keeps it: enough to take it back. */
export interface PlansBrought {
  readonly created: string[]
  readonly drafted: Revised[]
  readonly changed: (Revised & { readonly lines: PlanLineInput[] })[]
}

/** Whether a control point hangs on the plan, or an answer asks for it: then it cannot go. */
async function isUsed(work: Work, planId: string): Promise<boolean> {
  const rows = (await work.manager.query(
    `SELECT 1 FROM control_point WHERE plan_id = ? UNION ALL
     SELECT 1 FROM characteristic_revision r, json_each(r.details, '$.answers') a WHERE json_extract(a.value, '$.followUpPlanId') = ? LIMIT 1`,
    [planId, planId],
  )) as unknown[]
  return rows.length > 0
}

/** Takes an import of plans back, all of it or nothing: what was changed, released or used since is named. */
export async function undoPlanImport(work: Work, importId: string): Promise<{ removed: number }> {
  const [entry] = (await work.manager.query(`SELECT after FROM audit WHERE subject_id = ? AND subject = 'plans' AND action = 'imported'`, [
    importId,
  ])) as { after: string }[]
  if (!entry) throw new ServerError('not_found', `There is no import of plans with the id ${importId}.`)
  const { created, drafted, changed } = JSON.parse(entry.after) as PlansBrought
  const moved: string[] = []
  for (const { id, version } of [...created.map((id) => ({ id, version: 1 })), ...drafted, ...changed]) {
    const row = await work.manager.findOneBy(PlanEntity, { id })
    if (!row || row.version !== version || (created.includes(id) && (await isUsed(work, id)))) moved.push(row?.code ?? 'one that is gone')
  }
  if (moved.length > 0)
    throw new ServerError('import_moved_on', `The import cannot be taken back: ${moved.join(', ')} changed or came into use since.`, { moved })
  const removeRevision = async (id: string) => {
    await work.manager.delete(PlanLineEntity, { planRevisionId: id })
    await work.manager.delete(PlanRevisionEntity, { id })
  }
  for (const id of created) {
    for (const revision of await work.manager.findBy(PlanRevisionEntity, { planId: id })) await removeRevision(revision.id)
    await work.manager.delete(PlanEntity, { id })
  }
  for (const { revisionId } of drafted) await removeRevision(revisionId)
  for (const { revisionId, lines } of changed) await writeLines(work, revisionId, lines)
  for (const { id, name, version } of [...drafted, ...changed]) await work.manager.update(PlanEntity, { id }, { name, version: version + 1 })
  const removed = created.length + drafted.length + changed.length
  work.audit({ action: 'import taken back', subject: 'plans', subjectId: importId, after: { removed } })
  return { removed }
}
