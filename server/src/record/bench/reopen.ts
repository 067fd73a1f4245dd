import { inspectionTransitions, canTransition } from '@nemawashi/core'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadInspectionAt, saveInspection } from '../../inspections/writes'

/**
 * Takes a finish back, with the reason, so that answers can be added or put right.
 * @throws {ServerError} `not_found`, `stale_version`, `already_decided`, `inspection_not_finished`
 */
export async function reopenInspection(work: Work, id: string, { version, reason }: { version: number; reason: string }): Promise<void> {
  const current = await loadInspectionAt(work, id, version)
  if (current.state === 'decided') throw new ServerError('already_decided', `${current.code} is decided.`)
  if (!canTransition(inspectionTransitions, 'reopen', current.state))
    throw new ServerError('inspection_not_finished', `${current.code} is not finished.`)
  await saveInspection(
    work,
    'reopened',
    current,
    { state: inspectionTransitions.reopen.to, finishedAt: null, finishedById: null, verdict: null, finding: null, skips: null },
    reason,
  )
  await work.emit('inspectionReopened', { inspection: current })
}
