import {
  checkFrequencyRule,
  dayBeside,
  dayThatIsOver,
  intervalOf,
  isMomentOf,
  looksAt,
  isInRun,
  momentWords,
  onSpotAt,
  overlapOf,
  findInapplicable,
  describeValidity,
  subjectWords,
  type OperationKind,
} from '@nemawashi/core'
import type { ControlPoint } from '@nemawashi/contract'
import { requirePartner } from '../define/masters/partners'
import { loadLines } from '../define/plans/planLines'
import type { Reader } from '../kernel/work/database'
import { ServerError } from '../kernel/base/serverError'
import type { Work } from '../kernel/work/unitOfWork'
import { loadAt, requireReference, saveNext } from '../kernel/work/versioned'
import { ControlPointEntity, type ControlPointRow } from './entities'
import { closeStop } from './openStops'
import { isOnTheWay, isSupplierGroup, pointById, releasedRevision, samePoints } from './repository'
import { personRows } from '../people/rows'
import { familyRows, operationRows, partRows, placeRows } from '../define/masters/rows'
import { planRows } from '../define/plans/rows'

const words = 'control point'

async function loadPoint(reader: Reader, id: string): Promise<ControlPoint> {
  const point = await pointById(reader, id)
  if (!point) throw new ServerError('not_found', `There is no control point with the id ${id}.`)
  return point
}

type PointInput = Omit<ControlPointRow, 'id' | 'code' | 'state' | 'version'>

const vainWords = {
  holds: 'A load has no sample that could be held: a gate on it holds all that it brought.',
  setsAside: 'A load has no pieces of a sample that could be set aside.',
  keepsFrom: 'Goods are kept from use alone by a gate where they arrive: elsewhere they are not on their way to a store.',
} as const

/** Refuses days that are over. @throws {ServerError} `day_past` */
function checkDays({ today }: Work, input: PointInput, current: ControlPointRow | null): void {
  const over = dayThatIsOver(input, current, today)
  if (over === null) return
  const said = over === 'validFrom' ? 'Nothing begins to ask in the past.' : 'It would never ask again.'
  throw new ServerError('day_past', `Received ${input[over]}, today is ${today}. ${said}`, { field: over, received: input[over], today })
}

/** Refuses a control point that could never be carried out, or that names what is not there. */
async function check(work: Work, input: PointInput): Promise<void> {
  if (input.partId !== null && input.familyId !== null) {
    throw new ServerError('input_invalid', 'A control point is for one part, for one family, or for every part: give one of the two, or none.', {
      field: 'partId',
    })
  }
  if (input.supplierGroup !== null && (input.supplierId !== null || input.customerId !== null))
    throw new ServerError('input_invalid', 'A control point is for one supplier or for a group of them: give one of the two, or none.', {
      field: 'supplierGroup',
    })
  if (input.supplierGroup !== null && !(await isSupplierGroup(work.manager, input.supplierGroup)))
    throw new ServerError('reference_unknown', `No supplier is of the group "${input.supplierGroup}": it would never open.`, {
      field: 'supplierGroup',
      received: input.supplierGroup,
    })
  checkFrequencyRule(input.frequency)
  await requireReference(work, partRows, 'part', input.partId, 'partId')
  await requireReference(work, familyRows, 'family', input.familyId, 'familyId')
  await requirePartner(work, 'supplier', input.supplierId, 'supplierId', true)
  await requirePartner(work, 'customer', input.customerId, 'customerId', true)
  await requireReference(work, placeRows, 'place', input.holdPlaceId, 'holdPlaceId')
  await requireReference(work, planRows, 'plan', input.followPlanId, 'followPlanId')
  const operation = await operationRows.find(work.manager, { id: input.operationId })
  if (!operation) throw new ServerError('reference_unknown', `The operation ${input.operationId} does not exist.`, { field: 'operationId' })
  if (!isMomentOf(operation.kind, input.moment)) {
    throw new ServerError('moment_not_there', `${operation.name} has no moment "${momentWords[input.moment]}".`, {
      field: 'moment',
      kind: operation.kind,
      received: input.moment,
    })
  }
  const vain = findInapplicable(operation.kind, input)
  if (vain !== null) throw new ServerError('input_invalid', vainWords[vain], { field: vain, received: input[vain] })
  if (input.onFailure === 'holdMade' && !isInRun(input.moment))
    throw new ServerError('moment_not_there', `"${momentWords[input.moment]}" there is no check before it to count what was made from.`, {
      field: 'onFailure',
      received: input.moment,
    })
  if ((intervalOf(input.moment) === null) !== (input.every === null)) {
    const unit = intervalOf(input.moment)
    throw new ServerError(
      'interval_missing',
      unit === null ? `"${momentWords[input.moment]}" has no interval: leave it out.` : `Say after how many ${unit} it asks again.`,
      { field: 'every', received: input.every },
    )
  }
  if (input.validFrom !== null && input.validUntil !== null && input.validUntil < input.validFrom)
    throw new ServerError('days_reversed', `Received ${input.validFrom} to ${input.validUntil}: it would end before it begins.`, {
      field: 'validUntil',
    })
  if ((input.supplierGroup !== null || input.contract !== null) && operation.kind !== 'receiving')
    throw new ServerError('moment_not_there', `${operation.name} knows neither suppliers nor their contracts: those come at receiving.`, {
      field: input.contract !== null ? 'contract' : 'supplierGroup',
      kind: operation.kind,
    })
  if (input.subject === 'load' && !looksAt(operation.kind).some(({ subject }) => subject === 'load'))
    throw new ServerError('moment_not_there', `${operation.name} sees no load: loads come at receiving, and leave at shipping.`, {
      field: 'subject',
      kind: operation.kind,
    })
  if (!looksAt(operation.kind).some(({ moment, subject }) => moment === input.moment && subject === input.subject))
    throw new ServerError(
      'moment_not_there',
      `"${momentWords[input.moment]}" a control point at ${operation.name} does not look at ${subjectWords[input.subject]}.`,
      { field: 'subject', kind: operation.kind, received: input.subject },
    )
  if (!(await isOnTheWay(work.manager, input))) {
    throw new ServerError('not_on_the_way', `Nothing that this control point is for passes ${operation.name}: it would never open.`, {
      field: 'operationId',
      operation: operation.name,
    })
  }
  const plan = await planRows.find(work.manager, { id: input.planId })
  if (!plan) throw new ServerError('reference_unknown', `The plan ${input.planId} does not exist.`, { field: 'planId' })
  const revision = await releasedRevision(work.manager, input.planId)
  if (revision?.state !== 'released') {
    throw new ServerError('nothing_released', `The plan ${plan.code} has no released revision (it is ${revision?.state ?? 'empty'}).`, {
      field: 'planId',
      plan: plan.code,
    })
  }
  for (const [i, personId] of input.tells.entries())
    if (!(await personRows.exists(work.manager, { id: personId })))
      throw new ServerError('reference_unknown', `The person ${personId} does not exist.`, { field: `tells.${i}`, received: personId })
  if (input.followPlanId !== null && (await releasedRevision(work.manager, input.followPlanId))?.state !== 'released')
    throw new ServerError('nothing_released', 'The plan that is asked when it fails has no released revision.', { field: 'followPlanId' })
  if (input.answeredAt === 'spot') await requireOnSpot(work, input, operation.kind, revision.id)
}

/** Where goods arrive what is answered on the spot is quick: yes or no. */
async function requireOnSpot(work: Work, { moment }: PointInput, kind: OperationKind, revisionId: string): Promise<void> {
  const extent = onSpotAt(kind, moment)
  const lines = extent === 'quick' ? await loadLines(work.manager, revisionId) : []
  const other = lines.find((line) => line.kind !== 'judged')
  if (extent !== null && other === undefined) return
  throw new ServerError(
    'not_quick',
    other
      ? `${other.name} is ${other.kind}: a quick question is judged, conforming or not.`
      : 'Nobody stands beside the goods then: it is answered on the spot where goods arrive, and at a step.',
    { field: 'answeredAt', ...(other ? { line: other.name, kind: other.kind } : {}) },
  )
}

/** Two that hang the same plan for the same would both ask, on every day from today on that both are in force. */
async function requireUnattached(work: Work, input: PointInput, exceptId: string | null): Promise<void> {
  for (const same of await samePoints(work.manager, input)) {
    const ahead = same.id === exceptId ? null : overlapOf(same, { validFrom: work.today, validUntil: null })
    const both = ahead === null || overlapOf(input, ahead) === null ? null : overlapOf(input, same)
    if (both === null) continue
    const days = describeValidity(both)
    throw new ServerError(
      'already_exists',
      `${same.code} hangs this plan there already, for the same part, partner and moment${days === '' ? '' : `; both would ask ${days}`}.`,
      { code: same.code, ...both },
    )
  }
}

/** Hangs a plan on an operation. @throws {ServerError} as `check`, `day_past`, `already_exists`. */
export async function hangPoint(work: Work, input: PointInput, from: string | null = null): Promise<ControlPoint> {
  await check(work, input)
  checkDays(work, input, null)
  await requireUnattached(work, input, null)
  const row: ControlPointRow = { ...input, id: work.newId(), code: await work.nextCode('CP'), state: 'active', version: 1 }
  await work.manager.insert(ControlPointEntity, { ...row })
  work.audit({ action: 'attached', subject: words, subjectId: row.id, after: { ...row, ...(from === null ? {} : { inPlaceOf: from }) } })
  if (row.partId !== null) await closeStop(work, row.partId, row.operationId)
  return loadPoint(work.manager, row.id)
}

async function loadActive(work: Work, id: string, version: number): Promise<ControlPointRow> {
  const current = await loadAt(work, ControlPointEntity, words, id, version)
  if (current.state === 'retired') throw new ServerError('already_retired', `${current.code} is retired.`)
  return current
}

export async function changePoint(work: Work, id: string, version: number, input: PointInput): Promise<ControlPoint> {
  const current = await loadActive(work, id, version)
  await check(work, input)
  checkDays(work, input, current)
  await requireUnattached(work, input, id)
  await saveNext(work, ControlPointEntity, words, 'changed', current, input)
  return loadPoint(work.manager, id)
}

/** From a day on another one asks in its stead: it ends the day before. @throws {ServerError} `day_past`, and as `hangPoint`. */
export async function replacePoint(work: Work, id: string, version: number, input: PointInput & { validFrom: string }): Promise<ControlPoint> {
  const current = await loadActive(work, id, version)
  const today = work.today
  if (input.validFrom <= today || (current.validFrom !== null && input.validFrom <= current.validFrom))
    throw new ServerError('day_past', `Received ${input.validFrom}. Another one follows ${current.code} on a day after today and after it began.`, {
      field: 'validFrom',
      received: input.validFrom,
      today,
    })
  await saveNext(work, ControlPointEntity, words, 'followed by another', current, { validUntil: dayBeside(input.validFrom, -1) })
  return hangPoint(work, input, current.code)
}

export async function retirePoint(work: Work, id: string, version: number): Promise<ControlPoint> {
  const current = await loadActive(work, id, version)
  await saveNext(work, ControlPointEntity, words, 'retired', current, { state: 'retired' })
  return loadPoint(work.manager, id)
}
