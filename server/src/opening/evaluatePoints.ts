import {
  considerPoints,
  historyFrom,
  isDue,
  isInForce,
  isUnitKind,
  looksBack,
  samplingUnitsIn,
  unitKinds,
  type Applied,
  type Due,
  type Moment,
  type PastArrival,
  type PointSubject,
} from '@nemawashi/core'
import { In, IsNull } from 'typeorm'
import type { ControlPointRow } from '../attach/entities'
import type { PartRow } from '../define/masters/entities'
import { dayOf } from '../kernel/database/plantTime'
import type { Reader } from '../kernel/work/database'
import type { Work } from '../kernel/work/unitOfWork'
import { arrivalAt, historyBefore } from './repository'
import type { Unit } from '../stock/units/units'
import { controlPointRows } from '../attach/rows'
import { insertConsideration } from '../inspections/writes'

/** What comes to an operation. */
export interface ArrivalContext {
  readonly operationId: string
  readonly moment: Moment
  readonly part: Pick<PartRow, 'id' | 'familyId' | 'unit'>
  /** Whether lots are looked at, or the load that they come on. */
  readonly subject: PointSubject
  readonly supplierId: string | null
  readonly customerId: string | null
  /** The word that its supplier shares with others, and the contract that its order is under; null where there is none. */
  readonly supplierGroup?: string | null
  readonly contract?: string | null
  /** In whole steps of the part's unit. */
  readonly quantity: number
  /** The order that it belongs to; empty where there is none. */
  readonly orderNumber?: string
  readonly at: string
}

/** How many units of sampling come: what tables, shares and counts go by. */
export const unitsComing = ({ quantity, part }: Pick<ArrivalContext, 'quantity' | 'part'>) => samplingUnitsIn(quantity, part.unit)

/** Whose history it is: a load has one with the partner, whatever is on it. */
const partOf = ({ subject, part }: ArrivalContext) => (subject === 'load' ? null : part.id)

/** A control point with what becomes of it: whether it reaches, and whether its frequency lets this arrival pass by. */
export interface ConsideredPoint extends Applied<ControlPointRow> {
  /** Null where it does not reach, or gives way. */
  readonly due: Due | null
  /** What a random share is drawn from. */
  readonly drawId: string
}

/** Arrivals of a rehearsal that came before, by control point: they are in no table. */
export type Rehearsed = ReadonlyMap<string, readonly PastArrival[]>

interface Here extends Pick<ArrivalContext, 'operationId' | 'moment'> {
  readonly part: Pick<PartRow, 'id' | 'familyId'>
}
/** Looks up the control points of an operation at a moment that could reach a part, whatever they look at. */
export type PointsAt = (here: Here) => Promise<ControlPointRow[]>

/** Each kind of reach by its index. */
function ofReach(reader: Reader, { operationId, moment }: Here, partId: string | null, familyId: string | null): Promise<ControlPointRow[]> {
  const reach = { partId: partId ?? IsNull(), familyId: familyId ?? IsNull() }
  return controlPointRows.list(reader, { operationId, moment, state: 'active', ...reach })
}
async function pointsAt(reader: Reader, here: Here): Promise<ControlPointRow[]> {
  const { id, familyId } = here.part
  const ofFamily = familyId === null ? [] : await ofReach(reader, here, null, familyId)
  return [...(await ofReach(reader, here, id, null)), ...ofFamily, ...(await ofReach(reader, here, null, null))]
}

/** The same for many parts at once: what could reach any of them at an operation is looked up together. */
export function pointsOfMany(reader: Reader, parts: readonly Here['part'][]): PointsAt {
  const ids = [...new Set(parts.map(({ id }) => id))]
  const families = [...new Set(parts.flatMap(({ familyId }) => familyId ?? []))]
  const known = new Map<string, Promise<Map<string, ControlPointRow[]>>>()
  const look = async ({ operationId, moment }: Here) => {
    const at = { operationId, moment, state: 'active' } as const
    const byReach = new Map<string, ControlPointRow[]>()
    const found = [
      await controlPointRows.list(reader, { ...at, partId: In(ids), familyId: IsNull() }),
      families.length === 0 ? [] : await controlPointRows.list(reader, { ...at, partId: IsNull(), familyId: In(families) }),
      await controlPointRows.list(reader, { ...at, partId: IsNull(), familyId: IsNull() }),
    ]
    for (const point of found.flat()) {
      const reach = point.partId ?? point.familyId ?? ''
      byReach.set(reach, [...(byReach.get(reach) ?? []), point])
    }
    return byReach
  }
  return async (here) => {
    const key = `${here.operationId} ${here.moment}`
    const looking = known.get(key) ?? look(here)
    known.set(key, looking)
    const byReach = await looking
    const { id, familyId } = here.part
    return [id, ...(familyId === null ? [] : [familyId]), ''].flatMap((reach) => byReach.get(reach) ?? [])
  }
}

/**
 * The control points of an operation at a moment, and what becomes of each. Opening and rehearsing both ask here.
 * @param rehearsed what a rehearsal played before; it is told of the points of other parts too, which an occasion has nothing to do with
 */
export async function evaluateControlPoints(
  reader: Reader,
  arrival: ArrivalContext,
  newId: () => string,
  rehearsed: Rehearsed | null = null,
): Promise<ConsideredPoint[]> {
  const { operationId, moment } = arrival
  const points = await (rehearsed === null ? pointsAt(reader, arrival) : controlPointRows.list(reader, { operationId, moment, state: 'active' }))
  return evaluatePointsOf(reader, points, arrival, newId, rehearsed ?? undefined)
}

/**
 * The same of control points that were looked up.
 * @param played arrivals that are in no table yet
 */
export async function evaluatePointsOf(
  reader: Reader,
  points: readonly ControlPointRow[],
  arrival: ArrivalContext,
  newId: () => string,
  played: Rehearsed = new Map(),
): Promise<ConsideredPoint[]> {
  const { operationId, part, subject, supplierId, customerId, supplierGroup = null, contract = null, orderNumber = '', at } = arrival
  const day = dayOf(reader, at)
  const here = points.filter((point) => point.subject === subject && isInForce(point, day))
  here.sort((a, b) => (a.code < b.code ? -1 : 1))
  const considered: ConsideredPoint[] = []
  for (const applied of considerPoints(here, { partId: part.id, familyId: part.familyId, supplierId, customerId, supplierGroup, contract })) {
    const { point } = applied
    const drawId = newId()
    if (!applied.opens) {
      considered.push({ ...applied, due: null, drawId })
      continue
    }
    const { planId, frequency } = point
    const key = { planId, operationId, partId: partOf(arrival), partnerId: supplierId ?? customerId }
    const history = historyFrom(looksBack(frequency) ? await historyBefore(reader, key, frequency, orderNumber) : undefined)
    for (const past of played.get(point.id) ?? []) history.note(past)
    const drawn = arrivalAt(reader, { id: drawId, at, quantity: unitsComing(arrival), order: orderNumber })
    considered.push({ ...applied, due: isDue(frequency, drawn, history), drawId })
  }
  return considered
}

/** A control point that was considered for what comes: for a lot, or for one unit of it. */
export interface PointToOpen {
  readonly arrival: ArrivalContext
  readonly considered: ConsideredPoint
  /** Null where the lot is looked at whole. */
  readonly unit: Unit | null
}

/**
 * What is asked of a lot that comes: of it whole, then of each container or serial number in it, group by group. Each unit is an arrival of
 * its own to the frequency of its control point. A lot that is not told apart so is looked at whole.
 */
export async function evaluateEach(
  reader: Reader,
  context: Omit<ArrivalContext, 'subject'>,
  units: readonly Unit[],
  newId: () => string,
  look: PointsAt = (here) => pointsAt(reader, here),
): Promise<PointToOpen[][]> {
  const points = await look(context)
  const whole: PointToOpen[] = []
  const groups = [whole]
  for (const subject of ['lot', ...unitKinds] as const) {
    if (!points.some((point) => point.subject === subject)) continue
    const within = isUnitKind(subject) ? units.filter(({ kind }) => kind === subject) : []
    const played = new Map<string, PastArrival[]>()
    for (const unit of within.length === 0 ? [null] : within) {
      const arrival: ArrivalContext = { ...context, subject, quantity: unit?.quantity ?? context.quantity }
      const evaluated = (await evaluatePointsOf(reader, points, arrival, newId, played)).map((considered) => ({ arrival, considered, unit }))
      if (unit === null) whole.push(...evaluated)
      else groups.push(evaluated)
      for (const { considered } of evaluated) {
        if (considered.due === null) continue
        const drawn = arrivalAt(reader, { id: considered.drawId, at: context.at, quantity: unitsComing(arrival), order: context.orderNumber ?? '' })
        const known = played.get(considered.point.id) ?? []
        played.set(considered.point.id, [...known, { ...drawn, isInspected: considered.due.isDue, isAccepted: null }])
      }
    }
  }
  return groups
}

/** Keeps what a frequency rule said of an arrival. */
export async function recordFrequencyDecisions(
  work: Work,
  arrival: ArrivalContext,
  { point, due, drawId }: ConsideredPoint,
  { occasionId, lotId, inspectionId }: { occasionId: string | null; lotId: string | null; inspectionId: string | null },
): Promise<void> {
  if (due === null) return
  const { operationId, supplierId, customerId } = arrival
  await insertConsideration(work, {
    id: drawId,
    controlPointId: point.id,
    planId: point.planId,
    operationId,
    partId: partOf(arrival),
    partnerId: supplierId ?? customerId,
    occasionId,
    lotId,
    quantity: unitsComing(arrival),
    at: work.now,
    isDue: due.isDue,
    because: due.because,
    inspectionId,
  })
  if (inspectionId === null)
    work.audit({
      action: 'passed by',
      subject: lotId === null ? 'delivery' : 'lot',
      subjectId: lotId ?? occasionId ?? '',
      after: { point: point.code, because: due.because },
    })
}
