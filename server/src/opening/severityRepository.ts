import type { SchemeRule, SeverityState } from '@nemawashi/core'
import type { Finding, SeverityNow } from '@nemawashi/contract'
import type { Reader } from '../kernel/work/database'
import type { LineHistory } from './severity'
import { rowsOf, type Columns } from '../kernel/database/rowsOf'

export interface JudgedRow {
  readonly inspectionId: string
  readonly inspectionCode: string
  readonly finishedAt: string
  readonly finding: Finding
  readonly position: number
  readonly severity: SeverityNow
  readonly sampling: string | null
  readonly lotSize: number
}

type Asking = Pick<Reader, 'query'>
const judgedColumns = 'i.id AS inspection_id, i.code AS inspection_code, i.finished_at, i.finding, l.position, l.severity, p.sampling, i.lot_size'
const judgedFrom = `inspection i JOIN inspection_line l ON l.inspection_id = i.id JOIN characteristic_revision r ON r.id = l.characteristic_revision_id
     LEFT JOIN plan_line p ON p.plan_revision_id = i.plan_revision_id AND p.characteristic_id = r.characteristic_id`
type StoredJudged = Omit<JudgedRow, 'finding' | 'severity'> & { finding: string; severity: string }
const parsed = <Stored extends StoredJudged>(rows: readonly Stored[]) =>
  rows.map((row) => ({ ...row, finding: JSON.parse(row.finding) as Finding, severity: JSON.parse(row.severity) as SeverityNow }))

const storedJudgedColumns: Columns<StoredJudged> = {
  sampling: 'text?',
  inspectionId: 'text',
  inspectionCode: 'text',
  position: 'number',
  lotSize: 'number',
  finishedAt: 'text',
  finding: 'text',
  severity: 'text',
}

/** What was found on a line of original inspections, in the order in which they were finished. @param most how many of the last ones; left out: all */
export async function judgedBefore(
  reader: Asking,
  { planId, operationId, partId, partnerId, characteristicId }: LineHistory,
  most: number | null = null,
): Promise<JudgedRow[]> {
  const rows = await rowsOf<StoredJudged>(
    reader,
    storedJudgedColumns,
    `SELECT ${judgedColumns} FROM consideration c JOIN ${judgedFrom.replace('inspection i', 'inspection i ON i.id = c.inspection_id')}
     WHERE c.plan_id = ? AND c.operation_id = ? AND c.part_id = ? AND c.partner_id IS NOT DISTINCT FROM ? AND r.characteristic_id = ?
       AND l.severity IS NOT NULL AND i.state IN ('finished', 'decided') ORDER BY i.finished_at DESC, i.id DESC${most === null ? '' : ` LIMIT ${most}`}`,
    [planId, operationId, partId, partnerId, characteristicId],
  )
  return parsed(rows.reverse())
}

/** What was found on a line of one inspection. */
export async function judgedIn(reader: Asking, inspectionId: string, characteristicId: string): Promise<JudgedRow[]> {
  const rows = await rowsOf<StoredJudged>(
    reader,
    storedJudgedColumns,
    `SELECT ${judgedColumns} FROM ${judgedFrom} WHERE i.id = ? AND r.characteristic_id = ? AND l.severity IS NOT NULL AND i.state IN ('finished', 'decided')`,
    [inspectionId, characteristicId],
  )
  return parsed(rows)
}

/** What original inspections since an instant found on their lines, where it is not simply all accepted with nothing found. */
export async function judgedSince(reader: Asking, at: string): Promise<(JudgedRow & Pick<LineHistory, 'planId' | 'characteristicId'>)[]> {
  const rows = await rowsOf<StoredJudged & Pick<LineHistory, 'planId' | 'characteristicId'>>(
    reader,
    {
      sampling: 'text?',
      inspectionId: 'text',
      inspectionCode: 'text',
      position: 'number',
      lotSize: 'number',
      finishedAt: 'text',
      finding: 'text',
      severity: 'text',
      characteristicId: 'text',
      planId: 'text',
    },
    `SELECT ${judgedColumns}, c.plan_id, r.characteristic_id FROM consideration c JOIN ${judgedFrom.replace('inspection i', 'inspection i ON i.id = c.inspection_id')}
     JOIN plan_revision v ON v.id = i.plan_revision_id AND v.plan_id = c.plan_id
     WHERE c.at >= ? AND c.occasion_id IS NOT NULL AND l.severity IS NOT NULL AND i.state IN ('finished', 'decided')
       AND (i.verdict <> 'acceptable' OR replace(i.finding, '"nonconforming":0', '') LIKE '%"nonconforming":%')`,
    [at],
  )
  return parsed(rows)
}

/** Everything that is kept of lines, with their plans. */
export async function allKept(reader: Asking): Promise<(LineHistory & { rule: SchemeRule; kept: SeverityState; planCode: string })[]> {
  const rows = await rowsOf<LineHistory & { rule: string; kept: string; planCode: string }>(
    reader,
    {
      planId: 'text',
      operationId: 'text',
      partId: 'text',
      partnerId: 'text?',
      characteristicId: 'text',
      rule: 'text',
      kept: 'text',
      planCode: 'text',
    },
    `SELECT s.plan_id, s.operation_id, s.part_id, s.partner_id, s.characteristic_id, s.rule, s.kept, COALESCE(p.code, s.plan_id) AS plan_code
     FROM line_severity s LEFT JOIN plan p ON p.id = s.plan_id ORDER BY s.id`,
    [],
  )
  return rows.map((row) => ({ ...row, rule: JSON.parse(row.rule) as SchemeRule, kept: JSON.parse(row.kept) as SeverityState }))
}

/** When persons let acceptance of a line begin again, in order. */
export async function answersOf(reader: Asking, { planId, operationId, partId, partnerId, characteristicId }: LineHistory): Promise<string[]> {
  const rows = await rowsOf(
    reader,
    { endedAt: 'text' },
    `SELECT ended_at FROM acceptance_stop WHERE plan_id = ? AND operation_id = ? AND part_id = ? AND partner_id IS NOT DISTINCT FROM ?
       AND characteristic_id = ? AND ended_as = 'answered' ORDER BY ended_at`,
    [planId, operationId, partId, partnerId, characteristicId],
  )
  return rows.map(({ endedAt }) => endedAt)
}

/** Where an inspection stands in the history of its lines; null where it follows another one, or is of a load. */
export async function historyOf(reader: Reader, inspectionId: string): Promise<Omit<LineHistory, 'characteristicId'> | null> {
  const [found] = await rowsOf<Omit<LineHistory, 'characteristicId'>>(
    reader,
    { partId: 'text', operationId: 'text', planId: 'text', partnerId: 'text?' },
    'SELECT plan_id, operation_id, part_id, partner_id FROM consideration WHERE inspection_id = ? AND part_id IS NOT NULL',
    [inspectionId],
  )
  return found ?? null
}

/** Lines of an inspection whose rules switch, with what they rest on. */
export async function switchingLines(reader: Reader, inspectionId: string): Promise<{ characteristicId: string; sampling: string }[]> {
  return rowsOf(
    reader,
    { characteristicId: 'text', sampling: 'text' },
    `SELECT r.characteristic_id, p.sampling FROM inspection_line l JOIN characteristic_revision r ON r.id = l.characteristic_revision_id
     JOIN inspection i ON i.id = l.inspection_id
     JOIN plan_line p ON p.plan_revision_id = i.plan_revision_id AND p.characteristic_id = r.characteristic_id
     WHERE l.inspection_id = ? AND l.severity IS NOT NULL ORDER BY l.position`,
    [inspectionId],
  )
}

/** The stop of a line that stands; null where acceptance goes on. */
export async function standingStop(
  reader: Reader,
  { planId, operationId, partId, partnerId, characteristicId }: LineHistory,
): Promise<string | null> {
  const [found] = await rowsOf(
    reader,
    { id: 'text' },
    `SELECT id FROM acceptance_stop WHERE plan_id = ? AND operation_id = ? AND part_id = ? AND partner_id IS NOT DISTINCT FROM ?
       AND characteristic_id = ? AND ended_at IS NULL`,
    [planId, operationId, partId, partnerId, characteristicId],
  )
  return found?.id ?? null
}

/** Stops that stand because of an inspection. */
export async function stopsBy(reader: Reader, inspectionId: string): Promise<string[]> {
  const rows = await rowsOf(reader, { id: 'text' }, 'SELECT id FROM acceptance_stop WHERE inspection_id = ? AND ended_at IS NULL', [inspectionId])
  return rows.map(({ id }) => id)
}
