import { inspectionTransitions, canTransition } from '@nemawashi/core'
import { InspectionEntity } from '../../inspections/entities'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, saveNext } from '../../kernel/work/versioned'

/**
 * Takes a finish back, with the reason, so that answers can be added or put right.
 * @throws {ServerError} `not_found`, `stale_version`, `already_decided`, `inspection_not_finished`
 */
export async function reopenInspection(work: Work, id: string, { version, reason }: { version: number; reason: string }): Promise<void> {
  const current = await loadAt(work, InspectionEntity, 'inspection', id, version)
  if (current.state === 'decided') throw new ServerError('already_decided', `${current.code} is decided.`)
  if (!canTransition(inspectionTransitions, 'reopen', current.state))
    throw new ServerError('inspection_not_finished', `${current.code} is not finished.`)
  await saveNext(
    work,
    InspectionEntity,
    'inspection',
    'reopened',
    current,
    { state: inspectionTransitions.reopen.to, finishedAt: null, finishedById: null, verdict: null, finding: null, skips: null },
    reason,
  )
  await work.emit('inspectionReopened', { inspection: current })
}
