import {
  checkLotSize,
  ruleUnder,
  sampleFor,
  type Balance,
  type Movement,
  type SamplingRule,
  type SeverityNow,
  standingsInPlant,
} from '@nemawashi/core'
import type { Correction, CorrectionEffect, Delivery } from '@nemawashi/contract'
import { PartEntity, PartnerEntity, PlanEntity } from '../define/entities'
import type { Reader } from '../kernel/database'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { LotEntity, OccasionEntity, type LotRow, type OccasionRow } from '../stock/entities'
import { holdLot } from '../stock/holds'
import { postMovement } from '../stock/ledger'
import { placeFor } from '../stock/placeFor'
import { hasDecisions, loadBalances, openHolds } from '../stock/repository'
import { moveHistory, rulesOf, standingOn } from './correctionRepository'
import { loadDelivery } from './deliveries'
import { DeliveryCorrectionEntity, DeliveryEntity } from './entities'
import { openTogether } from './openTogether'
import { unitsOf } from '../stock/units'
import { fromSupplier, receiptOf, wayIn } from './receipt'

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

const inReach = ({ standing }: Balance) => standing === 'onHold' || standing === 'released'
const sumOf = (balances: readonly { readonly quantity: number }[]) => balances.reduce((sum, { quantity }) => sum + quantity, 0)

/** Pieces of a lot, or of one container of it, that came: all that were booked, but for those that never did. */
async function cameOf(reader: Reader, lotId: string, containerId: string | null): Promise<{ there: Balance[]; came: number; never: Balance[] }> {
  const there = (await loadBalances(reader, lotId)).filter((balance) => balance.containerId === containerId)
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
        if (is?.kind !== 'supplier')
          throw new ServerError('reference_unknown', `The supplier ${correction.supplierId} does not exist.`, { field: 'supplierId' })
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

/** Samples that were worked out for another quantity: they stay as they are, and it is said. */
async function otherSamples(reader: Reader, lot: LotRow, quantity: number): Promise<CorrectionEffect[]> {
  const effects: CorrectionEffect[] = []
  for (const { id, code, planName, state, sampleMost } of await standingOn(reader, lot.id)) {
    if (state !== 'toDo' && state !== 'started') continue
    const sizes = (await rulesOf(reader, id)).map(({ sampling, severity }) => {
      if (sampling === null) return 0
      const rule = JSON.parse(sampling) as SamplingRule
      return sampleFor(severity === null ? rule : ruleUnder(rule, (JSON.parse(severity) as SeverityNow).state), quantity).sampleSize
    })
    const sampleNow = Math.max(0, ...sizes)
    if (sampleNow !== sampleMost)
      effects.push({ effect: 'keepsSample', lotCode: lot.code, planName, inspectionId: id, inspectionCode: code, sampleSize: sampleMost, sampleNow })
  }
  return effects
}

/** What the receiving of a lot asks for from another supplier, beside what has opened. */
async function askedOf(reader: Reader, lot: LotRow, supplierId: string, work: Pick<Work, 'newId' | 'now'>) {
  const part = await reader.findOneByOrFail(PartEntity, { id: lot.partId })
  const { orderNumber } = await reader.findOneByOrFail(OccasionEntity, { id: lot.originId })
  const arriving = { ...(await fromSupplier(reader, { supplierId, orderNumber, at: work.now })), part, quantity: lot.quantity }
  const units = await unitsOf(reader, lot.id, { standings: standingsInPlant })
  const asked = (await receiptOf(await wayIn(reader, [part]), arriving, units, work.newId)).flat()
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
    const rest = (await loadBalances(reader, lot.id)).filter(
      ({ containerId, standing }) => containerId !== correction.containerId && standing !== 'notArrived',
    )
    effects.push(...(await otherSamples(reader, lot, sumOf(rest) + correction.quantity)))
  }
  return effects
}

/**
 * The movements that put a quantity right: pieces that never came are taken out where they lie, those that came in addition are booked in.
 * @throws {ServerError} `movement_exceeds_balance`, `correction_too_late`, `place_missing`.
 */
async function movementsTo(reader: Reader, { lotId, containerId, quantity }: Correction & { field: 'quantity' }): Promise<Movement[]> {
  const { there, came, never } = await cameOf(reader, lotId, containerId)
  /** So many pieces from these spots, in their order. */
  const take = (spots: readonly Balance[], count: number, toOf: (spot: Balance) => Movement['to']): Movement[] => {
    let left = count
    return spots.flatMap((spot) => {
      const taken = Math.min(left, spot.quantity)
      left -= taken
      const { placeId, standing } = spot
      return taken === 0 ? [] : [{ containerId, quantity: taken, from: { placeId, standing }, to: toOf(spot) }]
    })
  }
  if (quantity < came) {
    const reachable = there.filter(inReach)
    const never = came - quantity
    if (sumOf(reachable) < never)
      throw new ServerError('movement_exceeds_balance', `${never} never came, but only ${sumOf(reachable)} are on hold or released here.`, {
        received: never,
        available: sumOf(reachable),
        field: 'quantity',
      })
    return take(reachable, never, ({ placeId }) => ({ placeId, standing: 'notArrived' }))
  }
  // What came in addition was not looked at with the rest: that is only right before anything was decided.
  if (await hasDecisions(reader, lotId))
    throw new ServerError('correction_too_late', 'This lot is decided on: more of it cannot have come with it.', { field: 'quantity' })
  const standing = (await openHolds(reader, lotId, null)).length > 0 ? 'onHold' : 'released'
  const placeId =
    there.find((spot) => spot.standing === standing)?.placeId ?? (await placeFor(reader, standing === 'onHold' ? 'inspection' : 'dock')).id
  const to = { placeId, standing } as const
  const back = take(never, quantity - came, () => to)
  const arriving = quantity - came - sumOf(back)
  return arriving === 0 ? back : [...back, { containerId, quantity: arriving, from: null, to }]
}

/** The right supplier: on the occasion, its lots and the histories, and what that supplier's goods are asked for opens in addition. */
async function correctSupplier(work: Work, { occasion, lots }: Case, supplierId: string): Promise<void> {
  await work.manager.update(OccasionEntity, { id: occasion.id }, { partnerId: supplierId })
  const asked = new Map<string, Awaited<ReturnType<typeof askedOf>>['opens']>()
  for (const lot of lots) asked.set(lot.id, (await askedOf(work.manager, lot, supplierId, work)).opens)
  for (const lot of lots) await work.manager.update(LotEntity, { id: lot.id }, { supplierId })
  const ids = lots.map(({ id }) => id)
  await moveHistory(work.manager, ids, occasion.id, supplierId)
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
  const movements = correction.field === 'quantity' ? await movementsTo(work.manager, correction) : []
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
  if (correction.field === 'supplierLot') await work.manager.update(LotEntity, { id: correction.lotId }, { supplierLot: correction.supplierLot })
  if (correction.field === 'orderNumber') await work.manager.update(OccasionEntity, { id: deliveryId }, { orderNumber: correction.orderNumber })
  if (correction.field === 'supplier') await correctSupplier(work, of, correction.supplierId)
  return loadDelivery(work.manager, deliveryId)
}
