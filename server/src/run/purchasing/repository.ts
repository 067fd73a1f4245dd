import { sumInUnits } from '../../stock/ledger/sumInUnits'
import type { PurchaseOrder } from '@nemawashi/contract'
import type { SearchProvider } from '../../kernel/area'
import type { Reader } from '../../kernel/work/database'
import type { Filter, ListSpec } from '../../kernel/http/lists'
import { arrivedQuantity } from '../../stock/ledger/repository'
import { partCodes } from './goodsLinesRepository'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

/** Purchase orders by their number, or the contract that they belong to. */
export const purchasesFound: SearchProvider = {
  kind: 'purchaseOrder',
  sql: `SELECT p.id, 'order ' || p.order_number AS title, s.name AS detail FROM purchase_order p JOIN partner s ON s.id = p.supplier_id
          WHERE p.order_number LIKE ? ESCAPE '\\' OR p.contract LIKE ? ESCAPE '\\' ORDER BY p.entered_at DESC LIMIT 6`,
}

/** How many pieces of a lot `l` came, without those that a correction says never did. */
const cameQuantity = `${arrivedQuantity} - COALESCE((SELECT SUM(b.quantity) FROM balance b WHERE b.lot_id = l.id AND b.standing = 'notArrived'), 0)`

const ordered = `(SELECT ${sumInUnits('n.quantity', 't.unit')} FROM purchase_order_line n JOIN part t ON t.id = n.part_id WHERE n.order_id = p.id)`
/** Pieces of its parts that came on it: what was put right counts as it is now. */
const received = `(SELECT ${sumInUnits(`(${cameQuantity})`, 't.unit')} FROM occasion o JOIN lot l ON l.origin_id = o.id JOIN part t ON t.id = l.part_id
  WHERE o.kind = 'delivery' AND o.partner_id = p.supplier_id AND o.order_number = p.order_number
    AND l.part_id IN (SELECT n.part_id FROM purchase_order_line n WHERE n.order_id = p.id))`

export const purchaseList: ListSpec = {
  from: 'purchase_order p JOIN partner s ON s.id = p.supplier_id',
  countFrom: 'purchase_order p',
  id: 'p.id',
  columns: {
    id: { sql: 'p.id' },
    orderNumber: { sql: 'p.order_number' },
    supplierName: { sql: 's.name' },
    contract: { sql: 'p.contract' },
    partCodes: {
      sql: partCodes('n.position', 'purchase_order_line n', 'n.part_id', 'n.order_id = p.id'),
    },
    dueOn: { sql: '(SELECT MIN(n.due_on) FROM purchase_order_line n WHERE n.order_id = p.id)', isNullable: true, isMissingLast: true },
    ordered: { sql: ordered, kind: 'number' },
    received: { sql: received, kind: 'number' },
    isClosed: { sql: 'p.is_closed', kind: 'flag' },
    enteredAt: { sql: 'p.entered_at' },
  },
  search: [
    'p.order_number',
    's.name',
    'p.contract',
    `(SELECT string_agg(t.code || ' ' || t.name, ',') FROM purchase_order_line n JOIN part t ON t.id = n.part_id WHERE n.order_id = p.id)`,
  ],
  sort: ['enteredAt', 'desc'],
}

export function purchaseFilters({ supplierId, state }: { supplierId?: string | undefined; state?: string | undefined }): Filter[] {
  return [
    ...(supplierId === undefined ? [] : [{ sql: 'p.supplier_id = ?', values: [supplierId] }]),
    ...(state === undefined ? [] : [{ sql: state === 'closed' ? 'p.is_closed' : `NOT p.is_closed AND ${received} < ${ordered}`, values: [] }]),
  ]
}

type Head = Omit<PurchaseOrder, 'lines' | 'deliveries' | 'isClosed'> & { isClosed: number | boolean }

const headColumns: Columns<Head> = {
  id: 'text',
  version: 'number',
  supplierName: 'text',
  supplierId: 'text',
  contract: 'text',
  orderNumber: 'text',
  enteredAt: 'text',
  enteredByName: 'text',
  isClosed: 'flag',
}

export async function purchaseHead(reader: Reader, id: string): Promise<Head | null> {
  const [head] = await rowsOf<Head>(
    reader,
    headColumns,
    `SELECT p.id, p.order_number, p.supplier_id, s.name AS supplier_name, p.contract, p.is_closed, p.entered_at, e.name AS entered_by_name, p.version
     FROM purchase_order p JOIN partner s ON s.id = p.supplier_id JOIN person e ON e.id = p.person_id WHERE p.id = ?`,
    [id],
  )
  return head ?? null
}

export async function purchaseLines(reader: Reader, id: string): Promise<Omit<PurchaseOrder['lines'][number], 'received' | 'open'>[]> {
  return rowsOf<Omit<PurchaseOrder['lines'][number], 'received' | 'open'>>(
    reader,
    {
      partId: 'text',
      unit: 'text',
      partCode: 'text',
      id: 'text',
      quantity: 'number',
      partName: 'text',
      tracking: 'text',
      packQuantity: 'number?',
      dueOn: 'text?',
    },
    `SELECT n.id, n.part_id, t.code AS part_code, t.name AS part_name, t.unit, t.tracking, t.pack_quantity, n.quantity, n.due_on FROM purchase_order_line n JOIN part t ON t.id = n.part_id
     WHERE n.order_id = ? ORDER BY n.position`,
    [id],
  )
}

/** The order of a supplier with a number, in whatever case it is written; null where there is none. */
export async function orderOf(
  reader: Reader,
  supplierId: string,
  orderNumber: string,
): Promise<{ id: string; orderNumber: string; isClosed: boolean } | null> {
  const [found] = await rowsOf<{ id: string; orderNumber: string; isClosed: number | boolean }>(
    reader,
    { id: 'text', orderNumber: 'text', isClosed: 'flag' },
    'SELECT id, order_number, is_closed FROM purchase_order WHERE supplier_id = ? AND LOWER(order_number) = LOWER(?) ORDER BY order_number = ? DESC LIMIT 1',
    [supplierId, orderNumber, orderNumber],
  )
  return found ? { ...found, isClosed: Boolean(found.isClosed) } : null
}

type OnOrder = Pick<PurchaseOrder, 'supplierId' | 'orderNumber'>

/** Pieces that came on an order, by part. */
export async function arrivedOn(reader: Reader, { supplierId, orderNumber }: OnOrder): Promise<Map<string, number>> {
  const rows = await rowsOf(
    reader,
    { partId: 'text', quantity: 'number' },
    `SELECT l.part_id, SUM(${cameQuantity}) AS quantity FROM occasion o JOIN lot l ON l.origin_id = o.id
     WHERE o.kind = 'delivery' AND o.partner_id = ? AND o.order_number = ? GROUP BY l.part_id`,
    [supplierId, orderNumber],
  )
  return new Map(rows.map(({ partId, quantity }) => [partId, quantity]))
}

export async function deliveriesOn(reader: Reader, { supplierId, orderNumber }: OnOrder): Promise<PurchaseOrder['deliveries']> {
  return rowsOf<PurchaseOrder['deliveries'][number]>(
    reader,
    { id: 'text', code: 'text', receivedAt: 'text' },
    `SELECT d.id, d.code, o.at AS received_at FROM occasion o JOIN delivery d ON d.id = o.id WHERE o.kind = 'delivery' AND o.partner_id = ? AND o.order_number = ?
     ORDER BY o.at DESC`,
    [supplierId, orderNumber],
  )
}
