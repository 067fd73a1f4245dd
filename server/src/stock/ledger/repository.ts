import type { BalanceRow } from '@nemawashi/contract'
import { eventsOf, finerAt, occasionKinds, setsApart, type Balance, type PlacePurpose, type UnitKind } from '@nemawashi/core'
import type { MovementRow } from './entities'
import { givenStandings } from './finerRepository'
import type { Reader } from '../../kernel/work/database'
import type { SearchProvider } from '../../kernel/area'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

/** Lots by their number, or their supplier's. */
export const lotsFound: SearchProvider = {
  kind: 'lot',
  sql: `SELECT l.id, l.code AS title, p.code || ' · supplier lot ' || l.supplier_lot AS detail FROM lot l JOIN part p ON p.id = l.part_id
    WHERE l.code LIKE ? ESCAPE '\\' OR l.supplier_lot LIKE ? ESCAPE '\\' ORDER BY l.created_at DESC LIMIT 6`,
}

/** Containers and numbered pieces are found by what is written on them; what is shown is the lot that they are of. */
const unitFound = (kind: string, column: string, which: string): SearchProvider => ({
  kind,
  sql: `SELECT l.id, c.${column} AS title, 'of ' || l.code || ' · ' || p.code AS detail FROM container c JOIN lot l ON l.id = c.lot_id JOIN part p ON p.id = l.part_id
    WHERE ${which} AND (c.label LIKE ? ESCAPE '\\' OR c.serial LIKE ? ESCAPE '\\') ORDER BY l.created_at DESC, c.label LIMIT 6`,
})

export const unitsFound: readonly SearchProvider[] = [
  unitFound('container', 'label', 'c.serial IS NULL'),
  unitFound('serial', 'serial', 'c.serial IS NOT NULL'),
]

const movementRowColumns: Columns<MovementRow> = {
  seq: 'number',
  lotId: 'text',
  containerId: 'text?',
  quantity: 'number',
  fromPlaceId: 'text?',
  fromStanding: 'text?',
  toPlaceId: 'text',
  toStanding: 'text',
  fromSublot: 'text',
  toSublot: 'text',
  kind: 'text',
  occasionId: 'text?',
  decisionId: 'text?',
  holdId: 'text?',
  at: 'text',
  personId: 'text',
}

export async function loadMovements(reader: Reader, lotId: string): Promise<MovementRow[]> {
  return rowsOf<MovementRow>(reader, movementRowColumns, 'SELECT * FROM movement WHERE lot_id = ? ORDER BY seq', [lotId])
}

/** Kinds of events that set pieces apart from the rest of their lot, as SQL; the core says which. */
export const eventKinds = `('${occasionKinds.filter(setsApart).join("', '")}')`

/** The event, where it sets pieces of a lot apart; null where it is about all of a lot. */
export async function eventThatSetApart(reader: Reader, occasionId: string): Promise<string | null> {
  const [found] = await rowsOf(reader, { id: 'text' }, `SELECT id FROM occasion WHERE id = ? AND kind IN ${eventKinds}`, [occasionId])
  return found?.id ?? null
}

/** Events of a lot's pieces that something is still open of: an inspection that nobody decided on, or a dispatch that waits at the door. */
export async function unsettledEvents(reader: Reader, lotId: string): Promise<string[]> {
  const rows = await rowsOf(
    reader,
    { id: 'text' },
    `SELECT i.occasion_id AS id FROM inspection i WHERE i.lot_id = ? AND i.occasion_id IS NOT NULL AND i.state NOT IN ('decided', 'cancelled')
     UNION SELECT d.id FROM dispatch_pick k JOIN dispatch d ON d.id = k.dispatch_id WHERE k.lot_id = ? AND d.state = 'picked'`,
    [lotId, lotId],
  )
  return rows.map(({ id }) => id)
}

type StoredBalance = Balance & { lotId: string; containerId: string }

const storedBalanceColumns: Columns<StoredBalance> = {
  quantity: 'number',
  containerId: 'text',
  placeId: 'text',
  standing: 'text',
  sublot: 'text',
  lotId: 'text',
}

/** What was ever in a spot of the lots, spot by spot in the order in which the first pieces came there. @param which spots, as SQL */
async function storedBalances(reader: Reader, lotIds: readonly string[], which = 'AND quantity > 0'): Promise<(Balance & { lotId: string })[]> {
  const [condition, value] = lotIds.length === 1 ? ['= ?', lotIds[0]] : ['IN (SELECT value FROM json_each(?))', JSON.stringify(lotIds)]
  const rows = await rowsOf<StoredBalance>(
    reader,
    storedBalanceColumns,
    `SELECT lot_id, container_id, place_id, standing, sublot, quantity FROM balance WHERE lot_id ${condition} ${which} ORDER BY since_seq, standing, sublot`,
    [value],
  )
  return rows.map((row) => ({ ...row, containerId: row.containerId === '' ? null : row.containerId }))
}

const withoutLot = ({ lotId: _, ...balance }: Balance & { lotId: string }): Balance => balance

/** Where the quantities of a lot stand now: the sum of their movements, as the database keeps it. */
export async function loadBalances(reader: Reader, lotId: string): Promise<Balance[]> {
  return (await storedBalances(reader, [lotId])).map(withoutLot)
}

/** The same with the spots that are empty by now. */
export async function spotsOf(reader: Reader, lotId: string): Promise<Balance[]> {
  return (await storedBalances(reader, [lotId], '')).map(withoutLot)
}

/** Balances of lots with the names of their places and containers and their finer standings, for people, lot by lot. */
export async function namedBalancesOf(reader: Reader, lotIds: readonly string[]): Promise<Map<string, BalanceRow[]>> {
  const balances = await storedBalances(reader, lotIds)
  const lots = JSON.stringify(lotIds)
  const places = await rowsOf<{ id: string; name: string; purpose: PlacePurpose }>(
    reader,
    { id: 'text', name: 'text', purpose: 'text' },
    'SELECT id, name, purpose FROM place WHERE id IN (SELECT value FROM json_each(?))',
    [JSON.stringify([...new Set(balances.map((balance) => balance.placeId))])],
  )
  const containers = await rowsOf(
    reader,
    { id: 'text', label: 'text' },
    'SELECT id, label FROM container WHERE lot_id IN (SELECT value FROM json_each(?))',
    [lots],
  )
  const nameOf = new Map([...places.map(({ id, name }) => [id, name] as const), ...containers.map(({ id, label }) => [id, label] as const)])
  const purposeOf = new Map(places.map(({ id, purpose }) => [id, purpose]))
  const codeOf = await eventCodes(reader, [...new Set(balances.flatMap(({ sublot }) => eventsOf(sublot).at(-1) ?? []))])
  const given = await givenStandings(reader, lotIds)
  const byLot = new Map<string, BalanceRow[]>(lotIds.map((id) => [id, []]))
  for (const { lotId, ...balance } of balances)
    byLot.get(lotId)?.push({
      ...balance,
      finer: finerAt(given.get(lotId) ?? [], balance)?.name ?? null,
      containerLabel: balance.containerId === null ? null : (nameOf.get(balance.containerId) ?? null),
      placeName: nameOf.get(balance.placeId) ?? '',
      placePurpose: purposeOf.get(balance.placeId) ?? 'store',
      sublotCode: codeOf.get(eventsOf(balance.sublot).at(-1) ?? '') ?? null,
    })
  return byLot
}

/** The number of the event that set the pieces of a balance `b` apart last, as SQL: the last of the ids in its sublot. */
export const sublotCode = `(SELECT e.code FROM (SELECT id, code FROM dispatch UNION ALL SELECT id, code FROM customer_return UNION ALL SELECT id, code FROM transfer) e
  WHERE b.sublot <> '' AND e.id = substr(b.sublot, length(b.sublot) - 35))`

/** The numbers of events that set pieces apart: of dispatches, returns and transfers. */
export async function eventCodes(reader: Reader, ids: readonly string[]): Promise<Map<string, string>> {
  if (ids.length === 0) return new Map()
  const named = ['dispatch', 'customer_return', 'transfer'].map(
    (table) => `SELECT id, code FROM ${table} WHERE id IN (SELECT value FROM json_each(?))`,
  )
  const list = JSON.stringify(ids)
  const rows = await rowsOf(reader, { id: 'text', code: 'text' }, named.join(' UNION ALL '), [list, list, list])
  return new Map(rows.map(({ id, code }) => [id, code]))
}

export async function namedBalances(reader: Reader, lotId: string): Promise<BalanceRow[]> {
  return (await namedBalancesOf(reader, [lotId])).get(lotId) ?? []
}

/** Whether the lot was made here, and came from nobody. */
export async function isMadeHere(reader: Reader, lotId: string): Promise<boolean> {
  return (await reader.query('SELECT 1 FROM lot WHERE id = ? AND supplier_id IS NULL', [lotId])).length > 0
}

/** Whether a lot has pieces of another one in it, directly or through others. */
export async function isMadeFrom(reader: Reader, lotId: string, componentId: string): Promise<boolean> {
  const rows = await reader.query(
    `WITH RECURSIVE into_it (id) AS (SELECT from_lot_id FROM lot_use WHERE to_lot_id = ? UNION SELECT u.from_lot_id FROM lot_use u JOIN into_it i ON u.to_lot_id = i.id)
     SELECT 1 FROM into_it WHERE id = ? LIMIT 1`,
    [lotId, componentId],
  )
  return rows.length > 0
}

/** How many pieces of a lot `l` came: those that were entered, and those that a correction added. */
export const arrivedQuantity = 'l.quantity + COALESCE((SELECT SUM(x.arrived) FROM delivery_correction x WHERE x.lot_id = l.id), 0)'

/** The containers and serial numbers of a lot, by what is written on them. */
export async function unitKindsOf(reader: Reader, lotId: string): Promise<{ id: string; label: string; serial: string | null; kind: UnitKind }[]> {
  return rowsOf<{ id: string; label: string; serial: string | null; kind: UnitKind }>(
    reader,
    { id: 'text', label: 'text', serial: 'text?', kind: 'text' },
    `SELECT id, label, serial, CASE WHEN serial IS NULL THEN 'container' ELSE 'serial' END AS kind FROM container WHERE lot_id = ? ORDER BY label`,
    [lotId],
  )
}

/** What the part of a lot is counted in. */
export async function unitOfLot(reader: Reader, lotId: string): Promise<string> {
  const [found] = await rowsOf(reader, { unit: 'text' }, 'SELECT p.unit FROM lot l JOIN part p ON p.id = l.part_id WHERE l.id = ?', [lotId])
  return found?.unit ?? 'piece'
}
