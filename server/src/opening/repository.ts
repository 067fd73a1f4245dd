import type { Arrival, Due, DueReason, FrequencyHistory, FrequencyRule } from '@nemawashi/core'
import { dayOf } from '../kernel/database/plantTime'
import type { Reader } from '../kernel/work/database'
import type { ConsiderationRow } from '../inspections/entities'
import { rowsOf } from '../kernel/database/rowsOf'

/** What comes, as a frequency rule sees it. @param id what a random share is drawn from */
export function arrivalAt(
  reader: Reader,
  { id, at, quantity, order }: Pick<ConsiderationRow, 'id' | 'at' | 'quantity'> & { order: string },
): Arrival {
  return { id, day: dayOf(reader, at), atHours: Date.parse(at) / 3_600_000, quantity, order }
}

/** Whose history it is: of a plan at an operation, for the part with the partner. */
export type HistoryOf = Pick<ConsiderationRow, 'planId' | 'operationId' | 'partId' | 'partnerId'>

const ofHistory = 'c.plan_id = ? AND c.operation_id = ? AND c.part_id IS NOT DISTINCT FROM ? AND c.partner_id IS NOT DISTINCT FROM ?'
/** One that was called off has looked at nothing. */
const looked = `JOIN inspection i ON i.id = c.inspection_id AND i.state <> 'cancelled'`
const latestFirst = 'ORDER BY c.at DESC, c.id DESC'

/** Inspected ones that are read at a time, the latest first. */
const atOnce = 50

/**
 * What a frequency rule rests on, of all that came before. Asked of the database by what the rule needs of it, so that an arrival costs as
 * much after years as on the first day: the last that was inspected, what passed by since, and the judged ones back to a failure or to as many
 * as the rule counts.
 */
export async function historyBefore(reader: Reader, about: HistoryOf, rule: FrequencyRule, order: string): Promise<FrequencyHistory> {
  const key = [about.planId, about.operationId, about.partId, about.partnerId]
  const [last] = await rowsOf(
    reader,
    { at: 'text', id: 'text' },
    `SELECT c.at, c.id FROM consideration c ${looked} WHERE ${ofHistory} ${latestFirst} LIMIT 1`,
    key,
  )
  const counts = rule.kind === 'oneIn' || rule.kind === 'earnedSkipping' || rule.kind === 'perPieces'
  const [since] = !counts
    ? []
    : await rowsOf(
        reader,
        { arrivals: 'number', pieces: 'number' },
        `SELECT COUNT(*) AS arrivals, COALESCE(SUM(c.quantity), 0) AS pieces FROM consideration c WHERE ${ofHistory} AND (c.at, c.id) > (?, ?)`,
        [...key, last?.at ?? '', last?.id ?? ''],
      )
  const hasOrder =
    rule.kind === 'oncePerOrder' &&
    order !== '' &&
    (
      await reader.query(
        `SELECT 1 FROM occasion o JOIN consideration c ON c.occasion_id = o.id ${looked} WHERE o.order_number = ? AND o.partner_id IS NOT DISTINCT FROM ?
         AND ${ofHistory} LIMIT 1`,
        [order, about.partnerId, ...key],
      )
    ).length > 0
  return {
    last: last ? { day: dayOf(reader, last.at), atHours: Date.parse(last.at) / 3_600_000 } : null,
    since: { arrivals: Number(since?.arrivals ?? 0), pieces: Number(since?.pieces ?? 0) },
    ...(await judgedBefore(reader, key, rule)),
    hasSeenOrder: (number) => hasOrder && number === order,
  }
}

/** The judged ones, back to a failure or to as many as the rule counts. */
async function judgedBefore(
  reader: Reader,
  key: readonly unknown[],
  rule: FrequencyRule,
): Promise<Pick<FrequencyHistory, 'acceptedInRow' | 'sinceFailure'>> {
  const clearance = 'clearance' in rule ? rule.clearance : 0
  const full = rule.fullAfterFailure ?? 0
  let [accepted, inspected] = [0, 0]
  let from: readonly [string, string] = ['~', '']
  while (accepted < clearance || inspected < full) {
    const rows = await rowsOf(
      reader,
      { at: 'text', id: 'text', verdict: 'text?' },
      `SELECT c.at, c.id, i.verdict FROM consideration c ${looked} WHERE ${ofHistory} AND (c.at, c.id) < (?, ?) ${latestFirst} LIMIT ${atOnce}`,
      [...key, ...from],
    )
    for (const { verdict } of rows) {
      if (verdict !== null && verdict !== 'acceptable') return { acceptedInRow: accepted, sinceFailure: inspected }
      inspected += 1
      if (verdict !== null) accepted += 1
    }
    const last = rows.at(-1)
    if (rows.length < atOnce || !last) break
    from = [last.at, last.id]
  }
  // No failure back to there: whether there is one beyond is the same to the rule.
  return { acceptedInRow: accepted, sinceFailure: null }
}

/** What control points let pass by of lots, in order, and why. */
export async function skippedByRuleOn(
  reader: Reader,
  lotIds: readonly string[],
): Promise<{ lotId: string; id: string; planName: string; at: string; due: Due }[]> {
  const rows = await rowsOf(
    reader,
    { lotId: 'text', id: 'text', planName: 'text', at: 'text', because: 'text' },
    `SELECT c.lot_id, c.id, p.name AS plan_name, c.at, c.because FROM consideration c JOIN plan p ON p.id = c.plan_id
     WHERE c.lot_id IN (SELECT value FROM json_each(?)) AND c.inspection_id IS NULL ORDER BY c.at, c.id`,
    [JSON.stringify(lotIds)],
  )
  return rows.map(({ because, ...row }) => ({ ...row, due: { isDue: false, because: JSON.parse(because) as DueReason } }))
}
