import type { ExpectedDelivery } from '@nemawashi/contract'
import type { SearchProvider } from '../../kernel/area'
import type { Reader } from '../../kernel/work/database'
import type { Filter, ListSpec } from '../../kernel/http/lists'
import { partCodes } from '../purchasing/goodsLinesRepository'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

/** Deliveries before their receipt by their number, or that of their order. */
export const expectedFound: SearchProvider = {
  kind: 'expected',
  sql: `SELECT e.id, e.code AS title, s.name || ' · order ' || e.order_number AS detail FROM expected_delivery e JOIN partner s ON s.id = e.supplier_id
          WHERE e.state IN ('announced', 'registered') AND (e.code LIKE ? ESCAPE '\\' OR e.order_number LIKE ? ESCAPE '\\') ORDER BY e.code DESC LIMIT 6`,
}

export const expectedList: ListSpec = {
  from: 'expected_delivery e JOIN partner s ON s.id = e.supplier_id',
  countFrom: 'expected_delivery e',
  id: 'e.id',
  columns: {
    id: { sql: 'e.id' },
    code: { sql: 'e.code' },
    supplierName: { sql: 's.name' },
    orderNumber: { sql: 'e.order_number' },
    partCodes: {
      sql: partCodes('n.position', 'expected_line n', 'n.part_id', 'n.delivery_id = e.id'),
    },
    expectedOn: { sql: 'e.expected_on', isNullable: true },
    state: { sql: 'e.state' },
    openInspections: {
      sql: `(SELECT COUNT(*) FROM inspection i WHERE i.subject_id = e.id AND i.state NOT IN ('decided', 'cancelled'))`,
      kind: 'number',
    },
  },
  search: [
    'e.code',
    's.name',
    'e.order_number',
    'e.vehicle',
    'e.load_number',
    `(SELECT string_agg(t.code || ' ' || n.supplier_lot, ',') FROM expected_line n JOIN part t ON t.id = n.part_id WHERE n.delivery_id = e.id)`,
  ],
  sort: ['code', 'desc'],
}

export function expectedFilters({ state }: { state?: string | undefined }): Filter[] {
  if (state === undefined) return []
  return [state === 'toCome' ? { sql: `e.state IN ('announced', 'registered')`, values: [] } : { sql: 'e.state = ?', values: [state] }]
}

export type ExpectedHead = Omit<ExpectedDelivery, 'load' | 'lines' | 'alsoCame' | 'gateReasons'> & Omit<ExpectedDelivery['load'], 'inspections'>

const expectedHeadColumns: Columns<ExpectedHead> = {
  code: 'text',
  id: 'text',
  state: 'text',
  version: 'number',
  supplierName: 'text',
  supplierId: 'text',
  reason: 'text',
  orderNumber: 'text',
  expectedOn: 'text?',
  announcedAt: 'text?',
  announcedByName: 'text?',
  registeredAt: 'text?',
  registeredByName: 'text?',
  carrier: 'text',
  vehicle: 'text',
  driver: 'text',
  seal: 'text',
  loadNumber: 'text',
}

export async function expectedHead(reader: Reader, id: string): Promise<ExpectedHead | null> {
  const [head] = await rowsOf<ExpectedHead>(
    reader,
    expectedHeadColumns,
    `SELECT e.id, e.code, e.supplier_id, s.name AS supplier_name, e.order_number, e.expected_on, e.state, a.at AS announced_at, ap.name AS announced_by_name,
            r.at AS registered_at, rp.name AS registered_by_name, e.reason, e.version, e.carrier, e.vehicle, e.driver, e.seal, e.load_number
     FROM expected_delivery e JOIN partner s ON s.id = e.supplier_id LEFT JOIN occasion a ON a.id = e.announced_id LEFT JOIN person ap ON ap.id = a.person_id
     LEFT JOIN occasion r ON r.id = e.registered_id LEFT JOIN person rp ON rp.id = r.person_id WHERE e.id = ?`,
    [id],
  )
  return head ?? null
}

export type AnnouncedLine = Omit<ExpectedDelivery['lines'][number], 'came'>

const announcedLineColumns: Columns<AnnouncedLine> = {
  partId: 'text',
  unit: 'text',
  partCode: 'text',
  id: 'text',
  quantity: 'number',
  partName: 'text',
  supplierLot: 'text',
  tracking: 'text',
  packQuantity: 'number?',
}

export async function expectedLines(reader: Reader, id: string): Promise<AnnouncedLine[]> {
  return rowsOf<AnnouncedLine>(
    reader,
    announcedLineColumns,
    `SELECT n.id, n.part_id, t.code AS part_code, t.name AS part_name, t.unit, t.tracking, t.pack_quantity, n.quantity, n.supplier_lot FROM expected_line n JOIN part t ON t.id = n.part_id
     WHERE n.delivery_id = ? ORDER BY n.position`,
    [id],
  )
}
