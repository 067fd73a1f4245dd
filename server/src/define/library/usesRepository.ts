import type { CharacteristicUses } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { rowsOf } from '../../kernel/database/rowsOf'

/** Codes of the plans whose released or draft revision asks for a characteristic. */
export async function plansUsing(reader: Reader, characteristicId: string): Promise<string[]> {
  const rows = await rowsOf(
    reader,
    { code: 'text' },
    `SELECT DISTINCT p.code FROM plan_line l JOIN plan_revision r ON r.id = l.plan_revision_id JOIN plan p ON p.id = r.plan_id
     WHERE l.characteristic_id = ? AND r.state <> 'retired' ORDER BY p.code`,
    [characteristicId],
  )
  return rows.map((row) => row.code)
}

/** Released characteristics with an answer that asks for a plan in addition. */
export async function answersAskingFor(reader: Reader, planId: string): Promise<string[]> {
  const rows = await rowsOf(
    reader,
    { code: 'text' },
    `SELECT c.code FROM characteristic_revision r JOIN characteristic c ON c.id = r.characteristic_id
     WHERE r.state = 'released' AND r.kind = 'coded'
       AND EXISTS (SELECT 1 FROM json_each(r.details, '$.answers') a WHERE json_extract(a.value, '$.followUpPlanId') = ?) ORDER BY c.code`,
    [planId],
  )
  return rows.map(({ code }) => code)
}

/** Everything that asks for a characteristic: plan lines of drafts and released plans, their control points, and the parts these reach. */
export async function usesOf(reader: Reader, characteristicId: string): Promise<CharacteristicUses> {
  const lines = await rowsOf<Omit<CharacteristicUses['lines'][number], 'detached'> & { detached: string | null }>(
    reader,
    { targets: 'number', planCode: 'text', planName: 'text', planId: 'text', planRevision: 'number', planState: 'text', detached: 'text?' },
    `SELECT p.id AS plan_id, p.code AS plan_code, p.name AS plan_name, r.revision AS plan_revision, r.state AS plan_state, l.detached, COALESCE(json_array_length(l.targets), 0) AS targets
     FROM plan_line l JOIN plan_revision r ON r.id = l.plan_revision_id JOIN plan p ON p.id = r.plan_id
     WHERE l.characteristic_id = ? AND r.state <> 'retired' ORDER BY p.code, r.revision`,
    [characteristicId],
  )
  const points = await rowsOf<CharacteristicUses['points'][number]>(
    reader,
    { id: 'text', code: 'text', operationName: 'text', planCode: 'text' },
    `SELECT DISTINCT c.id, c.code, o.name AS operation_name, p.code AS plan_code
     FROM plan_line l JOIN plan_revision r ON r.id = l.plan_revision_id AND r.state = 'released' JOIN plan p ON p.id = r.plan_id
     JOIN control_point c ON c.plan_id = p.id AND c.state = 'active' JOIN operation o ON o.id = c.operation_id
     WHERE l.characteristic_id = ? ORDER BY c.code`,
    [characteristicId],
  )
  const parts = await rowsOf<CharacteristicUses['parts'][number]>(
    reader,
    { id: 'text', code: 'text', name: 'text' },
    `SELECT DISTINCT t.id, t.code, t.name
     FROM plan_line l JOIN plan_revision r ON r.id = l.plan_revision_id AND r.state = 'released'
     JOIN control_point c ON c.plan_id = r.plan_id AND c.state = 'active'
     JOIN part t ON t.id = c.part_id OR (c.part_id IS NULL AND (t.family_id = c.family_id OR c.family_id IS NULL))
       AND EXISTS (SELECT 1 FROM routing_step s WHERE s.part_id = t.id AND s.operation_id = c.operation_id)
     WHERE l.characteristic_id = ? ORDER BY t.code LIMIT 200`,
    [characteristicId],
  )
  return { lines: lines.map((line) => ({ ...line, detached: line.detached === null ? null : JSON.parse(line.detached) })), points, parts }
}
