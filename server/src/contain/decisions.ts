import type { Decision } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'

/** The decision on an inspection, or null while there is none. */
export async function loadDecision(reader: Reader, inspectionId: string): Promise<Decision | null> {
  const [head] = (await reader.query(
    `SELECT d.id, d.signedAt, p.name AS signedByName, p.initials, d.meaning FROM decision d JOIN person p ON p.id = d.signedById WHERE d.inspectionId = ?`,
    [inspectionId],
  )) as Omit<Decision, 'rows'>[]
  if (!head) return null
  const rows = (await reader.query(
    `SELECT t.containerId, c.label AS containerLabel, t.quantity, t.disposition, t.reason FROM decision_part t LEFT JOIN container c ON c.id = t.containerId
     WHERE t.decisionId = ? ORDER BY t.position`,
    [head.id],
  )) as Decision['rows']
  return { ...head, rows }
}
