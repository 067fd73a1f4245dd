import { sealMeaning } from '@nemawashi/core'
import type { Decision } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'

type Head = Omit<Decision, 'rows' | 'meaning'>

async function withRows(reader: Reader, head: Head): Promise<Decision> {
  const rows = (await reader.query(
    `SELECT t.containerId, c.label AS containerLabel, t.placeId, p.name AS placeName, t.standing, t.quantity, t.disposition, t.reason
     FROM decision_part t LEFT JOIN container c ON c.id = t.containerId LEFT JOIN place p ON p.id = t.placeId
     WHERE t.decisionId = ? ORDER BY t.position`,
    [head.id],
  )) as Decision['rows']
  return { ...head, meaning: sealMeaning(rows), rows }
}

/** Every decision on a lot in the order in which they were signed, the latest last. */
export async function loadDecisions(reader: Reader, lotId: string): Promise<Decision[]> {
  const heads = (await reader.query(
    `SELECT d.id, d.inspectionId, i.code AS inspectionCode, d.followsId, d.signedAt, p.name AS signedByName, p.initials
     FROM decision d JOIN person p ON p.id = d.signedById LEFT JOIN inspection i ON i.id = d.inspectionId WHERE d.lotId = ? ORDER BY d.signedAt, d.rowid`,
    [lotId],
  )) as Head[]
  return Promise.all(heads.map((head) => withRows(reader, head)))
}
