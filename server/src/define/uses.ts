import type { CharacteristicUses } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'

/** Everything that asks for a characteristic: plan lines of drafts and released plans, their control points, and the parts these reach. */
export async function usesOf(reader: Reader, characteristicId: string): Promise<CharacteristicUses> {
  const lines = (await reader.query(
    `SELECT p.id AS planId, p.code AS planCode, p.name AS planName, r.revision AS planRevision, r.state AS planState, l.detached, IFNULL(json_array_length(l.targets), 0) AS targets
     FROM plan_line l JOIN plan_revision r ON r.id = l.planRevisionId JOIN plan p ON p.id = r.planId
     WHERE l.characteristicId = ? AND r.state <> 'retired' ORDER BY p.code, r.revision`,
    [characteristicId],
  )) as (Omit<CharacteristicUses['lines'][number], 'detached'> & { detached: string | null })[]
  const points = (await reader.query(
    `SELECT DISTINCT c.id, c.code, o.name AS operationName, p.code AS planCode
     FROM plan_line l JOIN plan_revision r ON r.id = l.planRevisionId AND r.state = 'released' JOIN plan p ON p.id = r.planId
     JOIN control_point c ON c.planId = p.id AND c.state = 'active' JOIN operation o ON o.id = c.operationId
     WHERE l.characteristicId = ? ORDER BY c.code`,
    [characteristicId],
  )) as CharacteristicUses['points']
  const parts = (await reader.query(
    `SELECT DISTINCT t.id, t.code, t.name
     FROM plan_line l JOIN plan_revision r ON r.id = l.planRevisionId AND r.state = 'released'
     JOIN control_point c ON c.planId = r.planId AND c.state = 'active'
     JOIN part t ON t.id = c.partId OR (c.partId IS NULL AND (t.familyId = c.familyId OR c.familyId IS NULL))
       AND EXISTS (SELECT 1 FROM routing_step s WHERE s.partId = t.id AND s.operationId = c.operationId)
     WHERE l.characteristicId = ? ORDER BY t.code LIMIT 200`,
    [characteristicId],
  )) as CharacteristicUses['parts']
  return { lines: lines.map((line) => ({ ...line, detached: line.detached === null ? null : JSON.parse(line.detached) })), points, parts }
}
