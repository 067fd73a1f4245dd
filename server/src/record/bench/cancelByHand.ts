import { inspectionTransitions, inspectionStateWords, canTransition } from '@nemawashi/core'
import type { Person } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { cancelInspection } from '../../opening/cancel'
import { hasHeld } from '../../stock/ledger/holdRepository'
import { requireNotTaken } from '../planning/assignments'
import { loadInspectionAt } from '../../inspections/writes'

/**
 * Cancels an inspection for somebody, with the reason: one that holds pieces lets them go, which a quality manager answers for.
 * @throws {ServerError} `not_found`, `stale_version`, `inspection_closed`, `role_missing`, `inspection_taken`
 */
export async function cancelByHand(
  work: Work,
  id: string,
  { version, reason }: { version: number; reason: string },
  by: Person | null,
): Promise<void> {
  const current = await loadInspectionAt(work, id, version)
  if (!canTransition(inspectionTransitions, 'cancel', current.state))
    throw new ServerError('inspection_closed', `${current.code} is ${inspectionStateWords[current.state]} already.`)
  if ((await hasHeld(work.manager, current.id)) && !by?.roles.includes('qualityManager'))
    throw new ServerError('role_missing', `${current.code} holds pieces: a quality manager cancels it.`, { needed: ['qualityManager'] })
  await requireNotTaken(work, id, by, true)
  await cancelInspection(work, current, reason)
}
