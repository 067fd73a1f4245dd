import { isPlanUsed } from './repository'
import { importSaid } from '../library/repository'
import type { PlanLineInput } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
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

/** Takes an import of plans back, all of it or nothing: what was changed, released or used since is named. */
export async function undoPlanImport(work: Work, importId: string): Promise<{ removed: number }> {
  const entry = await importSaid(work.manager, 'plans', importId)
  if (entry === null) throw new ServerError('not_found', `There is no import of plans with the id ${importId}.`)
  const { created, drafted, changed } = JSON.parse(entry) as PlansBrought
  const moved: string[] = []
  for (const { id, version } of [...created.map((id) => ({ id, version: 1 })), ...drafted, ...changed]) {
    const row = await work.manager.findOneBy(PlanEntity, { id })
    if (!row || row.version !== version || (created.includes(id) && (await isPlanUsed(work.manager, id)))) moved.push(row?.code ?? 'one that is gone')
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
