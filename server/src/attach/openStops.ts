import { loadPart } from '../define/masters/parts'
import { ServerError } from '../kernel/base/serverError'
import type { Work } from '../kernel/work/unitOfWork'
import { OpenStopEntity, type OpenStopRow } from './entities'
import { routingOf } from './repository'
import { operationRows } from '../define/masters/rows'

/** Says why nothing is checked at a stop of a part, or no longer does, and tells the chain. @returns whether anything was said there before */
async function say(work: Work, partId: string, operation: { readonly id: string; readonly code: string }, reason: string | null): Promise<boolean> {
  const before = await work.manager.findOneBy(OpenStopEntity, { partId, operationId: operation.id })
  if (before) await work.manager.delete(OpenStopEntity, { id: before.id })
  if (reason !== null) {
    const row: OpenStopRow = { id: work.newId(), partId, operationId: operation.id, reason, at: work.now, personId: work.personId ?? '' }
    await work.manager.insert(OpenStopEntity, { ...row })
  }
  if (reason !== null || before)
    work.audit({
      action: reason === null ? 'no longer left open' : 'left open',
      subject: 'part',
      subjectId: partId,
      before: before ? { operation: operation.code, reason: before.reason } : null,
      after: { operation: operation.code, reason },
      ...(reason === null ? {} : { why: reason }),
    })
  return before !== null
}

/** Leaves a stop of a part open on purpose; null: no longer. @throws {ServerError} `not_found`, `not_on_the_way`. */
export async function leaveOpen(work: Work, partId: string, operationId: string, reason: string | null): Promise<Record<string, never>> {
  const part = await loadPart(work.manager, partId)
  const on = (await routingOf(work.manager, part.id)).find(({ id }) => id === operationId)
  if (!on) throw new ServerError('not_on_the_way', `${part.code} does not pass this operation.`, { field: 'operationId', received: operationId })
  if (!(await say(work, part.id, on, reason)) && reason === null) work.nothingChanged()
  return {}
}

/** A stop of a part where something is asked now is no longer one that somebody left open. */
export async function closeStop(work: Work, partId: string, operationId: string): Promise<void> {
  await say(work, partId, await operationRows.load(work.manager, operationId), null)
}
