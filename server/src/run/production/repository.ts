import type { Moment } from '@nemawashi/core'
import type { OpenedCheck, ProductionOrder } from '@nemawashi/contract'
import type { SearchProvider } from '../../kernel/area'
import type { Reader } from '../../kernel/work/database'
import type { Filter, ListSpec } from '../../kernel/http/lists'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

/** Production orders by their number, or that of their customer's order. */
export const ordersFound: SearchProvider = {
  kind: 'order',
  sql: `SELECT w.id, w.code AS title, t.code || ' · ' || w.state AS detail FROM production_order w JOIN part t ON t.id = w.part_id
    WHERE w.code LIKE ? ESCAPE '\\' OR w.order_number LIKE ? ESCAPE '\\' ORDER BY w.created_at DESC LIMIT 6`,
}

const checksOf = (condition: string) =>
  `(SELECT COUNT(*) FROM inspection i WHERE ${condition} AND i.occasion_id IN (
     SELECT s.start_id FROM order_step s WHERE s.order_id = w.id UNION ALL SELECT s.end_id FROM order_step s WHERE s.order_id = w.id
     UNION ALL SELECT r.id FROM step_report r JOIN order_step s ON s.id = r.step_id WHERE s.order_id = w.id))`

export const orderList: ListSpec = {
  from: 'production_order w JOIN part t ON t.id = w.part_id LEFT JOIN lot l ON l.id = w.lot_id',
  countFrom: 'production_order w',
  id: 'w.id',
  columns: {
    id: { sql: 'w.id' },
    code: { sql: 'w.code' },
    partCode: { sql: 't.code' },
    partName: { sql: 't.name' },
    quantity: { sql: 'w.quantity', kind: 'quantity' },
    unit: { sql: 't.unit', kind: 'unit' },
    orderNumber: { sql: 'w.order_number' },
    lotCode: { sql: `COALESCE(l.code, '')` },
    state: { sql: 'w.state' },
    stepName: {
      sql: `COALESCE((SELECT o.name FROM order_step s JOIN operation o ON o.id = s.operation_id WHERE s.order_id = w.id AND s.state <> 'confirmed' ORDER BY s.position LIMIT 1), '')`,
    },
    openChecks: { sql: checksOf(`i.state NOT IN ('decided', 'cancelled')`), kind: 'number' },
    failedChecks: { sql: checksOf(`i.verdict = 'notAcceptable' AND i.state <> 'cancelled'`), kind: 'number' },
    createdAt: { sql: 'w.created_at' },
  },
  search: ['w.code', 'w.order_number', 't.code', 't.name', 'l.code'],
  sort: ['createdAt', 'desc'],
}

export function orderFilters({ state }: { state?: string | undefined }): Filter[] {
  return state === undefined ? [] : [{ sql: 'w.state = ?', values: [state] }]
}

type Head = Omit<ProductionOrder, 'steps' | 'balances' | 'components' | 'next'>

const headColumns: Columns<Head> = {
  partId: 'text',
  code: 'text',
  unit: 'text',
  partCode: 'text',
  id: 'text',
  state: 'text',
  version: 'number',
  customerName: 'text?',
  customerId: 'text?',
  quantity: 'number',
  partName: 'text',
  lotId: 'text?',
  lotCode: 'text?',
  orderNumber: 'text',
  tracking: 'text',
  createdAt: 'text',
}

export async function orderHead(reader: Reader, id: string): Promise<Head | null> {
  const [head] = await rowsOf<Head>(
    reader,
    headColumns,
    `SELECT w.id, w.code, w.part_id, t.code AS part_code, t.name AS part_name, t.unit, t.tracking, w.quantity, w.order_number, w.customer_id, c.name AS customer_name,
            w.lot_id, l.code AS lot_code, w.state, w.created_at, w.version
     FROM production_order w JOIN part t ON t.id = w.part_id LEFT JOIN partner c ON c.id = w.customer_id LEFT JOIN lot l ON l.id = w.lot_id WHERE w.id = ?`,
    [id],
  )
  return head ?? null
}

type StepRow = Omit<ProductionOrder['steps'][number], 'checks' | 'reports' | 'isPaused'> & { startId: string | null; endId: string | null }

const stepRowColumns: Columns<StepRow> = {
  id: 'text',
  state: 'text',
  operationName: 'text',
  operationId: 'text',
  scrapped: 'number',
  position: 'number',
  setAside: 'number',
  startedAt: 'text?',
  confirmedAt: 'text?',
  good: 'number',
  startId: 'text?',
  endId: 'text?',
}

/** The steps of an order, in order. */
export async function stepsOf(reader: Reader, orderId: string): Promise<StepRow[]> {
  return rowsOf<StepRow>(
    reader,
    stepRowColumns,
    `SELECT s.id, s.position, s.operation_id, o.name AS operation_name, s.state, a.at AS started_at, b.at AS confirmed_at, s.good, s.scrapped, s.set_aside,
            s.start_id, s.end_id
     FROM order_step s JOIN operation o ON o.id = s.operation_id LEFT JOIN occasion a ON a.id = s.start_id LEFT JOIN occasion b ON b.id = s.end_id
     WHERE s.order_id = ? ORDER BY s.position`,
    [orderId],
  )
}

type CheckRow = Omit<OpenedCheck, 'isGate' | 'after' | 'decided'> & {
  isGate: number
  occasionId: string
  moment: Moment
  pieces: number | null
  minutes: number | null
}

const checkRowColumns: Columns<CheckRow> = {
  code: 'text',
  verdict: 'text?',
  responsible: 'text',
  id: 'text',
  state: 'text',
  planName: 'text',
  moment: 'text',
  onFailure: 'text',
  advice: 'text',
  answeredAt: 'text',
  lotCode: 'text?',
  dueAt: 'text?',
  finishedAt: 'text?',
  isGate: 'number',
  occasionId: 'text',
  pieces: 'number?',
  minutes: 'number?',
}

/** Checks that were opened for occasions, by occasion; those that follow from an answer are among them. */
export async function checksOn(reader: Reader, occasionIds: readonly string[]): Promise<Map<string, OpenedCheck[]>> {
  const rows = await rowsOf<CheckRow>(
    reader,
    checkRowColumns,
    `SELECT i.id, i.code, p.name AS plan_name, CASE WHEN v.kind = 'dispatch' THEN g.moment ELSE v.moment END AS moment, i.state, i.verdict, i.is_gate, COALESCE(json_extract(i.consequence, '$.answeredAt'), 'bench') AS answered_at, i.on_failure, COALESCE(json_extract(i.consequence, '$.advice'), '') AS advice, i.responsible, i.due_at, i.finished_at, l.code AS lot_code, i.occasion_id, k.done AS pieces, k.minutes
     FROM inspection i JOIN occasion v ON v.id = i.occasion_id JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id
     JOIN control_point g ON g.id = i.control_point_id LEFT JOIN lot l ON l.id = i.lot_id LEFT JOIN step_report k ON k.id = i.occasion_id WHERE i.occasion_id IN (SELECT value FROM json_each(?)) ORDER BY i.code`,
    [JSON.stringify(occasionIds)],
  )
  const decided = await decidedOn(
    reader,
    rows.flatMap(({ id, state }) => (state === 'decided' ? [id] : [])),
  )
  const found = new Map<string, OpenedCheck[]>()
  for (const { occasionId, isGate, pieces, minutes, ...check } of rows) {
    const after = pieces === null || minutes === null ? null : { pieces, minutes }
    found.set(occasionId, [...(found.get(occasionId) ?? []), { ...check, isGate: isGate === 1, after, decided: decided.get(check.id) ?? [] }])
  }
  return found
}

/** What became of the pieces of inspections by their decisions, later ones on the same pieces aside. */
async function decidedOn(reader: Reader, inspectionIds: readonly string[]): Promise<Map<string, OpenedCheck['decided']>> {
  const found = new Map<string, OpenedCheck['decided']>()
  if (inspectionIds.length === 0) return found
  const rows = await rowsOf<OpenedCheck['decided'][number] & { inspectionId: string }>(
    reader,
    { disposition: 'text', quantity: 'number', inspectionId: 'text' },
    `SELECT d.inspection_id, p.disposition, SUM(p.quantity) AS quantity FROM decision d JOIN decision_part p ON p.decision_id = d.id
     WHERE d.inspection_id IN (SELECT value FROM json_each(?)) AND d.follows_id IS NULL GROUP BY d.inspection_id, p.disposition ORDER BY d.inspection_id, p.disposition`,
    [JSON.stringify(inspectionIds)],
  )
  for (const { inspectionId, ...part } of rows) found.set(inspectionId, [...(found.get(inspectionId) ?? []), part])
  return found
}

/** What was issued to a lot. */
export async function componentsOf(reader: Reader, lotId: string): Promise<ProductionOrder['components']> {
  return rowsOf<ProductionOrder['components'][number]>(
    reader,
    { lotId: 'text', lotCode: 'text', partCode: 'text', quantity: 'number', unit: 'text', at: 'text' },
    `SELECT u.from_lot_id AS lot_id, l.code AS lot_code, t.code AS part_code, u.quantity, t.unit, u.at FROM lot_use u JOIN lot l ON l.id = u.from_lot_id
     JOIN part t ON t.id = l.part_id WHERE u.to_lot_id = ? ORDER BY u.at, u.id`,
    [lotId],
  )
}
