import type { Reader } from '../kernel/database'

/** Codes of the plans whose released or draft revision asks for a characteristic. */
export async function plansUsing(reader: Reader, characteristicId: string): Promise<string[]> {
  const rows = (await reader.query(
    `SELECT DISTINCT p.code FROM plan_line l JOIN plan_revision r ON r.id = l.plan_revision_id JOIN plan p ON p.id = r.plan_id
     WHERE l.characteristic_id = ? AND r.state <> 'retired' ORDER BY p.code`,
    [characteristicId],
  )) as { code: string }[]
  return rows.map((row) => row.code)
}

/** Released characteristics with an answer that asks for a plan in addition. */
export async function answersAskingFor(reader: Reader, planId: string): Promise<string[]> {
  const rows = (await reader.query(
    `SELECT c.code FROM characteristic_revision r JOIN characteristic c ON c.id = r.characteristic_id
     WHERE r.state = 'released' AND r.kind = 'coded'
       AND EXISTS (SELECT 1 FROM json_each(r.details, '$.answers') a WHERE json_extract(a.value, '$.followUpPlanId') = ?) ORDER BY c.code`,
    [planId],
  )) as { code: string }[]
  return rows.map(({ code }) => code)
}
