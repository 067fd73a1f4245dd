import { mayLieAt, movesFrom, standingWords, type Standing } from '@nemawashi/core'
import { PartEntity, PlaceEntity } from '../define/entities'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { openedAt } from '../record/repository'
import { LotEntity, PutAwayRuleEntity, type LotRow } from '../stock/entities'
import { holdLot } from '../stock/holds'
import { postMovement } from '../stock/ledger'
import { putAwayReasons } from './deliveries'
import { TransferEntity } from './entities'
import { noteOccasion } from './occasions'
import { openEach } from './openEach'
import type { Hold } from './openTogether'
import { operationsOf } from './repository'

export interface TransferInput {
  readonly lotId: string
  readonly containerId: string | null
  readonly fromPlaceId: string
  readonly standing: Standing
  readonly quantity: number
  readonly toPlaceId: string
  readonly ruleId: string | null
}

/** Both places, where pieces of that standing may go from the one to the other. @throws {ServerError} `reference_unknown`, `place_not_for`, `gate_closed`. */
async function placesOf(work: Work, lot: LotRow, { fromPlaceId, toPlaceId, standing, containerId }: TransferInput) {
  const from = await work.manager.findOneBy(PlaceEntity, { id: fromPlaceId })
  const to = await work.manager.findOneBy(PlaceEntity, { id: toPlaceId })
  if (!from) throw new ServerError('reference_unknown', `The place ${fromPlaceId} does not exist.`, { field: 'fromPlaceId' })
  if (!to) throw new ServerError('reference_unknown', `The place ${toPlaceId} does not exist.`, { field: 'toPlaceId' })
  if (fromPlaceId === toPlaceId) throw new ServerError('place_not_for', `They lie in ${to.name} already.`, { field: 'toPlaceId' })
  if (!movesFrom(from.purpose))
    throw new ServerError('place_not_for', `What lies in ${from.name} moves with its order or its dispatch.`, {
      field: 'fromPlaceId',
      purpose: from.purpose,
    })
  if (!mayLieAt[to.purpose].includes(standing))
    throw new ServerError('place_not_for', `${to.name} takes no pieces that are ${standingWords[standing]}.`, {
      field: 'toPlaceId',
      purpose: to.purpose,
      standing,
    })
  const reasons = to.purpose === 'store' ? await putAwayReasons(work.manager, lot, containerId) : []
  if (reasons.length > 0) throw new ServerError('gate_closed', `${lot.code} may not be put away: ${reasons.join('; ')}.`, { lot: lot.code, reasons })
  return { from, to }
}

/** What the way of the part asks for at a transfer; a gate holds what came free to the place. */
async function openAtArrival(work: Work, lot: LotRow, { quantity, toPlaceId, containerId }: TransferInput, occasionId: string): Promise<void> {
  const part = await work.manager.findOneByOrFail(PartEntity, { id: lot.partId })
  for (const operationId of await operationsOf(work.manager, part.id, 'transfer')) {
    const coming = { operationId, moment: 'arrival', part, supplierId: null, customerId: null, quantity, at: work.now } as const
    const opening = () => ({ lotIds: [lot.id], holdPlaceId: toPlaceId, occasionId })
    const hold: Hold = (by, lotId, cause, within) => holdLot(by, lotId, cause, { ...within, placeId: toPlaceId })
    await openEach(work, coming, lot.id, opening, { hold, where: { placeId: toPlaceId, containerId } })
  }
}

/**
 * Takes pieces of a lot to another place, in their standing.
 * @throws {ServerError} `not_found`, `reference_unknown`, `place_not_for`, `gate_closed`; {CoreError} `quantity_invalid`, `movement_exceeds_balance`.
 */
export async function transfer(
  work: Work,
  input: TransferInput,
): Promise<{ id: string; code: string; opened: { id: string; code: string; planName: string }[] }> {
  const { lotId, containerId, fromPlaceId, standing, quantity, toPlaceId, ruleId } = input
  const lot = await work.manager.findOneBy(LotEntity, { id: lotId })
  if (!lot) throw new ServerError('not_found', `There is no lot with the id ${lotId}.`, { field: 'lotId' })
  const { to } = await placesOf(work, lot, input)
  if (ruleId !== null && !(await work.manager.existsBy(PutAwayRuleEntity, { id: ruleId })))
    throw new ServerError('reference_unknown', `The rule ${ruleId} does not exist.`, { field: 'ruleId' })
  const occasionId = await noteOccasion(work, 'transfer', 'arrival', { placeId: toPlaceId, fromPlaceId })
  const code = await work.nextCode('T')
  await work.manager.insert(TransferEntity, { id: occasionId, code, lotId, containerId, quantity, standing, ruleId })
  work.audit({ action: 'transferred', subject: 'transfer', subjectId: occasionId, after: { code, ...input } })
  const kind = to.purpose === 'store' ? 'putAway' : 'transferred'
  const movement = { containerId, quantity, from: { placeId: fromPlaceId, standing }, to: { placeId: toPlaceId, standing } }
  await postMovement(work, lotId, movement, kind, { occasionId })
  if (standing === 'released') await openAtArrival(work, lot, input, occasionId)
  return { id: occasionId, code, opened: await openedAt(work.manager, occasionId) }
}
