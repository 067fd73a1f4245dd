import { sumInUnits } from '../../stock/ledger/sumInUnits'
import type { Dispatch } from '@nemawashi/contract'
import type { SearchProvider } from '../../kernel/area'
import type { Reader } from '../../kernel/work/database'
import type { Filter, ListSpec } from '../../kernel/http/lists'
import { finerOf } from '../../stock/ledger/finerRepository'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

/** Dispatches by their number, or that of their order. */
export const dispatchesFound: SearchProvider = {
  kind: 'dispatch',
  sql: `SELECT d.id, d.code AS title, c.name || ' · order ' || o.order_number AS detail FROM dispatch d JOIN occasion o ON o.id = d.id JOIN partner c ON c.id = o.partner_id
    WHERE d.code LIKE ? ESCAPE '\\' OR o.order_number LIKE ? ESCAPE '\\' ORDER BY o.at DESC LIMIT 6`,
}

const checksOf = (which: string) => `(SELECT COUNT(*) FROM inspection i WHERE i.occasion_id = d.id AND ${which})`

export const dispatchList: ListSpec = {
  from: 'occasion o JOIN dispatch d ON d.id = o.id JOIN partner c ON c.id = o.partner_id',
  where: `o.kind = 'dispatch'`,
  id: 'o.id',
  columns: {
    id: { sql: 'o.id' },
    code: { sql: 'd.code' },
    customerName: { sql: 'c.name' },
    orderNumber: { sql: 'o.order_number' },
    state: { sql: 'd.state' },
    at: { sql: 'o.at' },
    leavesOn: { sql: 'd.leaves_on', isNullable: true },
    pickedAt: { sql: 'd.picked_at', isNullable: true },
    pieces: {
      sql: `(SELECT ${sumInUnits('x.quantity', 't.unit')} FROM (SELECT l.part_id, p.quantity FROM dispatch_pick p JOIN lot l ON l.id = p.lot_id
          WHERE d.picked_at IS NOT NULL AND p.dispatch_id = d.id
        UNION ALL SELECT n.part_id, n.quantity FROM dispatch_line n WHERE d.picked_at IS NULL AND n.dispatch_id = d.id) x JOIN part t ON t.id = x.part_id)`,
      kind: 'number',
    },
    openChecks: { sql: checksOf(`i.state NOT IN ('decided', 'cancelled')`), kind: 'number' },
    failedChecks: { sql: checksOf(`i.state = 'finished' AND i.verdict = 'notAcceptable'`), kind: 'number' },
    returned: {
      sql: `(SELECT ${sumInUnits('r.quantity', 't.unit')} FROM customer_return r JOIN lot l ON l.id = r.lot_id JOIN part t ON t.id = l.part_id WHERE r.dispatch_id = d.id)`,
      kind: 'number',
    },
  },
  search: [
    'd.code',
    'c.name',
    'o.order_number',
    `(SELECT string_agg(t.code, ' ') FROM dispatch_line n JOIN part t ON t.id = n.part_id WHERE n.dispatch_id = d.id)`,
    `(SELECT string_agg(l.code, ' ') FROM dispatch_pick p JOIN lot l ON l.id = p.lot_id WHERE p.dispatch_id = d.id)`,
  ],
  sort: ['at', 'desc'],
}

export function dispatchFilters({ state }: { state?: string | undefined }): Filter[] {
  return state === undefined ? [] : [{ sql: 'd.state = ?', values: [state] }]
}

/** Of a balance `b` at a place `p`: whether its pieces may be picked. */
const isPickable = `b.standing = 'released' AND b.quantity > 0 AND p.purpose = 'store' AND COALESCE(${finerOf('may_pick')}, TRUE)`

/** Released pieces in stores, by lot, container and place. */
export const pickableList: ListSpec = {
  // What lies together is one row, whatever set its pieces apart before.
  from: `(SELECT lot_id, container_id, place_id, standing, SUM(quantity) AS quantity FROM balance WHERE standing = 'released' AND quantity > 0
      GROUP BY lot_id, container_id, place_id, standing) b JOIN lot l ON l.id = b.lot_id JOIN part t ON t.id = l.part_id JOIN place p ON p.id = b.place_id
    LEFT JOIN container c ON c.id = b.container_id`,
  where: isPickable,
  id: `l.code || ' ' || b.container_id || ' ' || b.place_id || ' ' || b.standing`,
  columns: {
    id: { sql: `l.code || ' ' || b.container_id || ' ' || b.place_id || ' ' || b.standing` },
    lotId: { sql: 'l.id' },
    code: { sql: 'l.code' },
    name: { sql: `t.code || ', ' || p.name || COALESCE(', ' || c.label, '')` },
    partCode: { sql: 't.code' },
    partName: { sql: 't.name' },
    containerId: { sql: `NULLIF(b.container_id, '')`, isNullable: true },
    containerLabel: { sql: 'c.label', isNullable: true },
    placeId: { sql: 'p.id' },
    placeName: { sql: 'p.name' },
    quantity: { sql: 'b.quantity', kind: 'quantity' },
    unit: { sql: 't.unit', kind: 'unit' },
    planned: {
      sql: `(SELECT COALESCE(SUM(n.quantity), 0) FROM dispatch d JOIN dispatch_line n ON n.dispatch_id = d.id WHERE d.state = 'planned' AND n.part_id = t.id)`,
      kind: 'number',
    },
    since: { sql: 'l.created_at' },
  },
  search: ['l.code', 't.code', 't.name', 'c.label', 'p.name'],
  sort: ['since', 'asc'],
}

export type DispatchHead = Omit<Dispatch, 'lines' | 'picks' | 'checks' | 'gates' | 'returns'>

const dispatchHeadColumns: Columns<DispatchHead> = {
  code: 'text',
  id: 'text',
  state: 'text',
  version: 'number',
  customerName: 'text',
  customerId: 'text',
  byName: 'text',
  at: 'text',
  orderNumber: 'text',
  leavesOn: 'text?',
  pickedAt: 'text?',
  pickedByName: 'text',
  sentAt: 'text?',
}

export async function dispatchHead(reader: Reader, id: string): Promise<DispatchHead | null> {
  const [head] = await rowsOf<DispatchHead>(
    reader,
    dispatchHeadColumns,
    `SELECT d.id, d.code, c.id AS customer_id, c.name AS customer_name, o.order_number, d.state, o.at, b.name AS by_name, d.leaves_on, d.picked_at, COALESCE(p.name, '') AS picked_by_name, d.sent_at, d.version
     FROM dispatch d JOIN occasion o ON o.id = d.id JOIN partner c ON c.id = o.partner_id JOIN person b ON b.id = o.person_id LEFT JOIN person p ON p.id = d.picked_by_id WHERE d.id = ?`,
    [id],
  )
  return head ?? null
}

type PlannedLine = Dispatch['lines'][number]

/** What was planned, part by part, with what was picked of it, what could be, and who else wants it. */
export async function plannedLines(reader: Reader, dispatchId: string): Promise<PlannedLine[]> {
  const lines = await rowsOf<Omit<PlannedLine, 'alsoPlanned'>>(
    reader,
    { partId: 'text', unit: 'text', partCode: 'text', free: 'number', quantity: 'number', picked: 'number', partName: 'text' },
    `SELECT n.part_id, t.code AS part_code, t.name AS part_name, t.unit, n.quantity,
       (SELECT COALESCE(SUM(k.quantity), 0) FROM dispatch_pick k JOIN lot l ON l.id = k.lot_id WHERE k.dispatch_id = n.dispatch_id AND l.part_id = n.part_id) AS picked,
       (SELECT COALESCE(SUM(b.quantity), 0) FROM lot l JOIN balance b ON b.lot_id = l.id JOIN place p ON p.id = b.place_id
        WHERE l.part_id = n.part_id AND ${isPickable}) AS free
     FROM dispatch_line n JOIN part t ON t.id = n.part_id WHERE n.dispatch_id = ? ORDER BY n.position`,
    [dispatchId],
  )
  const others = await rowsOf<PlannedLine['alsoPlanned'][number] & { partId: string }>(
    reader,
    { id: 'text', code: 'text', quantity: 'number', leavesOn: 'text?', partId: 'text' },
    `SELECT n.part_id, d.id, d.code, SUM(n.quantity) AS quantity, d.leaves_on FROM dispatch d JOIN dispatch_line n ON n.dispatch_id = d.id
     WHERE d.state = 'planned' AND d.id <> ? AND n.part_id IN (SELECT w.part_id FROM dispatch_line w JOIN dispatch m ON m.id = w.dispatch_id WHERE m.id = ? AND m.state = 'planned')
     GROUP BY n.part_id, d.id, d.code, d.leaves_on ORDER BY COALESCE(d.leaves_on, '9999'), d.code`,
    [dispatchId, dispatchId],
  )
  return lines.map((line) => ({
    ...line,
    alsoPlanned: others.filter(({ partId }) => partId === line.partId).map(({ id, code, quantity, leavesOn }) => ({ id, code, quantity, leavesOn })),
  }))
}

type StoredPick = Omit<Dispatch['picks'][number], 'backAndFree' | 'leaving' | 'onHold'> & { containerId: string | null; shipped: number | null }

const storedPickColumns: Columns<StoredPick> = {
  partId: 'text',
  unit: 'text',
  partCode: 'text',
  id: 'text',
  quantity: 'number',
  returned: 'number',
  containerLabel: 'text?',
  partName: 'text',
  lotId: 'text',
  lotCode: 'text',
  putAwayPlaceId: 'text?',
  containerId: 'text?',
  shipped: 'number?',
}

export async function picksOf(reader: Reader, dispatchId: string): Promise<StoredPick[]> {
  return rowsOf<StoredPick>(
    reader,
    storedPickColumns,
    `SELECT p.id, p.lot_id, l.code AS lot_code, t.id AS part_id, t.code AS part_code, t.name AS part_name, t.unit, t.put_away_place_id, p.container_id, c.label AS container_label, p.quantity, p.shipped,
            (SELECT COALESCE(SUM(r.quantity), 0) FROM customer_return r WHERE ${isOfPick}) AS returned
     FROM dispatch_pick p JOIN lot l ON l.id = p.lot_id JOIN part t ON t.id = l.part_id LEFT JOIN container c ON c.id = p.container_id
     WHERE p.dispatch_id = ? ORDER BY p.id`,
    [dispatchId],
  )
}

/** Whether a return `r` is of what was picked as `p`; one that an earlier release took back says only which lot it is of. */
const isOfPick = '(r.pick_id = p.id OR (r.pick_id IS NULL AND r.dispatch_id = p.dispatch_id AND r.lot_id = p.lot_id))'

/** How many of what was picked came back. */
export async function cameBackOf(reader: Reader, pickId: string): Promise<number> {
  const [found] = await rowsOf(
    reader,
    { quantity: 'number' },
    `SELECT COALESCE(SUM(r.quantity), 0) AS quantity FROM dispatch_pick p JOIN customer_return r ON ${isOfPick} WHERE p.id = ?`,
    [pickId],
  )
  return found?.quantity ?? 0
}

export async function returnsOf(reader: Reader, dispatchId: string): Promise<Dispatch['returns']> {
  return rowsOf<Dispatch['returns'][number]>(
    reader,
    { id: 'text', code: 'text', lotCode: 'text', partId: 'text', quantity: 'number', reason: 'text', at: 'text' },
    `SELECT r.id, r.code, l.code AS lot_code, l.part_id, r.quantity, r.reason, o.at FROM customer_return r JOIN occasion o ON o.id = r.id JOIN lot l ON l.id = r.lot_id
     WHERE r.dispatch_id = ? ORDER BY r.id`,
    [dispatchId],
  )
}
