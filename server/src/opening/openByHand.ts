import { samplingUnitsIn, standingsToInspect, usualConsequence, type Balance } from '@nemawashi/core'
import type { HandOpening } from '@nemawashi/contract'
import type { ControlPointRow } from '../attach/entities'
import { ServerError } from '../kernel/base/serverError'
import type { Work } from '../kernel/work/unitOfWork'
import { holdLot } from '../stock/holds/holds'
import { placeFor } from '../stock/putAway/placeFor'
import { loadBalances, unitKindsOf } from '../stock/ledger/repository'
import { openInspection, loadPointSample, type OpenedInspection } from './openInspection'
import { lotRows } from '../stock/ledger/rows'
import { partRows, operationRows } from '../define/masters/rows'
import { planRows } from '../define/plans/rows'
import { insertControlPoint } from '../attach/writes'
import { noteOpenedByHand } from '../inspections/writes'

/**
 * Opens an inspection that no control point asked for: of all of a lot that is in the plant, or of one container or serial number, by the
 * plan that is given. It asks as a control point would that hangs nowhere, once: it has no history, and none is made by it. Where it is to
 * hold, the pieces that are free are held at once and wait for a decision; without that they are held if it fails.
 * @throws {ServerError} `not_found`, `reference_unknown`, `nothing_there`, `nothing_released`, whatever the plan's sampling refuses.
 */
export async function openByHand(work: Work, lotId: string, wish: HandOpening): Promise<OpenedInspection> {
  const { planId, operationId, containerId, isHolding, reason } = wish
  const lot = await lotRows.find(work.manager, { id: lotId })
  if (!lot) throw new ServerError('not_found', `There is no lot with the id ${lotId}.`)
  const known = {
    planId: await planRows.find(work.manager, { id: planId }),
    operationId: await operationRows.find(work.manager, { id: operationId }),
  }
  for (const [field, row] of Object.entries(known)) if (!row) throw new ServerError('reference_unknown', `The ${field} is not known.`, { field })
  const unit = containerId === null ? null : ((await unitKindsOf(work.manager, lotId)).find(({ id }) => id === containerId) ?? null)
  if (containerId !== null && unit === null)
    throw new ServerError('reference_unknown', `${lot.code} has no such container or serial number.`, { field: 'containerId' })
  const isMeant = (spot: Balance) => standingsToInspect.includes(spot.standing) && (containerId === null || spot.containerId === containerId)
  const { unit: countedIn } = await partRows.load(work.manager, lot.partId)
  const available = (await loadBalances(work.manager, lotId)).filter(isMeant).reduce((sum, { quantity }) => sum + quantity, 0)
  if (available === 0) throw new ServerError('nothing_there', `No piece of ${unit === null ? lot.code : unit.label} is in the plant.`, { lotId })
  const point: ControlPointRow = {
    ...usualConsequence,
    id: work.newId(),
    code: await work.nextCode('H'),
    operationId,
    moment: 'arrival',
    every: null,
    planId,
    partId: lot.partId,
    familyId: null,
    supplierId: null,
    customerId: null,
    supplierGroup: null,
    contract: null,
    subject: unit?.kind ?? 'lot',
    holds: 'all',
    frequency: { kind: 'everyArrival' },
    responsible: '',
    dueHours: null,
    holdPlaceId: isHolding ? (await placeFor(work.manager, 'inspection')).id : null,
    isGate: isHolding,
    onFailure: 'hold',
    need: 'adaptable',
    validFrom: null,
    validUntil: null,
    state: 'byHand',
    version: 1,
  }
  await insertControlPoint(work, point)
  const opening = {
    lotId,
    unit: unit === null ? null : { kind: unit.kind, containerId: unit.id },
    partId: lot.partId,
    lotSize: samplingUnitsIn(available, countedIn),
    holdPlaceId: point.holdPlaceId,
    occasionId: null,
    history: null,
  }
  const opened = await openInspection(work, point, opening, await loadPointSample(work, point, opening))
  await noteOpenedByHand(work, opened.id, reason)
  work.audit({ action: 'opened by hand', subject: 'inspection', subjectId: opened.id, why: reason, after: { lotId, containerId, planId } })
  if (isHolding) await holdLot(work, lotId, opened, { containerId })
  return opened
}
