import { sealMeaning } from '@nemawashi/core'
import type { Decision } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'

type Head = Omit<Decision, 'rows' | 'meaning'>

async function withRows(reader: Reader, head: Head): Promise<Decision> {
  const rows = (await reader.query(
    `SELECT t.container_id, c.label AS container_label, t.place_id, p.name AS place_name, t.standing, t.quantity, t.disposition, t.reason
     FROM decision_part t LEFT JOIN container c ON c.id = t.container_id LEFT JOIN place p ON p.id = t.place_id
     WHERE t.decision_id = ? ORDER BY t.position`,
    [head.id],
  )) as Decision['rows']
  return { ...head, meaning: sealMeaning(rows), rows }
}

/** Every decision on a lot in the order in which they were signed, the latest last. */
export async function loadDecisions(reader: Reader, lotId: string): Promise<Decision[]> {
  const heads = (await reader.query(
    `SELECT d.id, d.inspection_id, i.code AS inspection_code, d.follows_id, d.signed_at, p.name AS signed_by_name, p.initials
     FROM decision d JOIN person p ON p.id = d.signed_by_id LEFT JOIN inspection i ON i.id = d.inspection_id WHERE d.lot_id = ? ORDER BY d.signed_at, i.code IS NULL, i.code, d.id`,
    [lotId],
  )) as Head[]
  return Promise.all(heads.map((head) => withRows(reader, head)))
}
