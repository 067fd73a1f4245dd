import { setApart, type PlacePurpose, type Standing, type Taken } from '@nemawashi/core'
import { asksAt } from '../../attach/repository'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { openedAt } from '../../inspections/headRepository'
import type { LotRow } from '../../stock/ledger/entities'
import { holdLot } from '../../stock/holds/holds'
import { movePieces } from '../../stock/ledger/ledger'
import { sublotInStore } from '../../stock/units/pieces'
import { requireLeave, requireMovable, requirePlaceFor, takeOrSayWhy } from './bound'
import { TransferEntity } from './entities'
import { noteOccasion } from '../../opening/occasions'
import { openEach } from '../../opening/openEach'
import { operationsOf } from '../receiving/repository'
import { lotRows, putAwayRuleRows } from '../../stock/ledger/rows'
import { partRows, placeRows } from '../../define/masters/rows'

export interface TransferInput {
  readonly lotId: string
  readonly containerId: string | null
  readonly fromPlaceId: string
  readonly standing: Standing
  /** Which of the lot's pieces there; left out: whichever are there. */
  readonly sublot?: string | undefined
  readonly quantity: number
  readonly toPlaceId: string
  readonly ruleId: string | null
}

/** Both places, where pieces of that standing may go from the one to the other, and the pieces. @throws {ServerError} `reference_unknown`, `place_not_for`, `gate_closed`. */
async function placesOf(work: Work, lot: LotRow, input: TransferInput): Promise<{ to: { readonly purpose: PlacePurpose }; taken: Taken[] }> {
  const { fromPlaceId, toPlaceId, standing } = input
  const from = await placeRows.find(work.manager, { id: fromPlaceId })
  const to = await placeRows.find(work.manager, { id: toPlaceId })
  if (!from) throw new ServerError('reference_unknown', `The place ${fromPlaceId} does not exist.`, { field: 'fromPlaceId' })
  if (!to) throw new ServerError('reference_unknown', `The place ${toPlaceId} does not exist.`, { field: 'toPlaceId' })
  if (fromPlaceId === toPlaceId) throw new ServerError('place_not_for', `They lie in ${to.name} already.`, { field: 'toPlaceId' })
  requirePlaceFor(to, standing)
  const taken = await takeOrSayWhy(work, lot, { ...input, placeId: fromPlaceId }, to.purpose === 'store')
  await requireMovable(work, lot, from, taken)
  await requireLeave(work, lot, to, standing, taken)
  return { to, taken }
}

/** Whether anything may be asked of pieces at a transfer, so that they are told apart from the rest of their lot. */
async function asksAtTransfer(work: Work, { partId }: LotRow): Promise<boolean> {
  for (const operationId of await operationsOf(work.manager, partId, 'transfer'))
    if (await asksAt(work.manager, operationId, 'arrival', work.today)) return true
  return false
}

/** What the way of the part asks for at a transfer, of the pieces that came; a gate holds those. */
async function openAtArrival(work: Work, lot: LotRow, { quantity, toPlaceId, containerId }: TransferInput, occasionId: string): Promise<void> {
  const part = await partRows.load(work.manager, lot.partId)
  for (const operationId of await operationsOf(work.manager, part.id, 'transfer')) {
    const arrival = { operationId, moment: 'arrival', part, supplierId: null, customerId: null, quantity, at: work.now } as const
    const opening = () => ({ lotIds: [lot.id], holdPlaceId: toPlaceId, occasionId, eventId: occasionId })
    await openEach(work, arrival, lot.id, opening, { hold: holdLot, where: { containerId, eventId: occasionId } })
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
  const lot = await lotRows.find(work.manager, { id: lotId })
  if (!lot) throw new ServerError('not_found', `There is no lot with the id ${lotId}.`, { field: 'lotId' })
  const { to, taken } = await placesOf(work, lot, input)
  if (ruleId !== null && !(await putAwayRuleRows.exists(work.manager, { id: ruleId })))
    throw new ServerError('reference_unknown', `The rule ${ruleId} does not exist.`, { field: 'ruleId' })
  const occasionId = await noteOccasion(work, 'transfer', 'arrival', { placeId: toPlaceId, fromPlaceId })
  const code = await work.nextCode('T')
  await work.manager.insert(TransferEntity, { id: occasionId, code, lotId, containerId, quantity, standing, ruleId })
  work.audit({ action: 'transferred', subject: 'transfer', subjectId: occasionId, after: { code, ...input } })
  const kind = to.purpose === 'store' ? 'putAway' : 'transferred'
  const isAsked = standing === 'released' && (await asksAtTransfer(work, lot))
  for (const { spot, quantity: moved } of taken) {
    const joined = to.purpose === 'store' ? await sublotInStore(work, lotId, spot.sublot) : spot.sublot
    const sublot = isAsked ? setApart(joined, occasionId) : joined
    await movePieces(work, lotId, { spot, quantity: moved, to: { placeId: toPlaceId, standing, sublot } }, kind, { occasionId })
  }
  if (isAsked) await openAtArrival(work, lot, input, occasionId)
  return { id: occasionId, code, opened: await openedAt(work.manager, occasionId) }
}
