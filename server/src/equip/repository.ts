import type { dueStates } from '@nemawashi/contract'
import type { SearchProvider } from '../kernel/area'
import { rowsOf } from '../kernel/database/rowsOf'
import type { Filter, ListSpec } from '../kernel/http/lists'
import type { Reader } from '../kernel/work/database'

export const gaugeList: ListSpec = {
  from: 'gauge g JOIN gauge_kind k ON k.id = g.kind_id',
  id: 'g.id',
  columns: {
    id: { sql: 'g.id' },
    code: { sql: 'g.code' },
    name: { sql: 'g.name' },
    kindId: { sql: 'g.kind_id' },
    kind: { sql: 'k.code' },
    maker: { sql: 'g.maker' },
    serialNumber: { sql: 'g.serial_number' },
    resolution: { sql: 'g.resolution', isNullable: true },
    unit: { sql: 'g.unit', isNullable: true },
    lower: { sql: 'g.lower', isNullable: true },
    upper: { sql: 'g.upper', isNullable: true },
    calibratedOn: { sql: 'g.calibrated_on', isNullable: true },
    intervalMonths: { sql: 'g.interval_months', kind: 'number', isNullable: true },
    dueOn: { sql: 'g.due_on', isNullable: true, isMissingLast: true },
    state: { sql: 'g.state' },
    stateReason: { sql: 'g.state_reason' },
    stateSince: { sql: 'g.state_since' },
    usedAt: { sql: '(SELECT MAX(u.at) FROM gauge_use u WHERE u.gauge_id = g.id)', isNullable: true },
    version: { sql: 'g.version', kind: 'number' },
  },
  search: ['g.code', 'g.name', 'k.code', 'g.serial_number'],
  sort: ['code', 'asc'],
}

/** Needs a calibration and had none; the day of the next is not known then. */
const isNeverCalibrated = '(g.interval_months IS NOT NULL AND g.calibrated_on IS NULL)'

/** @param soon the last day that counts as soon */
export function gaugeFilters(
  { state, due, kind }: { state?: string | undefined; due?: (typeof dueStates)[number] | undefined; kind?: string | undefined },
  today: string,
  soon: string,
): Filter[] {
  const filters: Filter[] = []
  if (state !== undefined) filters.push({ sql: 'g.state = ?', values: [state] })
  if (kind !== undefined) filters.push({ sql: 'k.code = ?', values: [kind] })
  if (due === 'overdue') filters.push({ sql: `(g.due_on < ? OR ${isNeverCalibrated})`, values: [today] })
  if (due === 'soon') filters.push({ sql: 'g.due_on >= ? AND g.due_on <= ?', values: [today, soon] })
  if (due === 'due') filters.push({ sql: `(g.due_on <= ? OR ${isNeverCalibrated})`, values: [soon] })
  if (due === 'good') filters.push({ sql: `(g.due_on > ? OR g.due_on IS NULL) AND NOT ${isNeverCalibrated}`, values: [soon] })
  return filters
}

/** Each choice of a gauge for a line, with how many values stand with it. */
export const gaugeUseList: ListSpec = {
  from: `gauge_use u JOIN inspection i ON i.id = u.inspection_id JOIN inspection_line l ON l.id = u.line_id
    JOIN characteristic_revision r ON r.id = l.characteristic_revision_id JOIN person p ON p.id = u.person_id
    LEFT JOIN lot o ON o.id = i.lot_id LEFT JOIN part t ON t.id = o.part_id`,
  countFrom: 'gauge_use u',
  id: 'u.id',
  columns: {
    id: { sql: 'u.id' },
    inspectionId: { sql: 'u.inspection_id' },
    code: { sql: 'i.code' },
    characteristic: { sql: 'r.name' },
    partName: { sql: `COALESCE(t.name, '')` },
    lotId: { sql: 'i.lot_id', isNullable: true },
    lotCode: { sql: `COALESCE(o.code, '')` },
    values: {
      sql: '(SELECT COUNT(*) FROM reading x WHERE x.inspection_id = u.inspection_id AND x.line_id = u.line_id AND x.gauge_id = u.gauge_id AND x.value IS NOT NULL)',
      kind: 'number',
    },
    at: { sql: 'u.at' },
    byName: { sql: 'p.name' },
    reason: { sql: 'u.reason' },
  },
  search: ['i.code', 'r.name', 't.name', 'o.code'],
  sort: ['at', 'desc'],
}

export function gaugeUseFilters({ gaugeId, since }: { gaugeId?: string | undefined; since?: string | undefined }): Filter[] {
  return [
    ...(gaugeId === undefined ? [] : [{ sql: 'u.gauge_id = ?', values: [gaugeId] }]),
    ...(since === undefined ? [] : [{ sql: 'u.at >= ?', values: [since] }]),
  ]
}

/** Gauges by code, name or the number of their maker. */
export const gaugesFound: SearchProvider = {
  kind: 'gauge',
  sql: `SELECT id, code AS title, name AS detail FROM gauge WHERE code LIKE ? ESCAPE '\\' OR name || ' ' || serial_number LIKE ? ESCAPE '\\' ORDER BY code LIMIT 6`,
}

/** The gauge with a code as somebody scanned or typed it: in any case of letters where only one is meant. Gives its id. */
export async function gaugeByCode(reader: Reader, code: string): Promise<string | null> {
  const rows = await rowsOf(reader, { id: 'text', code: 'text' }, 'SELECT id, code FROM gauge WHERE LOWER(code) = LOWER(?) ORDER BY code', [code])
  const exact = rows.find((row) => row.code === code)
  return exact?.id ?? (rows.length === 1 ? (rows[0]?.id ?? null) : null)
}
