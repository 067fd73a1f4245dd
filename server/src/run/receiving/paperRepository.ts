import type { Delivery } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'

/** What came with a delivery on paper, oldest first. */
export async function papersOf(reader: Reader, deliveryId: string): Promise<Delivery['papers']> {
  return (await reader.query(
    `SELECT a.id, a.document_id, a.kind, a.lot_id, l.code AS lot_code, a.at, p.name AS by_name FROM delivery_paper a LEFT JOIN lot l ON l.id = a.lot_id
     JOIN person p ON p.id = a.person_id WHERE a.delivery_id = ? ORDER BY a.at, a.id`,
    [deliveryId],
  )) as Delivery['papers']
}
