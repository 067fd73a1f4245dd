import type { Arrival, Due, DueReason, PastArrival } from '@nemawashi/core'
import { dayOf } from '../define/planSchedule'
import type { Reader } from '../kernel/database'
import type { ConsiderationRow } from './entities'

/** Arrivals that a frequency rule can look back on; the contract keeps its numbers at 500 at most. */
const lookBack = 1000

type Row = Pick<ConsiderationRow, 'id' | 'at' | 'quantity'> & { state: string | null; verdict: string | null }

/** What comes, as a frequency rule sees it. @param id what a random share is drawn from */
export function arrivalAt(id: string, at: string, quantity: number): Arrival {
  return { id, day: dayOf(at), atHours: Date.parse(at) / 3_600_000, quantity }
}

function arrivalOf({ id, at, quantity, state, verdict }: Row): PastArrival {
  return {
    ...arrivalAt(id, at, quantity),
    // One that was called off has looked at nothing.
    isInspected: state !== null && state !== 'cancelled',
    isAccepted: state === 'cancelled' || verdict === null ? null : verdict === 'acceptable',
  }
}

/** What came before, oldest first: of this plan at this operation, for the part with the partner. */
export async function arrivalsBefore(
  reader: Reader,
  { planId, operationId, partId, partnerId }: Pick<ConsiderationRow, 'planId' | 'operationId' | 'partId' | 'partnerId'>,
): Promise<PastArrival[]> {
  const rows = (await reader.query(
    `SELECT c.id, c.at, c.quantity, i.state, i.verdict FROM consideration c LEFT JOIN inspection i ON i.id = c.inspection_id
     WHERE c.plan_id = ? AND c.operation_id = ? AND c.part_id IS NOT DISTINCT FROM ? AND c.partner_id IS NOT DISTINCT FROM ? ORDER BY c.at DESC, c.id DESC LIMIT ${lookBack}`,
    [planId, operationId, partId, partnerId],
  )) as Row[]
  return rows.reverse().map(arrivalOf)
}

/** Histories that a reach would have had: arrivals of the plan at the operation, by part and partner, oldest first. */
export async function historiesOf(
  reader: Reader,
  {
    planId,
    operationId,
    partId,
    familyId,
    partnerId,
  }: { planId: string; operationId: string; partId: string | null; familyId: string | null; partnerId: string | null },
  most: number,
): Promise<{ histories: PastArrival[][]; isCut: boolean }> {
  const conditions = ['c.plan_id = ?', 'c.operation_id = ?']
  const values: string[] = [planId, operationId]
  for (const [sql, value] of [
    ['c.part_id = ?', partId],
    ['t.family_id = ?', familyId],
    ['c.partner_id = ?', partnerId],
  ] as const) {
    if (value === null) continue
    conditions.push(sql)
    values.push(value)
  }
  const rows = (await reader.query(
    `SELECT c.id, c.at, c.quantity, c.part_id, c.partner_id, i.state, i.verdict FROM consideration c JOIN part t ON t.id = c.part_id
     LEFT JOIN inspection i ON i.id = c.inspection_id WHERE ${conditions.join(' AND ')} ORDER BY c.at DESC, c.id DESC LIMIT ?`,
    [...values, most + 1],
  )) as (Row & { partId: string; partnerId: string | null })[]
  const found = new Map<string, PastArrival[]>()
  for (const row of rows.slice(0, most).reverse()) {
    const key = `${row.partId} ${row.partnerId ?? ''}`
    found.set(key, [...(found.get(key) ?? []), arrivalOf(row)])
  }
  return { histories: [...found.values()], isCut: rows.length > most }
}

/** What control points let pass by of a lot, in order, and why. */
export async function passedByOn(reader: Reader, lotId: string): Promise<{ id: string; planName: string; at: string; due: Due }[]> {
  const rows = (await reader.query(
    `SELECT c.id, p.name AS plan_name, c.at, c.because FROM consideration c JOIN plan p ON p.id = c.plan_id
     WHERE c.lot_id = ? AND c.inspection_id IS NULL ORDER BY c.at, c.id`,
    [lotId],
  )) as { id: string; planName: string; at: string; because: string }[]
  return rows.map(({ because, ...row }) => ({ ...row, due: { isDue: false, because: JSON.parse(because) as DueReason } }))
}
