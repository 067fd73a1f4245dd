import type { InspectionState, OccasionKind } from '@nemawashi/core'
import type { Delivery, PaperKind, Passport } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import type { InspectionRow } from '../../inspections/entities'
import { alike, type ListSpec } from '../../kernel/http/lists'
import { isDecidingSql, looksAtLot } from '../../inspections/queueRepository'
import { arrivedQuantity } from '../../stock/ledger/repository'
import { heldSinceSql } from '../../stock/ledger/holdRepository'
import { rowsOf, type Columns } from '../../kernel/database/rowsOf'

export const lotList: ListSpec = {
  from: 'lot l JOIN part t ON t.id = l.part_id LEFT JOIN partner s ON s.id = l.supplier_id',
  countFrom: 'lot l',
  id: 'l.id',
  columns: {
    id: { sql: 'l.id' },
    code: { sql: 'l.code' },
    partCode: { sql: 't.code' },
    partName: { sql: 't.name' },
    supplierName: { sql: `COALESCE(s.name, '')` },
    supplierLot: { sql: 'l.supplier_lot' },
    quantity: { sql: 'l.quantity', kind: 'quantity' },
    unit: { sql: 't.unit', kind: 'unit' },
    receivedAt: { sql: 'l.created_at' },
  },
  search: ['l.code', 'l.supplier_lot'],
  searchAlso: [
    `l.part_id IN (SELECT x.id FROM part x WHERE ${alike(`(x.code || ' ' || x.name)`)})`,
    `l.supplier_id IN (SELECT x.id FROM partner x WHERE ${alike('x.name')})`,
  ],
  sort: ['receivedAt', 'desc'],
}

export type InspectionHead = Pick<
  InspectionRow,
  'id' | 'code' | 'openedAt' | 'openReason' | 'startedAt' | 'dueAt' | 'finishedAt' | 'verdict' | 'cancelledAt' | 'cancelReason'
> & {
  openedByName: string | null
  cancelledByName: string | null
  finding: string | null
  planName: string
  /** The container or piece that it looks at; null where it looks at all of the lot. */
  unitLabel: string | null
  startedByName: string | null
  finishedByName: string | null
}

/** What looked at the dispatches that a lot was picked for, as one; asks for the lot's id once. */
const looksAtDispatch = `(i.subject_kind = 'load' AND i.subject_id IN (SELECT k.dispatch_id FROM dispatch_pick k WHERE k.lot_id = ?))`

const inspectionHeadColumns: Columns<InspectionHead> = {
  code: 'text',
  verdict: 'text?',
  id: 'text',
  openedAt: 'text',
  openReason: 'text?',
  startedAt: 'text?',
  dueAt: 'text?',
  finishedAt: 'text?',
  cancelledAt: 'text?',
  cancelReason: 'text?',
  openedByName: 'text?',
  cancelledByName: 'text?',
  finding: 'text?',
  planName: 'text',
  unitLabel: 'text?',
  startedByName: 'text?',
  finishedByName: 'text?',
}

/** Inspections of a lot, of the load that it came with, and of the dispatches that it left with, with who did what. */
export async function inspectionsOnLot(reader: Reader, lotId: string): Promise<InspectionHead[]> {
  return rowsOf<InspectionHead>(
    reader,
    inspectionHeadColumns,
    `SELECT i.id, i.code, i.opened_at, h.name AS opened_by_name, i.open_reason, i.started_at, i.due_at, i.finished_at, i.verdict, i.finding, i.cancelled_at, i.cancel_reason, x.name AS cancelled_by_name, p.name AS plan_name, u.label AS unit_label, a.name AS started_by_name, b.name AS finished_by_name
     FROM inspection i JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id LEFT JOIN container u ON u.id = i.subject_id
     LEFT JOIN person a ON a.id = i.started_by_id LEFT JOIN person b ON b.id = i.finished_by_id LEFT JOIN person x ON x.id = i.cancelled_by_id LEFT JOIN person h ON h.id = i.opened_by_id WHERE ${looksAtLot} OR ${looksAtDispatch} ORDER BY i.code`,
    [lotId, lotId, lotId],
  )
}

/** A lot with where it came from. */
export async function lotHead(reader: Reader, lotId: string) {
  const [lot] = await rowsOf<Passport['lot'] & { receivedByName: string }>(
    reader,
    {
      id: 'text',
      code: 'text',
      partCode: 'text',
      partName: 'text',
      supplierName: 'text',
      supplierLot: 'text',
      quantity: 'number',
      receivedAt: 'text',
      unit: 'text',
      partId: 'text',
      originKind: 'text',
      originId: 'text',
      originCode: 'text',
      orderNumber: 'text',
      receivedByName: 'text',
    },
    `SELECT l.id, l.code, t.code AS part_code, t.name AS part_name, t.id AS part_id, t.unit, COALESCE(s.name, '') AS supplier_name, l.supplier_lot, ${arrivedQuantity} AS quantity, l.created_at AS received_at,
            o.kind AS origin_kind, COALESCE(d.id, w.id) AS origin_id, COALESCE(d.code, w.code) AS origin_code, o.order_number, p.name AS received_by_name
     FROM lot l JOIN part t ON t.id = l.part_id LEFT JOIN partner s ON s.id = l.supplier_id JOIN occasion o ON o.id = l.origin_id
     LEFT JOIN delivery d ON d.id = o.id LEFT JOIN production_order w ON w.lot_id = l.id JOIN person p ON p.id = o.person_id
     WHERE l.id = ?`,
    [lotId],
  )
  return lot ?? null
}

/** What was put right of a lot, or of the whole delivery that it came with. */
export async function correctionsOn(reader: Reader, lotId: string) {
  return rowsOf<Pick<Delivery['corrections'][number], 'field' | 'before' | 'after' | 'reason' | 'at'> & { byName: string }>(
    reader,
    { before: 'text', after: 'text', reason: 'text', at: 'text', field: 'text', byName: 'text' },
    `SELECT c.field, c.before, c.after, c.reason, c.at, p.name AS by_name FROM delivery_correction c JOIN person p ON p.id = c.person_id
     WHERE c.lot_id = ? OR (c.lot_id IS NULL AND c.delivery_id = (SELECT origin_id FROM lot WHERE id = ?)) ORDER BY c.at, c.id`,
    [lotId, lotId],
  )
}

/** What was told of a lot's delivery before its receipt. */
export async function beforeReceipt(reader: Reader, lotId: string) {
  return rowsOf<{ kind: OccasionKind; at: string; byName: string; orderNumber: string }>(
    reader,
    { kind: 'text', at: 'text', byName: 'text', orderNumber: 'text' },
    `SELECT o.kind, o.at, p.name AS by_name, o.order_number FROM lot l JOIN expected_delivery e ON e.id = l.origin_id
     JOIN occasion o ON o.id IN (e.announced_id, e.registered_id) JOIN person p ON p.id = o.person_id WHERE l.id = ? ORDER BY o.at, o.id`,
    [lotId],
  )
}

/** Papers of a lot, and of the whole delivery that it came with. */
export async function papersOn(reader: Reader, lotId: string) {
  return rowsOf<{ kind: PaperKind; name: string; at: string; byName: string; documentId: string }>(
    reader,
    { kind: 'text', name: 'text', at: 'text', byName: 'text', documentId: 'text' },
    `SELECT a.kind, d.name, a.at, p.name AS by_name, a.document_id FROM delivery_paper a JOIN document d ON d.id = a.document_id JOIN person p ON p.id = a.person_id
     WHERE a.delivery_id = (SELECT origin_id FROM lot WHERE id = ?) AND (a.lot_id IS NULL OR a.lot_id = ?) ORDER BY a.at, a.id`,
    [lotId, lotId],
  )
}

/** Movements of a lot with the names of places, containers and people. */
export async function namedMovements(reader: Reader, lotId: string) {
  return rowsOf(
    reader,
    { seq: 'number', containerLabel: 'text?', fromName: 'text?', toName: 'text', byName: 'text' },
    `SELECT m.seq, c.label AS container_label, a.name AS from_name, b.name AS to_name, p.name AS by_name FROM movement m LEFT JOIN container c ON c.id = m.container_id
     LEFT JOIN place a ON a.id = m.from_place_id JOIN place b ON b.id = m.to_place_id JOIN person p ON p.id = m.person_id WHERE m.lot_id = ? ORDER BY m.seq`,
    [lotId],
  )
}

/** Holds on a lot, open and ended, with what holds. */
export async function causesOfHolds(reader: Reader, lotId: string) {
  return rowsOf(reader, { id: 'text', causeId: 'text', causeCode: 'text' }, 'SELECT id, cause_id, cause_code FROM hold WHERE lot_id = ?', [lotId])
}

/** How many inspections have goods that somebody has to decide on. */
export async function countDeciding(reader: Reader): Promise<number> {
  const [row] = await rowsOf(reader, { n: 'number' }, `SELECT COUNT(*) AS n FROM inspection i WHERE ${isDecidingSql}`)
  return row?.n ?? 0
}

/** How many inspections are in a state. */
export async function countInspections(reader: Reader, state: InspectionState): Promise<number> {
  const [row] = await rowsOf(reader, { n: 'number' }, 'SELECT COUNT(*) AS n FROM inspection WHERE state = ?', [state])
  return row?.n ?? 0
}

/** How many inspections were finished since an instant; with a verdict, those that were judged so. */
export async function countFinished(reader: Reader, since: string, verdict?: 'acceptable' | 'notAcceptable'): Promise<number> {
  const also = verdict === undefined ? '' : 'AND verdict = ?'
  const values = verdict === undefined ? [since] : [since, verdict]
  const [row] = await rowsOf(reader, { n: 'number' }, `SELECT COUNT(*) AS n FROM inspection WHERE finished_at >= ? ${also}`, values)
  return row?.n ?? 0
}

/** Since when each lot waits that has pieces on hold or in quarantine. */
export async function heldSince(reader: Reader): Promise<string[]> {
  const rows = await rowsOf(
    reader,
    { heldSince: 'text' },
    `SELECT ${heldSinceSql} AS held_since FROM lot l WHERE l.id IN (SELECT lot_id FROM balance WHERE standing IN ('onHold', 'quarantined') AND quantity > 0)`,
  )
  return rows.map((row) => row.heldSince)
}

/** What was judged since an instant, in order. */
export async function finishedSince(reader: Reader, since: string) {
  return rowsOf(
    reader,
    { finishedAt: 'text', verdict: 'text' },
    'SELECT finished_at, verdict FROM inspection WHERE finished_at >= ? ORDER BY finished_at',
    [since],
  )
}
