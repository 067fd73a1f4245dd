import { frequencyLookBack, type Arrival, type Due, type DueReason, type PastArrival } from '@nemawashi/core'
import { dayOf } from '../kernel/plantTime'
import type { Reader } from '../kernel/database'
import type { ConsiderationRow } from './entities'

type Row = Pick<ConsiderationRow, 'id' | 'at' | 'quantity'> & { order: string; state: string | null; verdict: string | null }

/** What comes, as a frequency rule sees it. @param id what a random share is drawn from */
export function arrivalAt(reader: Reader, { id, at, quantity, order }: Pick<Row, 'id' | 'at' | 'quantity' | 'order'>): Arrival {
  return { id, day: dayOf(reader, at), atHours: Date.parse(at) / 3_600_000, quantity, order }
}

function arrivalOf(reader: Reader, { state, verdict, ...row }: Row): PastArrival {
  return {
    ...arrivalAt(reader, row),
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
    `SELECT c.id, c.at, c.quantity, COALESCE(o.order_number, '') AS "order", i.state, i.verdict FROM consideration c LEFT JOIN inspection i ON i.id = c.inspection_id
     LEFT JOIN occasion o ON o.id = c.occasion_id
     WHERE c.plan_id = ? AND c.operation_id = ? AND c.part_id IS NOT DISTINCT FROM ? AND c.partner_id IS NOT DISTINCT FROM ? ORDER BY c.at DESC, c.id DESC LIMIT ${frequencyLookBack}`,
    [planId, operationId, partId, partnerId],
  )) as Row[]
  return rows.reverse().map((row) => arrivalOf(reader, row))
}

/** What control points let pass by of lots, in order, and why. */
export async function passedByOn(
  reader: Reader,
  lotIds: readonly string[],
): Promise<{ lotId: string; id: string; planName: string; at: string; due: Due }[]> {
  const rows = (await reader.query(
    `SELECT c.lot_id, c.id, p.name AS plan_name, c.at, c.because FROM consideration c JOIN plan p ON p.id = c.plan_id
     WHERE c.lot_id IN (SELECT value FROM json_each(?)) AND c.inspection_id IS NULL ORDER BY c.at, c.id`,
    [JSON.stringify(lotIds)],
  )) as { lotId: string; id: string; planName: string; at: string; because: string }[]
  return rows.map(({ because, ...row }) => ({ ...row, due: { isDue: false, because: JSON.parse(because) as DueReason } }))
}
