import type { Moment } from '@nemawashi/core'
import type { PartRow } from '../../define/masters/entities'
import type { Reader } from '../../kernel/work/database'
import { evaluateEach, evaluatePointsOf, pointsOfMany, type PointToOpen, type ArrivalContext, type PointsAt } from '../../opening/evaluatePoints'
import type { Unit } from '../../stock/units/units'
import { placeFor } from '../../stock/putAway/placeFor'
import { placeByRule } from '../../stock/putAway/putAwayRules'
import { looksAtLoads, operationsOfMany, tradeOf } from './repository'

export interface Arriving {
  readonly part: PartRow
  readonly supplierId: string
  readonly quantity: number
  /** The order that it belongs to; empty where none was said. */
  readonly orderNumber: string
  /** The word that the supplier shares with others, and the contract that the order is under; null where there is none. */
  readonly supplierGroup: string | null
  readonly contract: string | null
  readonly at: string
}
/** What the lines of a delivery have in common. */
export type FromSupplier = Omit<Arriving, 'part' | 'quantity'>

/** Who something comes from, on which order: with the group of the supplier and the contract of the order. */
export async function fromSupplier(reader: Reader, arriving: Pick<Arriving, 'supplierId' | 'orderNumber' | 'at'>): Promise<FromSupplier> {
  return { ...arriving, ...(await tradeOf(reader, arriving.supplierId, arriving.orderNumber)) }
}

/** What is looked up of the parts that come, or leave, for all of them at once. */
export interface ReceivingRoute {
  readonly reader: Reader
  /** Operations of the kind on the way of each part, in order. */
  readonly operations: ReadonlyMap<string, readonly string[]>
  readonly pointsAt: PointsAt
}
/** @param kind what happens to them: where they come in, or leave */
export async function loadReceivingRoute(
  reader: Reader,
  parts: readonly PartRow[],
  kind: 'receiving' | 'shipping' = 'receiving',
): Promise<ReceivingRoute> {
  const ids = parts.map(({ id }) => id)
  return { reader, operations: await operationsOfMany(reader, ids, kind), pointsAt: pointsOfMany(reader, parts) }
}

/** What the receiving operations of a part ask of a lot from a supplier, group by group: of it whole, and of each unit of it. */
export async function receiptOf(
  { reader, operations, pointsAt }: ReceivingRoute,
  arriving: Arriving,
  units: readonly Unit[],
  newId: () => string,
): Promise<PointToOpen[][]> {
  const groups: PointToOpen[][] = []
  for (const operationId of operations.get(arriving.part.id) ?? [])
    groups.push(...(await evaluateEach(reader, { ...arriving, operationId, moment: 'arrival', customerId: null }, units, newId, pointsAt)))
  return groups
}

/** Whether pieces of it are to come on hold as a whole. */
function holdsAll({ considered: { point, due } }: PointToOpen): boolean {
  return point.isGate && point.holds === 'all' && due?.isDue === true
}

/**
 * What comes on hold as a whole goes where a gate says; else, as what is free, where the list of rules says; else what is held to the
 * inspection place, and what is free to the dock.
 * @param before inspections of the load, from before its receipt, that hold all that it brings
 */
export async function findPutAwayDestination(
  reader: Reader,
  points: readonly PointToOpen[],
  arriving: Pick<Arriving, 'part' | 'supplierId'> | null,
  before: readonly { readonly holdPlaceId: string | null }[] = [],
): Promise<{ placeId: string; standing: 'onHold' | 'released' }> {
  const holding = points.filter(holdsAll)
  const named = [...holding.map(({ considered: { point } }) => point), ...before].find(({ holdPlaceId }) => holdPlaceId !== null)?.holdPlaceId
  const isHeld = holding.length > 0 || before.length > 0
  const standing = isHeld ? 'onHold' : 'released'
  if (named != null) return { placeId: named, standing }
  const { part, supplierId } = arriving ?? { part: null, supplierId: null }
  const rule = part === null ? null : await placeByRule(reader, { partId: part.id, familyId: part.familyId, supplierId, standing, placeId: null })
  // What may be put away on hold waits where what is free does.
  const isKeptApart = before.length > 0 || holding.some(({ considered: { point } }) => point.keepsFrom === 'putAway')
  return { placeId: rule?.toPlaceId ?? (await placeFor(reader, isKeptApart ? 'inspection' : 'dock')).id, standing }
}

/** What is on a load: what comes from a supplier, or goes to a customer. */
type OnLoad = Omit<ArrivalContext, 'operationId' | 'moment' | 'subject' | 'customerId'> & { readonly customerId?: string }

/**
 * What is asked of a load, once for all that is on it: a control point that several of its lines reach is asked for the first of them that
 * it opens for, and a question that one line brings up is answered for the load.
 */
export async function loadOf(
  { reader, operations, pointsAt }: ReceivingRoute,
  lines: readonly OnLoad[],
  newId: () => string,
  moment: Moment = 'arrival',
): Promise<PointToOpen[]> {
  if (!(await looksAtLoads(reader))) return []
  const byQuestion = new Map<string, PointToOpen>()
  for (const line of lines) {
    for (const operationId of operations.get(line.part.id) ?? []) {
      const arrival: ArrivalContext = { customerId: null, ...line, operationId, moment, subject: 'load' }
      for (const considered of await evaluatePointsOf(reader, await pointsAt(arrival), arrival, newId)) {
        const { due, point } = considered
        if (due === null) continue
        const question = `${point.planId} ${operationId}`
        const known = byQuestion.get(question)
        if (known === undefined || (known.considered.due?.isDue !== true && due.isDue)) byQuestion.set(question, { arrival, considered, unit: null })
      }
    }
  }
  return [...byQuestion.values()]
}
