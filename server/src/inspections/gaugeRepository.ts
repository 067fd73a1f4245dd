import type { GaugeObjection } from '@nemawashi/core'
import type { GaugeUse } from '@nemawashi/contract'
import { rowsOf } from '../kernel/database/rowsOf'
import type { Reader } from '../kernel/work/database'

/** Gauges that were chosen for the lines of an inspection, the latest of a line last. */
export async function gaugesOf(reader: Reader, inspectionId: string): Promise<GaugeUse[]> {
  const rows = await rowsOf<Omit<GaugeUse, 'objections' | 'isSending'> & { objections: string; isSending: number }>(
    reader,
    {
      lineId: 'text',
      gaugeId: 'text',
      code: 'text',
      name: 'text',
      dueOn: 'text?',
      objections: 'text',
      reason: 'text',
      byName: 'text',
      at: 'text',
      isSending: 'number',
    },
    `SELECT u.line_id, u.gauge_id, g.code, g.name, g.due_on, u.objections, u.reason, p.name AS by_name, u.at,
       (SELECT COUNT(*) FROM instrument s WHERE s.gauge_id = g.id) AS is_sending
     FROM gauge_use u JOIN gauge g ON g.id = u.gauge_id JOIN person p ON p.id = u.person_id WHERE u.inspection_id = ? ORDER BY u.at, u.id`,
    [inspectionId],
  )
  return rows.map((row) => ({ ...row, isSending: row.isSending === 1, objections: JSON.parse(row.objections) as GaugeObjection[] }))
}

/** Kinds of gauges whose readings want a gauge by name: what they are called. */
export async function askedKinds(reader: Reader): Promise<Set<string>> {
  const rows = await rowsOf(reader, { code: 'text' }, 'SELECT code FROM gauge_kind WHERE is_asked AND is_active', [])
  return new Set(rows.map(({ code }) => code))
}

/** Which gauge may stand beside which line of an inspection, as it was chosen last, with how it stands now. */
export async function admittedGauges(reader: Reader, inspectionId: string) {
  const rows = await rowsOf(
    reader,
    { lineId: 'text', gaugeId: 'text', code: 'text', state: 'text', stateReason: 'text', stateSince: 'text', dueOn: 'text?', objections: 'text' },
    `SELECT u.line_id, u.gauge_id, g.code, g.state, g.state_reason, g.state_since, g.due_on, u.objections
     FROM gauge_use u JOIN gauge g ON g.id = u.gauge_id WHERE u.inspection_id = ? ORDER BY u.at DESC, u.id DESC`,
    [inspectionId],
  )
  return rows.map((row) => ({ ...row, objections: JSON.parse(row.objections) as GaugeObjection[] }))
}
