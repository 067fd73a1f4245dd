import type { Delivery } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'

/** What was put right on a delivery, oldest first. */
export async function correctionsOf(reader: Reader, deliveryId: string): Promise<Delivery['corrections']> {
  return (await reader.query(
    `SELECT c.id, l.code AS lot_code, c.field, c.before, c.after, c.reason, c.at, p.name AS by_name
     FROM delivery_correction c JOIN person p ON p.id = c.person_id LEFT JOIN lot l ON l.id = c.lot_id WHERE c.delivery_id = ? ORDER BY c.at, c.id`,
    [deliveryId],
  )) as Delivery['corrections']
}

export interface OpenOnLot {
  readonly id: string
  readonly code: string
  readonly controlPointId: string
  readonly planName: string
  readonly state: string
  readonly lotSize: number
  readonly sampleMost: number | null
}

/** Inspections of a lot by itself that are not called off; those that follow another one left out. */
export async function standingOn(reader: Reader, lotId: string): Promise<OpenOnLot[]> {
  return (await reader.query(
    `SELECT i.id, i.code, i.control_point_id, p.name AS plan_name, i.state, i.lot_size, i.sample_most FROM inspection i
     JOIN plan_revision r ON r.id = i.plan_revision_id JOIN plan p ON p.id = r.plan_id
     WHERE i.lot_id = ? AND i.state <> 'cancelled' AND i.follows_id IS NULL ORDER BY i.code`,
    [lotId],
  )) as OpenOnLot[]
}

/** The rules that the lines of an inspection were worked out by, each under the severity that it got. */
export async function rulesOf(reader: Reader, inspectionId: string): Promise<{ sampling: string | null; severity: string | null }[]> {
  return (await reader.query(
    `SELECT p.sampling, l.severity FROM inspection_line l JOIN inspection i ON i.id = l.inspection_id
     JOIN characteristic_revision r ON r.id = l.characteristic_revision_id
     LEFT JOIN plan_line p ON p.plan_revision_id = i.plan_revision_id AND p.characteristic_id = r.characteristic_id WHERE l.inspection_id = ?`,
    [inspectionId],
  )) as { sampling: string | null; severity: string | null }[]
}

/** The history of frequencies and severities goes with the partner that it was. */
export async function moveHistory(reader: Reader, lotIds: readonly string[], occasionId: string, partnerId: string): Promise<void> {
  await reader.query(
    'UPDATE consideration SET partner_id = ? WHERE lot_id IN (SELECT value FROM json_each(?)) OR (lot_id IS NULL AND occasion_id = ?)',
    [partnerId, JSON.stringify(lotIds), occasionId],
  )
}
