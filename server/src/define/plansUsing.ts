import type { Reader } from '../kernel/database'

/** Codes of the plans whose released or draft revision asks for a characteristic. */
export async function plansUsing(reader: Reader, characteristicId: string): Promise<string[]> {
  const rows = (await reader.query(
    `SELECT DISTINCT p.code FROM plan_line l JOIN plan_revision r ON r.id = l.planRevisionId JOIN plan p ON p.id = r.planId
     WHERE l.characteristicId = ? AND r.state <> 'retired' ORDER BY p.code`,
    [characteristicId],
  )) as { code: string }[]
  return rows.map((row) => row.code)
}
