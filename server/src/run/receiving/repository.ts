import { sumInUnits } from '../../stock/ledger/sumInUnits'
import type { OperationKind } from '@nemawashi/core'
import type { ListSpec } from '../../kernel/http/lists'
import type { Reader } from '../../kernel/work/database'
import type { DeliveredLot, Delivery } from '@nemawashi/contract'
import type { SearchProvider } from '../../kernel/area'
import { arrivedQuantity, eventKinds } from '../../stock/ledger/repository'
import { partCodes } from '../purchasing/goodsLinesRepository'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

/** Deliveries by their number, or that of their order. */
export const deliveriesFound: SearchProvider = {
  kind: 'delivery',
  sql: `SELECT d.id, d.code AS title, s.name || ' · order ' || o.order_number AS detail FROM delivery d JOIN occasion o ON o.id = d.id JOIN partner s ON s.id = o.partner_id
          WHERE d.code LIKE ? ESCAPE '\\' OR o.order_number LIKE ? ESCAPE '\\' ORDER BY o.at DESC LIMIT 6`,
}

export type LotHead = Omit<DeliveredLot, 'balances' | 'inspections' | 'gateReasons' | 'skippedByRule'> & {
  familyId: string | null
  supplierId: string | null
}

export type InspectionHead = Omit<DeliveredLot['inspections'][number], 'lines' | 'isGate'> & {
  isGate: number
  lotId: string | null
}

const inspectionHeadColumns: Columns<InspectionHead> = {
  code: 'text',
  id: 'text',
  state: 'text',
  planName: 'text',
  holdPlaceName: 'text?',
  holds: 'text?',
  onFailure: 'text',
  answeredAt: 'text',
  keepsFrom: 'text',
  containerId: 'text?',
  unitLabel: 'text?',
  eventId: 'text?',
  isGate: 'number',
  lotId: 'text?',
}

/** Inspections of lots, or of the load of an occasion, as a delivery shows them. */
export async function inspectionsOf(reader: Reader, subject: { lotIds: readonly string[] } | { subjectId: string }): Promise<InspectionHead[]> {
  const [condition, value] =
    'lotIds' in subject
      ? ['i.lot_id IN (SELECT value FROM json_each(?))', JSON.stringify(subject.lotIds)]
      : [`i.subject_id = ? AND i.subject_kind = 'load'`, subject.subjectId]
  return rowsOf<InspectionHead>(
    reader,
    inspectionHeadColumns,
    `SELECT i.lot_id, i.id, i.code, p.name AS plan_name, i.state, i.is_gate, (SELECT CASE WHEN COUNT(*) > COUNT(o.quantity) THEN 'all' WHEN COUNT(*) > 0 THEN 'sample' END FROM hold o WHERE o.cause_id = i.id) AS holds, i.on_failure, COALESCE(json_extract(i.consequence, '$.answeredAt'), 'bench') AS answered_at, COALESCE(json_extract(i.consequence, '$.keepsFrom'), 'putAway') AS keeps_from, h.name AS hold_place_name, u.id AS container_id, u.label AS unit_label, v.id AS event_id FROM inspection i LEFT JOIN container u ON u.id = i.subject_id LEFT JOIN occasion v ON v.id = i.occasion_id AND v.kind IN ${eventKinds}
     JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id LEFT JOIN place h ON h.id = i.hold_place_id
     WHERE ${condition} ORDER BY i.code`,
    [value],
  )
}

/** Inspections of a load whose finding was decided on for a lot of it. */
export async function decidedOnLoad(reader: Reader, occasionId: string, lotId: string): Promise<string[]> {
  const rows = await rowsOf(
    reader,
    { id: 'text' },
    `SELECT i.id FROM inspection i JOIN decision d ON d.inspection_id = i.id WHERE i.subject_id = ? AND i.subject_kind = 'load' AND d.lot_id = ?`,
    [occasionId, lotId],
  )
  return rows.map(({ id }) => id)
}

type DeliveryHead = Omit<Delivery, 'isFree' | 'lots' | 'load' | 'corrections' | 'papers'> & Omit<Delivery['load'], 'inspections'>

const deliveryHeadColumns: Columns<DeliveryHead> = {
  code: 'text',
  id: 'text',
  supplierName: 'text',
  supplierId: 'text',
  orderNumber: 'text',
  receivedAt: 'text',
  receivedByName: 'text',
  carrier: 'text',
  vehicle: 'text',
  driver: 'text',
  seal: 'text',
  loadNumber: 'text',
}

export async function deliveryHead(reader: Reader, id: string): Promise<DeliveryHead | null> {
  const [head] = await rowsOf<DeliveryHead>(
    reader,
    deliveryHeadColumns,
    `SELECT d.id, d.code, o.partner_id AS supplier_id, s.name AS supplier_name, o.order_number, o.at AS received_at, p.name AS received_by_name,
            d.carrier, d.vehicle, d.driver, d.seal, d.load_number
     FROM delivery d JOIN occasion o ON o.id = d.id JOIN partner s ON s.id = o.partner_id JOIN person p ON p.id = o.person_id WHERE d.id = ?`,
    [id],
  )
  return head ?? null
}

const lotHeadColumns: Columns<LotHead> = {
  partId: 'text',
  code: 'text',
  unit: 'text',
  partCode: 'text',
  id: 'text',
  quantity: 'number',
  partName: 'text',
  supplierLot: 'text',
  putAwayPlaceId: 'text?',
  familyId: 'text?',
  supplierId: 'text?',
}

/** Lots that came to be at an occasion. */
export async function lotsOf(reader: Reader, occasionId: string): Promise<LotHead[]> {
  return rowsOf<LotHead>(
    reader,
    lotHeadColumns,
    `SELECT l.id, l.code, l.part_id, t.code AS part_code, t.name AS part_name, t.unit, l.supplier_lot, ${arrivedQuantity} AS quantity, t.put_away_place_id, t.family_id, l.supplier_id
     FROM lot l JOIN part t ON t.id = l.part_id WHERE l.origin_id = ? ORDER BY l.code`,
    [occasionId],
  )
}

/** Operations of a kind on the way of each part, in order. */
export async function operationsOfMany(reader: Reader, partIds: readonly string[], kind: OperationKind): Promise<Map<string, string[]>> {
  const rows = await rowsOf(
    reader,
    { partId: 'text', id: 'text' },
    `SELECT r.part_id, o.id FROM routing_step r JOIN operation o ON o.id = r.operation_id
     WHERE r.part_id IN (SELECT value FROM json_each(?)) AND o.kind = ? ORDER BY r.part_id, r.position`,
    [JSON.stringify([...new Set(partIds)]), kind],
  )
  const byPart = new Map<string, string[]>()
  for (const { partId, id } of rows) byPart.set(partId, [...(byPart.get(partId) ?? []), id])
  return byPart
}

/** The same of one part. */
export async function operationsOf(reader: Reader, partId: string, kind: OperationKind): Promise<string[]> {
  return (await operationsOfMany(reader, [partId], kind)).get(partId) ?? []
}

/** The group of a supplier, and the contract that an order with them is under. */
export async function tradeOf(
  reader: Reader,
  supplierId: string,
  orderNumber: string,
): Promise<{ supplierGroup: string | null; contract: string | null }> {
  const [found] = await rowsOf(
    reader,
    { supplierGroup: 'text?', contract: 'text?' },
    `SELECT NULLIF(p.supplier_group, '') AS supplier_group,
       (SELECT NULLIF(o.contract, '') FROM purchase_order o WHERE o.supplier_id = p.id AND LOWER(o.order_number) = LOWER(?) LIMIT 1) AS contract FROM partner p WHERE p.id = ?`,
    [orderNumber, supplierId],
  )
  return found ?? { supplierGroup: null, contract: null }
}

/** Whether any control point in force looks at loads. */
export async function looksAtLoads(reader: Reader): Promise<boolean> {
  return (await reader.query(`SELECT 1 FROM control_point WHERE subject = 'load' AND state = 'active' LIMIT 1`, [])).length > 0
}

/** Code of the lot that has a container with this label; null where none has. */
export async function lotWithLabel(reader: Reader, label: string): Promise<string | null> {
  const [taken] = await rowsOf(reader, { code: 'text' }, 'SELECT l.code FROM container c JOIN lot l ON l.id = c.lot_id WHERE c.label = ?', [label])
  return taken?.code ?? null
}

/** The last delivery of the same lot of the same order. */
export async function receivedBefore(
  reader: Reader,
  { supplierId, orderNumber, supplierLot, partId }: { supplierId: string; orderNumber: string; supplierLot: string; partId: string },
) {
  const [found] = await rowsOf(
    reader,
    { code: 'text', receivedAt: 'text', lotCode: 'text' },
    `SELECT d.code, o.at AS received_at, l.code AS lot_code FROM occasion o JOIN lot l ON l.origin_id = o.id JOIN delivery d ON d.id = o.id
       WHERE o.partner_id = ? AND LOWER(o.order_number) = LOWER(?) AND l.supplier_lot = ? AND l.part_id = ? ORDER BY o.at DESC LIMIT 1`,
    [supplierId, orderNumber, supplierLot, partId],
  )
  return found ?? null
}

export const deliveryList: ListSpec = {
  from: 'occasion o JOIN delivery d ON d.id = o.id JOIN partner s ON s.id = o.partner_id',
  countFrom: 'occasion o',
  where: `o.kind = 'delivery'`,
  id: 'o.id',
  columns: {
    id: { sql: 'o.id' },
    code: { sql: 'd.code' },
    supplierName: { sql: 's.name' },
    orderNumber: { sql: 'o.order_number' },
    partCodes: {
      sql: partCodes('l.code', 'lot l', 'l.part_id', 'l.origin_id = d.id'),
    },
    receivedAt: { sql: 'o.at' },
    openInspections: {
      sql: `(SELECT COUNT(*) FROM lot l JOIN inspection i ON i.lot_id = l.id WHERE l.origin_id = d.id AND i.state NOT IN ('decided', 'cancelled'))
        + (SELECT COUNT(*) FROM inspection i WHERE i.subject_id = d.id AND i.state NOT IN ('decided', 'cancelled'))`,
      kind: 'number',
    },
    onHold: {
      sql: `(SELECT ${sumInUnits('b.quantity', 't.unit')} FROM lot l JOIN part t ON t.id = l.part_id JOIN balance b ON b.lot_id = l.id AND b.standing = 'onHold' WHERE l.origin_id = d.id)`,
      kind: 'number',
    },
  },
  search: [
    'd.code',
    's.name',
    'o.order_number',
    'd.vehicle',
    'd.load_number',
    `(SELECT string_agg(t.code || ' ' || l.code || ' ' || l.supplier_lot, ',') FROM lot l JOIN part t ON t.id = l.part_id WHERE l.origin_id = d.id)`,
  ],
  sort: ['receivedAt', 'desc'],
}

/** What was put right on a delivery, oldest first. */
export async function correctionsOf(reader: Reader, deliveryId: string): Promise<Delivery['corrections']> {
  return rowsOf<Delivery['corrections'][number]>(
    reader,
    { id: 'text', lotCode: 'text?', field: 'text', before: 'text', after: 'text', reason: 'text', at: 'text', byName: 'text' },
    `SELECT c.id, l.code AS lot_code, c.field, c.before, c.after, c.reason, c.at, p.name AS by_name
     FROM delivery_correction c JOIN person p ON p.id = c.person_id LEFT JOIN lot l ON l.id = c.lot_id WHERE c.delivery_id = ? ORDER BY c.at, c.id`,
    [deliveryId],
  )
}

/** What came with a delivery on paper, oldest first. */
export async function papersOf(reader: Reader, deliveryId: string): Promise<Delivery['papers']> {
  return rowsOf<Delivery['papers'][number]>(
    reader,
    { id: 'text', documentId: 'text', kind: 'text', lotId: 'text?', lotCode: 'text?', at: 'text', byName: 'text' },
    `SELECT a.id, a.document_id, a.kind, a.lot_id, l.code AS lot_code, a.at, p.name AS by_name FROM delivery_paper a LEFT JOIN lot l ON l.id = a.lot_id
     JOIN person p ON p.id = a.person_id WHERE a.delivery_id = ? ORDER BY a.at, a.id`,
    [deliveryId],
  )
}
