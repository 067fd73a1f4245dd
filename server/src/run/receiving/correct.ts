import {
  checkLotSize,
  holdReaches,
  isUnitKind,
  restOfLot,
  takeFrom,
  type Balance,
  type Movement,
  type MovementEnd,
  standingsInPlant,
} from '@nemawashi/core'
import type { BalanceRow, Correction, CorrectionEffect, Delivery } from '@nemawashi/contract'
import { PartEntity, PartnerEntity } from '../../define/masters/entities'
import { PlanEntity } from '../../define/plans/entities'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { LotEntity, OccasionEntity, type LotRow, type OccasionRow } from '../../stock/ledger/entities'
import { holdLot } from '../../stock/holds/holds'
import { postMovement } from '../../stock/ledger/ledger'
import { placeFor } from '../../stock/putAway/placeFor'
import { hasDecisions, loadBalances, loadDecisions, loadMovements, namedBalances, openHolds, unitKindsOf } from '../../stock/ledger/repository'
import { InspectionEntity } from '../../inspections/entities'
import { isUntouched, resample, samplesOf } from '../../opening/resample'
import { replaySeverity } from '../../opening/severity'
import { moveHistory, standingOn, type OpenOnLot } from './correctionRepository'
import { loadDelivery } from './deliveries'
import { DeliveryCorrectionEntity, DeliveryEntity } from './entities'
import { openTogether } from '../../opening/openTogether'
import { asWritten } from '../purchasing/purchaseOrders'
import { unitsOf } from '../../stock/units/units'
import { fromSupplier, receiptOf, loadReceivingRoute } from './receipt'

/** What of a delivery is put right, with the lots that it concerns. */
interface Case {
  readonly occasion: OccasionRow
  readonly lots: readonly LotRow[]
}

async function caseOf(reader: Reader, deliveryId: string, correction: Correction): Promise<Case> {
  const occasion = await reader.findOneBy(OccasionEntity, { id: deliveryId })
  if (!occasion || !(await reader.findOneBy(DeliveryEntity, { id: deliveryId })))
    throw new ServerError('not_found', `There is no delivery with the id ${deliveryId}.`)
  const all = await reader.findBy(LotEntity, { originId: deliveryId })
  const lots = 'lotId' in correction ? all.filter(({ id }) => id === correction.lotId) : all
  if (lots.length === 0) throw new ServerError('reference_unknown', 'The delivery has no such lot.', { field: 'lotId' })
  return { occasion, lots }
}

/** Pieces that can be said never to have come: still here, and not picked for anybody. */
const inReach = ({ standing, placePurpose }: BalanceRow) => (standing === 'onHold' || standing === 'released') && placePurpose !== 'shipping'
const sumOf = (balances: readonly { readonly quantity: number }[]) => balances.reduce((sum, { quantity }) => sum + quantity, 0)

/** Pieces of a lot, or of one container of it, that came: all that were booked, but for those that never did. */
async function cameOf(
  reader: Reader,
  lotId: string,
  containerId: string | null,
): Promise<{ there: BalanceRow[]; came: number; never: BalanceRow[] }> {
  const there = (await namedBalances(reader, lotId)).filter((balance) => balance.containerId === containerId)
  const never = there.filter(({ standing }) => standing === 'notArrived')
  return { there, came: sumOf(there) - sumOf(never), never }
}

/** What stood there before; refused where it is entered like that already. */
async function before(reader: Reader, { occasion, lots }: Case, correction: Correction): Promise<{ before: string; after: string }> {
  const told = async () => {
    switch (correction.field) {
      case 'quantity': {
        const { came } = await cameOf(reader, correction.lotId, correction.containerId)
        return [String(came), String(correction.quantity)] as const
      }
      case 'supplierLot':
        return [lots[0]?.supplierLot ?? '', correction.supplierLot] as const
      case 'supplier': {
        const [was, is] = [
          await reader.findOneBy(PartnerEntity, { id: occasion.partnerId ?? '' }),
          await reader.findOneBy(PartnerEntity, { id: correction.supplierId }),
        ]
        if (is?.kind !== 'supplier' || !is.isActive)
          throw new ServerError('reference_unknown', `${is?.name ?? correction.supplierId} is no supplier that is in use.`, { field: 'supplierId' })
        return [was?.name ?? '', is.name] as const
      }
      case 'orderNumber':
        return [occasion.orderNumber, correction.orderNumber] as const
    }
  }
  const [was, after] = await told()
  if (was === after) throw new ServerError('nothing_corrected', `It is entered as ${after} already.`, { field: correction.field, received: after })
  return { before: was, after }
}

/** What an inspection of a lot looks at after a correction: all that came of it, or of its container. */
async function sizeAfter(
  reader: Reader,
  { subjectId, subjectKind }: OpenOnLot,
  lotId: string,
  correction: Correction & { field: 'quantity' },
): Promise<number | null> {
  if (isUnitKind(subjectKind)) return subjectId === correction.containerId ? correction.quantity : null
  const rest = (await loadBalances(reader, lotId)).filter(
    ({ containerId, standing }) => containerId !== correction.containerId && standing !== 'notArrived',
  )
  return sumOf(rest) + correction.quantity
}

/** Samples that were worked out for another quantity: of what nobody has begun they become others, of what was begun they stay, and it is said. */
async function otherSamples(reader: Reader, lot: LotRow, correction: Correction & { field: 'quantity' }): Promise<CorrectionEffect[]> {
  const effects: CorrectionEffect[] = []
  for (const standing of await standingOn(reader, lot.id)) {
    const { id, code, planName, state, sampleMost } = standing
    const size = await sizeAfter(reader, standing, lot.id, correction)
    if ((state !== 'toDo' && state !== 'started') || size === null || size === 0) continue
    const sampleNow = Math.max(0, ...(await samplesOf(reader, id, size)).map(({ sample }) => sample.sampleSize))
    if (sampleNow === sampleMost) continue
    const effect = isUntouched(standing) ? 'newSample' : 'keepsSample'
    effects.push({ effect, lotCode: lot.code, planName, inspectionId: id, inspectionCode: code, sampleSize: sampleMost, sampleNow })
  }
  return effects
}

/** Works out anew what nobody has begun with, for what there is after a correction. */
async function sampleAnew(work: Work, lot: LotRow, correction: Correction & { field: 'quantity' }): Promise<void> {
  for (const standing of await standingOn(work.manager, lot.id)) {
    const size = await sizeAfter(work.manager, standing, lot.id, correction)
    if (!isUntouched(standing) || size === null || size === 0 || size === standing.lotSize) continue
    await resample(work, await work.manager.findOneByOrFail(InspectionEntity, { id: standing.id }), size)
  }
}

/** What the receiving of a lot asks for from another supplier, beside what has opened. */
async function askedOf(reader: Reader, lot: LotRow, supplierId: string, work: Pick<Work, 'newId' | 'now'>) {
  const part = await reader.findOneByOrFail(PartEntity, { id: lot.partId })
  const { orderNumber } = await reader.findOneByOrFail(OccasionEntity, { id: lot.originId })
  const arriving = { ...(await fromSupplier(reader, { supplierId, orderNumber, at: work.now })), part, quantity: lot.quantity }
  const units = await unitsOf(reader, lot.id, { standings: standingsInPlant })
  const asked = (await receiptOf(await loadReceivingRoute(reader, [part]), arriving, units, work.newId)).flat()
  const standing = await standingOn(reader, lot.id)
  const opens = asked.filter(
    ({ considered: { point, due } }) => due?.isDue === true && !standing.some(({ controlPointId }) => controlPointId === point.id),
  )
  const noLonger = standing.filter(
    ({ controlPointId }) => !asked.some(({ considered: { point, due } }) => due !== null && point.id === controlPointId),
  )
  return { opens, noLonger }
}

async function otherQuestions(reader: Reader, lot: LotRow, supplierId: string, work: Pick<Work, 'newId' | 'now'>): Promise<CorrectionEffect[]> {
  const { opens, noLonger } = await askedOf(reader, lot, supplierId, work)
  const effects: CorrectionEffect[] = noLonger.map(({ id, code, planName, sampleMost }) => ({
    effect: 'noLonger',
    lotCode: lot.code,
    planName,
    inspectionId: id,
    inspectionCode: code,
    sampleSize: sampleMost,
    sampleNow: null,
  }))
  for (const { considered } of opens) {
    const plan = await reader.findOneByOrFail(PlanEntity, { id: considered.point.planId })
    const none = { inspectionId: null, inspectionCode: null, sampleSize: null, sampleNow: null }
    effects.push({ effect: 'opens', lotCode: lot.code, planName: plan.name, ...none })
  }
  return effects
}

/**
 * What a correction does to inspections, before it is made.
 * @throws {ServerError} `not_found`, `reference_unknown`, `nothing_corrected`.
 */
export async function effectsOf(
  reader: Reader,
  deliveryId: string,
  correction: Correction,
  work: Pick<Work, 'newId' | 'now'>,
): Promise<CorrectionEffect[]> {
  const of = await caseOf(reader, deliveryId, correction)
  await before(reader, of, correction)
  const effects: CorrectionEffect[] = []
  for (const lot of of.lots) {
    if (correction.field === 'supplier') effects.push(...(await otherQuestions(reader, lot, correction.supplierId, work)))
    if (correction.field !== 'quantity' || correction.quantity === 0) continue
    effects.push(...(await otherSamples(reader, lot, correction)))
  }
  return effects
}

/** One piece has a serial number, and what came in containers is in one of them. @throws {ServerError} `serials_missing`, `containers_do_not_add_up`. */
async function requireTold(
  reader: Reader,
  lot: LotRow,
  { containerId, quantity }: Correction & { field: 'quantity' },
  there: readonly Balance[],
): Promise<void> {
  const units = await unitKindsOf(reader, lot.id)
  const unit = units.find(({ id }) => id === containerId)
  if (containerId !== null && !unit)
    throw new ServerError('reference_unknown', `${lot.code} has no such container.`, { field: 'containerId', received: containerId })
  if (unit?.kind === 'serial' && quantity > 1)
    throw new ServerError(
      'serials_missing',
      `Received ${quantity} for the serial number ${unit.serial ?? unit.label}: one piece has it, or none came.`,
      {
        field: 'quantity',
        received: quantity,
      },
    )
  if (containerId === null && units.length > 0 && there.length === 0)
    throw new ServerError(
      'containers_do_not_add_up',
      `Every piece of ${lot.code} is in a container or has a number: say which of them came with another quantity.`,
      {
        field: 'containerId',
        received: quantity,
      },
    )
}

/** So many pieces from these spots, in their order. */
function takeTo(spots: readonly Balance[], count: number, toOf: (spot: Balance) => MovementEnd): Movement[] {
  return takeFrom(spots, count).map(({ spot, quantity }) => {
    const { containerId, placeId, standing, sublot } = spot
    return { containerId, quantity, from: { placeId, standing, sublot }, to: toOf(spot) }
  })
}

/** Where pieces lay that were said never to have come, the last said first: they are put back there where nothing was decided since. */
async function backTo(reader: Reader, lotId: string, containerId: string | null, never: readonly Balance[], count: number): Promise<Movement[]> {
  const decidedAt = (await loadDecisions(reader, lotId)).at(-1)?.signedAt ?? ''
  const bay = await placeFor(reader, 'inspection')
  const said = (await loadMovements(reader, lotId)).filter((of) => of.toStanding === 'notArrived' && of.containerId === containerId).reverse()
  const holds = await openHolds(reader, lotId, null)
  const left = never.map((spot) => ({ ...spot }))
  const movements: Movement[] = []
  let wanted = count
  for (const { fromPlaceId, fromStanding, quantity, at, toPlaceId, toSublot } of said) {
    const spot = left.find(({ placeId, sublot }) => placeId === toPlaceId && sublot === toSublot)
    const taken = Math.min(wanted, quantity, spot?.quantity ?? 0)
    if (spot === undefined || taken === 0 || fromPlaceId === null || fromStanding === null) continue
    spot.quantity -= taken
    wanted -= taken
    // What was decided meanwhile was decided without them; what holds the others holds them, too.
    const isHeld = holds.some((hold) => hold.quantity === null && holdReaches(hold, { containerId, sublot: toSublot }))
    const back = decidedAt < at ? { placeId: fromPlaceId, standing: fromStanding } : ({ placeId: bay.id, standing: 'onHold' } as const)
    const to = isHeld ? { ...back, standing: 'onHold' as const } : back
    movements.push({ containerId, quantity: taken, from: { placeId: toPlaceId, standing: 'notArrived', sublot: toSublot }, to })
  }
  return movements
}

/** Where what came in addition belongs: with the rest where that was received, on hold where something holds all of the lot. */
async function whereReceived(reader: Reader, lotId: string, containerId: string | null): Promise<MovementEnd> {
  const spot = { containerId, sublot: restOfLot }
  const isHeld = (await openHolds(reader, lotId, null)).some((hold) => hold.quantity === null && holdReaches(hold, spot))
  const arrivals = (await loadMovements(reader, lotId)).filter(({ fromPlaceId }) => fromPlaceId === null)
  const first = arrivals.find((of) => of.containerId === containerId) ?? arrivals[0]
  if (isHeld) return { placeId: first?.toStanding === 'onHold' ? first.toPlaceId : (await placeFor(reader, 'inspection')).id, standing: 'onHold' }
  return { placeId: first?.toStanding === 'released' ? first.toPlaceId : (await placeFor(reader, 'dock')).id, standing: 'released' }
}

/**
 * The movements that put a quantity right: pieces that never came are taken out where they lie, those that came in addition are booked in where
 * the lot was received.
 * @throws {ServerError} `movement_exceeds_balance`, `correction_too_late`, `place_missing`, `serials_missing`, `containers_do_not_add_up`.
 */
async function movementsTo(reader: Reader, lot: LotRow, correction: Correction & { field: 'quantity' }): Promise<Movement[]> {
  const { lotId, containerId, quantity } = correction
  const { there, came, never } = await cameOf(reader, lotId, containerId)
  await requireTold(reader, lot, correction, there)
  if (quantity < came) {
    const reachable = there.filter(inReach)
    const less = came - quantity
    if (sumOf(reachable) < less)
      throw new ServerError('movement_exceeds_balance', `${less} never came, but only ${sumOf(reachable)} are on hold or released here.`, {
        received: less,
        available: sumOf(reachable),
        field: 'quantity',
      })
    return takeTo(reachable, less, ({ placeId }) => ({ placeId, standing: 'notArrived' }))
  }
  const back = await backTo(reader, lotId, containerId, never, quantity - came)
  const arriving = quantity - came - sumOf(back)
  if (arriving === 0) return back
  // What came in addition was not looked at with the rest: that is only right before anything was decided.
  if (await hasDecisions(reader, lotId))
    throw new ServerError('correction_too_late', 'This lot is decided on: more of it cannot have come with it.', { field: 'quantity' })
  return [...back, { containerId, quantity: arriving, from: null, to: await whereReceived(reader, lotId, containerId) }]
}

/** The right supplier: on the occasion, its lots and the histories, and what that supplier's goods are asked for opens in addition. */
async function correctSupplier(work: Work, { occasion, lots }: Case, supplierId: string): Promise<void> {
  await work.manager.update(OccasionEntity, { id: occasion.id }, { partnerId: supplierId })
  const asked = new Map<string, Awaited<ReturnType<typeof askedOf>>['opens']>()
  for (const lot of lots) asked.set(lot.id, (await askedOf(work.manager, lot, supplierId, work)).opens)
  for (const lot of lots) await work.manager.update(LotEntity, { id: lot.id }, { supplierId })
  const ids = lots.map(({ id }) => id)
  await moveHistory(work.manager, ids, occasion.id, supplierId)
  for (const lotId of ids) for (const { id } of await standingOn(work.manager, lotId)) await replaySeverity(work, id, [occasion.partnerId])
  const bay = await placeFor(work.manager, 'inspection')
  for (const lot of lots) {
    const opening = { lotIds: [lot.id], occasionId: occasion.id }
    const entries = (asked.get(lot.id) ?? []).map((entry) => ({
      ...entry,
      opening: { ...opening, containerId: entry.unit?.containerId ?? null, holdPlaceId: entry.considered.point.holdPlaceId ?? bay.id },
    }))
    // What is asked of each unit is asked of other pieces than what is asked of the lot.
    for (const of of new Set(entries.map(({ unit }) => unit)))
      await openTogether(
        work,
        entries.filter(({ unit }) => unit === of),
        holdLot,
      )
  }
}

/**
 * Puts right what was entered wrongly. What was entered first is kept: in the corrections of the delivery, in the ledger and in the chain.
 * @throws {ServerError} as `effectsOf`, and `movement_exceeds_balance`, `correction_too_late`; {CoreError} `quantity_invalid`.
 */
export async function correctDelivery(work: Work, deliveryId: string, correction: Correction, reason: string): Promise<Delivery> {
  const of = await caseOf(work.manager, deliveryId, correction)
  const told = await before(work.manager, of, correction)
  const lotId = 'lotId' in correction ? correction.lotId : null
  if (correction.field === 'quantity' && correction.quantity > 0) checkLotSize(correction.quantity)
  const [lot] = of.lots
  const movements = correction.field === 'quantity' && lot ? await movementsTo(work.manager, lot, correction) : []
  const arrived = sumOf(movements.filter(({ from }) => from === null))
  const row = { id: work.newId(), deliveryId, lotId, field: correction.field, ...told, arrived: arrived > 0 ? arrived : null, reason }
  await work.manager.insert(DeliveryCorrectionEntity, { ...row, at: work.now, personId: work.personId ?? '' })
  work.audit({
    action: 'corrected',
    subject: 'delivery',
    subjectId: deliveryId,
    before: { [correction.field]: told.before },
    after: { [correction.field]: told.after, lotId },
    why: reason,
  })
  if (lotId !== null) for (const movement of movements) await postMovement(work, lotId, movement, 'corrected', { occasionId: deliveryId })
  if (correction.field === 'quantity' && lot) await sampleAnew(work, lot, correction)
  if (correction.field === 'supplierLot') await work.manager.update(LotEntity, { id: correction.lotId }, { supplierLot: correction.supplierLot })
  if (correction.field === 'orderNumber')
    await work.manager.update(
      OccasionEntity,
      { id: deliveryId },
      { orderNumber: await asWritten(work.manager, of.occasion.partnerId ?? '', correction.orderNumber) },
    )
  if (correction.field === 'supplier') await correctSupplier(work, of, correction.supplierId)
  return loadDelivery(work.manager, deliveryId)
}
