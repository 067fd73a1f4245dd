import { allowsStep, finerAt, freeStepWords, type FreeStep } from '@nemawashi/core'
import type { BalanceRow } from '@nemawashi/contract'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { LotStandingEntity } from '../ledger/entities'
import { givenStandings } from '../ledger/finerRepository'
import { namedBalances } from '../ledger/repository'
import { containerRows, lotRows } from '../ledger/rows'
import { finerStandingRows } from '../../define/masters/rows'

/**
 * Refuses a step that the finer standing of pieces does not allow.
 * @throws {ServerError} `standing_forbids`.
 */
export async function requireStep(work: Work, lotId: string, containerId: string | null, step: FreeStep, field: string): Promise<void> {
  const finer = finerAt((await givenStandings(work.manager, [lotId])).get(lotId) ?? [], { containerId, standing: 'released' })
  if (allowsStep('released', finer, step)) return
  const { code } = await lotRows.load(work.manager, lotId)
  throw new ServerError('standing_forbids', `${code} stands as "${finer?.name}" (${finer?.reason}): it may not be ${freeStepWords[step]}.`, {
    field,
    lot: code,
    standing: finer?.name ?? '',
  })
}

/**
 * Gives pieces of a lot, or of a container of it, a finer standing in place of the one that they had; null takes it off.
 * @throws {ServerError} `not_found`, `reference_unknown`, `nothing_there` where no piece is in the standing that it is a kind of.
 */
export async function giveStanding(
  work: Work,
  lotId: string,
  { containerId, finerId, reason }: { containerId: string | null; finerId: string | null; reason: string },
): Promise<BalanceRow[]> {
  const lot = await lotRows.find(work.manager, { id: lotId })
  if (!lot) throw new ServerError('not_found', `There is no lot with the id ${lotId}.`)
  if (containerId !== null && !(await containerRows.exists(work.manager, { id: containerId, lotId })))
    throw new ServerError('reference_unknown', `The container ${containerId} is not one of ${lot.code}.`, { field: 'containerId' })
  const finer = finerId === null ? null : await finerStandingRows.find(work.manager, { id: finerId, isActive: true })
  if (finerId !== null && !finer)
    throw new ServerError('reference_unknown', `The restriction ${finerId} does not exist, or is not in use.`, { field: 'finerId' })
  const before = ((await givenStandings(work.manager, [lotId])).get(lotId) ?? []).filter((given) => given.containerId === containerId)
  if (finer) {
    const spots = await namedBalances(work.manager, lotId)
    if (!spots.some((spot) => spot.standing === finer.standing && (containerId === null || spot.containerId === containerId)))
      throw new ServerError('nothing_there', `No piece of ${lot.code} has the status that "${finer.name}" narrows.`, { field: 'finerId' })
  }
  const ends = before.filter((given) => finer === null || given.standing === finer.standing)
  if (finer === null && ends.length === 0) work.nothingChanged()
  for (const { id } of ends) await work.manager.update(LotStandingEntity, { id }, { endedAt: work.now, endedById: work.personId })
  if (finer) {
    const row = {
      id: work.newId(),
      lotId,
      containerId,
      finerId: finer.id,
      reason,
      at: work.now,
      personId: work.personId ?? '',
      endedAt: null,
      endedById: null,
    }
    await work.manager.insert(LotStandingEntity, row)
  }
  if (finer || ends.length > 0)
    work.audit({
      action: finer ? 'finer standing given' : 'finer standing taken off',
      subject: 'lot',
      subjectId: lotId,
      before: ends.length > 0 ? { standing: ends.map(({ name }) => name) } : null,
      after: { containerId, standing: finer?.name ?? null },
      why: reason,
    })
  return namedBalances(work.manager, lotId)
}
