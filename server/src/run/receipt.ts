import type { PartRow } from '../define/entities'
import type { Reader } from '../kernel/database'
import { considerAt, type Coming, type ConsideredPoint } from '../record/consider'
import { placeFor } from '../stock/placeFor'
import { placeByRule } from '../stock/putAwayRules'
import { looksAtLoads, operationsOf } from './repository'

export interface Asked {
  readonly coming: Coming
  readonly considered: ConsideredPoint
}
export interface Arriving {
  readonly part: PartRow
  readonly supplierId: string
  readonly quantity: number
  /** The order that it belongs to; empty where none was said. */
  readonly orderNumber: string
  readonly at: string
}

async function askedAt(
  reader: Reader,
  arriving: Arriving,
  { subject, moment }: Pick<Coming, 'subject' | 'moment'>,
  newId: () => string,
): Promise<Asked[]> {
  const asked: Asked[] = []
  for (const operationId of await operationsOf(reader, arriving.part.id, 'receiving')) {
    const coming: Coming = { ...arriving, operationId, moment, customerId: null, subject }
    for (const considered of await considerAt(reader, coming, newId)) asked.push({ coming, considered })
  }
  return asked
}

/** What the receiving operations of a part ask of a lot from a supplier, operation by operation. */
export function receiptOf(reader: Reader, arriving: Arriving, newId: () => string): Promise<Asked[]> {
  return askedAt(reader, arriving, { subject: 'lot', moment: 'arrival' }, newId)
}

/** Whether pieces of it are to come on hold as a whole. */
function holdsAll({ considered: { point, due } }: Asked): boolean {
  return point.isGate && point.holds === 'all' && due?.isDue === true
}

/**
 * What comes on hold as a whole goes where a gate says; else, as what is free, where the list of rules says; else what is held to the
 * inspection place, and what is free to the dock.
 * @param before inspections of the load, from before its receipt, that hold all that it brings
 */
export async function whereTo(
  reader: Reader,
  asked: readonly Asked[],
  arriving: Pick<Arriving, 'part' | 'supplierId'> | null,
  before: readonly { readonly holdPlaceId: string | null }[] = [],
): Promise<{ placeId: string; standing: 'onHold' | 'released' }> {
  const holding = asked.filter(holdsAll)
  const named = [...holding.map(({ considered: { point } }) => point), ...before].find(({ holdPlaceId }) => holdPlaceId !== null)?.holdPlaceId
  const isHeld = holding.length > 0 || before.length > 0
  const standing = isHeld ? 'onHold' : 'released'
  if (named != null) return { placeId: named, standing }
  const { part, supplierId } = arriving ?? { part: null, supplierId: null }
  const rule = part === null ? null : await placeByRule(reader, { partId: part.id, familyId: part.familyId, supplierId, standing, placeId: null })
  return { placeId: rule?.toPlaceId ?? (await placeFor(reader, isHeld ? 'inspection' : 'dock')).id, standing }
}

/**
 * What is asked of a load, once for all that is on it: a control point that several of its lines reach is asked for the first of them that
 * it opens for, and a question that one line brings up is answered for the load.
 */
export async function loadOf(
  reader: Reader,
  lines: readonly Arriving[],
  newId: () => string,
  moment: 'announced' | 'registered' | 'arrival' = 'arrival',
): Promise<Asked[]> {
  if (!(await looksAtLoads(reader))) return []
  const byQuestion = new Map<string, Asked>()
  for (const line of lines) {
    for (const asked of await askedAt(reader, line, { subject: 'load', moment }, newId)) {
      const { due, point } = asked.considered
      if (due === null) continue
      const question = `${point.planId} ${asked.coming.operationId}`
      const known = byQuestion.get(question)
      if (known === undefined || (known.considered.due?.isDue !== true && due.isDue)) byQuestion.set(question, asked)
    }
  }
  return [...byQuestion.values()]
}
