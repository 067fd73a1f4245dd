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
    `SELECT i.id, i.code, p.name AS planName, i.state, i.isGate, EXISTS (SELECT 1 FROM hold o WHERE o.causeId = i.id) AS holds, i.onFailure, h.name AS holdPlaceName FROM inspection i
     JOIN plan_revision r ON r.id = i.planRevisionId JOIN plan p ON p.id = r.planId LEFT JOIN place h ON h.id = i.holdPlaceId
     WHERE i.lotId = ? ORDER BY i.code`,
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
    `SELECT d.id, d.code, o.partnerId AS supplierId, s.name AS supplierName, o.orderNumber, o.at AS receivedAt, p.name AS receivedByName
     FROM delivery d JOIN occasion o ON o.id = d.id JOIN partner s ON s.id = o.partnerId JOIN person p ON p.id = o.personId WHERE d.id = ?`,
    [id],
  )) as Omit<Delivery, 'isFree' | 'lots'>[]
  if (!head) throw new ServerError('not_found', `There is no delivery with the id ${id}.`)
  const heads = (await reader.query(
    `SELECT l.id, l.code, l.partId, t.code AS partCode, t.name AS partName, t.unit, l.supplierLot, l.quantity, t.putAwayPlaceId
     FROM lot l JOIN part t ON t.id = l.partId WHERE l.originId = ? ORDER BY l.code`,
    [id],
  )) as LotHead[]
  const lots: DeliveredLot[] = []
  for (const lot of heads) {
    const inspections = await loadInspections(reader, lot.id)
    lots.push({ ...lot, balances: await namedBalances(reader, lot.id), inspections, gateReasons: gateReasons(inspections) })
  }
  return { ...head, lots, isFree: lots.every((lot) => lot.inspections.every((inspection) => isSettled(inspection.state))) }
}
