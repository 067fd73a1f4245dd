import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { rowsOf } from '../../kernel/database/rowsOf'

/** What rests on a property of a record, in words, with how often; the statement counts. */
interface Rest {
  readonly words: string
  readonly sql: string
}

const count = (from: string) => `SELECT COUNT(*) AS uses FROM ${from}`

/** What pieces, rules and orders take for granted of master data; `?` is its id. */
const rests = {
  'place purpose': [
    { words: 'spots where pieces lie', sql: count('balance WHERE place_id = ? AND quantity > 0') },
    { words: 'put-away rules', sql: count(`put_away_rule WHERE state = 'active' AND ? IN (to_place_id, from_place_id)`) },
    { words: 'control points that hold pieces there', sql: count(`control_point WHERE state = 'active' AND hold_place_id = ?`) },
    { words: 'parts that are stored there', sql: count('part WHERE put_away_place_id = ?') },
    { words: 'open inspections that hold pieces there', sql: count(`inspection WHERE state NOT IN ('decided', 'cancelled') AND hold_place_id = ?`) },
  ],
  'operation kind': [
    { words: 'routings', sql: count('routing_step WHERE operation_id = ?') },
    { words: 'control points', sql: count(`control_point WHERE state = 'active' AND operation_id = ?`) },
    { words: 'steps of orders', sql: count('order_step WHERE operation_id = ?') },
    { words: 'inspections', sql: count('inspection WHERE operation_id = ?') },
  ],
  'part tracking': [
    {
      words: 'lots with pieces in the plant',
      sql: count(
        `lot l WHERE l.part_id = ? AND EXISTS (SELECT 1 FROM balance b WHERE b.lot_id = l.id AND b.quantity > 0 AND b.standing NOT IN ('scrapped', 'returned', 'shipped', 'used', 'notArrived'))`,
      ),
    },
    { words: 'orders that are not finished', sql: count(`production_order WHERE part_id = ? AND state IN ('planned', 'released')`) },
  ],
  // What was counted in the one unit would at once be so many of the other.
  'part unit': [
    { words: 'lots', sql: count('lot WHERE part_id = ?') },
    { words: 'production orders', sql: count('production_order WHERE part_id = ?') },
    { words: 'lines of purchase orders', sql: count('purchase_order_line WHERE part_id = ?') },
    { words: 'lines of announced deliveries', sql: count('expected_line WHERE part_id = ?') },
    { words: 'lines of dispatches', sql: count('dispatch_line WHERE part_id = ?') },
    { words: 'considered arrivals', sql: count('consideration WHERE part_id = ?') },
  ],
  'partner kind': [
    { words: 'operation events', sql: count('occasion WHERE partner_id = ?') },
    { words: 'control points', sql: count(`control_point WHERE state = 'active' AND ? IN (supplier_id, customer_id)`) },
    { words: 'put-away rules', sql: count(`put_away_rule WHERE state = 'active' AND supplier_id = ?`) },
    { words: 'purchase orders', sql: count('purchase_order WHERE supplier_id = ?') },
    { words: 'production orders', sql: count('production_order WHERE customer_id = ?') },
  ],
} as const satisfies Record<string, readonly Rest[]>

/** A property of master data that other things rest on. */
export type Property = keyof typeof rests

async function usesOf(reader: Reader, property: Property, id: string): Promise<{ words: string; uses: number }[]> {
  const found = []
  for (const { words, sql } of rests[property]) {
    const [row] = await rowsOf(reader, { uses: 'number' }, sql, [id])
    if (row && row.uses > 0) found.push({ words, uses: row.uses })
  }
  return found
}

/**
 * Refuses to change a property that stock, rules or orders rest on: what was right of them would be wrong at once.
 * @throws {ServerError} `still_in_use` with what rests on it.
 */
export async function requireNothingRests(
  work: Work,
  property: Property,
  field: string,
  row: { readonly id: string; readonly code: string },
): Promise<void> {
  const found = await usesOf(work.manager, property, row.id)
  if (found.length === 0) return
  const words = found.map((group) => `${group.uses} ${group.words}`).join(', ')
  throw new ServerError('still_in_use', `${row.code} keeps its ${property.split(' ')[1]}: ${words} rest on it. Make another one instead.`, {
    field,
    uses: found.reduce((sum, { uses }) => sum + uses, 0),
  })
}
