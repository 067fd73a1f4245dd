import { isSettled } from '@nemawashi/core'
import type { DeliveredLot, Delivery } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'
import { ServerError } from '../kernel/serverError'
import { linesAsked } from '../record/inspections'
import { namedBalances } from '../stock/ledger'

type LotHead = Omit<DeliveredLot, 'balances' | 'inspections' | 'gateReasons'>
type InspectionHead = Omit<DeliveredLot['inspections'][number], 'lines' | 'isGate' | 'holds'> & { isGate: number; holds: number }

const stateWords = {
  toDo: 'is still to do',
  started: 'is being recorded',
  finished: 'waits for a decision',
  decided: 'is decided',
  cancelled: 'is cancelled',
} as const

/** Why put-away of a lot is refused: its gates that are not decided, in words. */
export function gateReasons(inspections: DeliveredLot['inspections']): string[] {
  return inspections
    .filter((entry) => entry.holds && !isSettled(entry.state))
    .map((entry) => `${entry.planName} (${entry.code}) ${stateWords[entry.state]}`)
}

async function loadInspections(reader: Reader, lotId: string): Promise<DeliveredLot['inspections']> {
  const heads = (await reader.query(
    `SELECT i.id, i.code, p.name AS plan_name, i.state, i.is_gate, EXISTS (SELECT 1 FROM hold o WHERE o.cause_id = i.id) AS holds, i.on_failure, h.name AS hold_place_name FROM inspection i
     JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id LEFT JOIN place h ON h.id = i.hold_place_id
     WHERE i.lot_id = ? ORDER BY i.code`,
    [lotId],
  )) as InspectionHead[]
  const found = []
  for (const head of heads) {
    found.push({ ...head, isGate: head.isGate === 1, holds: head.holds === 1, lines: await linesAsked(reader, head.id) })
  }
  return found
}

export async function loadDelivery(reader: Reader, id: string): Promise<Delivery> {
  const [head] = (await reader.query(
    `SELECT d.id, d.code, o.partner_id AS supplier_id, s.name AS supplier_name, o.order_number, o.at AS received_at, p.name AS received_by_name
     FROM delivery d JOIN occasion o ON o.id = d.id JOIN partner s ON s.id = o.partner_id JOIN person p ON p.id = o.person_id WHERE d.id = ?`,
    [id],
  )) as Omit<Delivery, 'isFree' | 'lots'>[]
  if (!head) throw new ServerError('not_found', `There is no delivery with the id ${id}.`)
  const heads = (await reader.query(
    `SELECT l.id, l.code, l.part_id, t.code AS part_code, t.name AS part_name, t.unit, l.supplier_lot, l.quantity, t.put_away_place_id
     FROM lot l JOIN part t ON t.id = l.part_id WHERE l.origin_id = ? ORDER BY l.code`,
    [id],
  )) as LotHead[]
  const lots: DeliveredLot[] = []
  for (const lot of heads) {
    const inspections = await loadInspections(reader, lot.id)
    lots.push({ ...lot, balances: await namedBalances(reader, lot.id), inspections, gateReasons: gateReasons(inspections) })
  }
  return { ...head, lots, isFree: lots.every((lot) => lot.inspections.every((inspection) => isSettled(inspection.state))) }
}
