import { isUnitKind, samplingUnitsIn, standingsInPlant } from '@nemawashi/core'
import type { Correction, CorrectionEffect } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import type { Work } from '../../kernel/work/unitOfWork'
import type { LotRow } from '../../stock/ledger/entities'
import { loadBalances, unitOfLot } from '../../stock/ledger/repository'
import { isUntouched, resample, samplesOf } from '../../opening/resample'
import { standingOn, type OpenOnLot } from './repository'
import { unitsOf } from '../../stock/units/units'
import { fromSupplier, receiptOf, loadReceivingRoute } from '../receiving/receipt'
import { sumOf, loadCorrectionCase, valuesOf } from './correctionCase'
import { planRows } from '../../define/plans/rows'
import { partRows } from '../../define/masters/rows'
import { inspectionRows } from '../../inspections/rows'
import { occasionRows } from '../../stock/ledger/rows'

/** How many units of sampling an inspection of a lot looks at after a correction: all that came of it, or of its container. */
async function sizeAfter(
  reader: Reader,
  { subjectId, subjectKind }: OpenOnLot,
  lotId: string,
  correction: Correction & { field: 'quantity' },
): Promise<number | null> {
  const unit = await unitOfLot(reader, lotId)
  if (isUnitKind(subjectKind)) return subjectId === correction.containerId ? samplingUnitsIn(correction.quantity, unit) : null
  const rest = (await loadBalances(reader, lotId)).filter(
    ({ containerId, standing }) => containerId !== correction.containerId && standing !== 'notArrived',
  )
  return samplingUnitsIn(sumOf(rest) + correction.quantity, unit)
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
export async function sampleAnew(work: Work, lot: LotRow, correction: Correction & { field: 'quantity' }): Promise<void> {
  for (const standing of await standingOn(work.manager, lot.id)) {
    const size = await sizeAfter(work.manager, standing, lot.id, correction)
    if (!isUntouched(standing) || size === null || size === 0 || size === standing.lotSize) continue
    await resample(work, await inspectionRows.load(work.manager, standing.id), size)
  }
}

/** What the receiving of a lot asks for from another supplier, beside what has opened. */
export async function questionsOf(reader: Reader, lot: LotRow, supplierId: string, work: Pick<Work, 'newId' | 'now'>) {
  const part = await partRows.load(reader, lot.partId)
  const { orderNumber } = await occasionRows.load(reader, lot.originId)
  const arriving = { ...(await fromSupplier(reader, { supplierId, orderNumber, at: work.now })), part, quantity: lot.quantity }
  const units = await unitsOf(reader, lot.id, { standings: standingsInPlant })
  const points = (await receiptOf(await loadReceivingRoute(reader, [part]), arriving, units, work.newId)).flat()
  const standing = await standingOn(reader, lot.id)
  const opens = points.filter(
    ({ considered: { point, due } }) => due?.isDue === true && !standing.some(({ controlPointId }) => controlPointId === point.id),
  )
  const noLonger = standing.filter(
    ({ controlPointId }) => !points.some(({ considered: { point, due } }) => due !== null && point.id === controlPointId),
  )
  return { opens, noLonger }
}

async function otherQuestions(reader: Reader, lot: LotRow, supplierId: string, work: Pick<Work, 'newId' | 'now'>): Promise<CorrectionEffect[]> {
  const { opens, noLonger } = await questionsOf(reader, lot, supplierId, work)
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
    const plan = await planRows.load(reader, considered.point.planId)
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
  const found = await loadCorrectionCase(reader, deliveryId, correction)
  await valuesOf(reader, found, correction)
  const effects: CorrectionEffect[] = []
  for (const lot of found.lots) {
    if (correction.field === 'supplier') effects.push(...(await otherQuestions(reader, lot, correction.supplierId, work)))
    if (correction.field !== 'quantity' || correction.quantity === 0) continue
    effects.push(...(await otherSamples(reader, lot, correction)))
  }
  return effects
}
