import type { Assignment, Facet, Planning, PlannedInspection, QueueFacets } from '@nemawashi/contract'
import { dueGroups, dueWords, type ListQuery } from '@nemawashi/contract'
import type { Reader } from '../kernel/work/database'
import { matching, type Filter } from '../kernel/http/lists'
import { dueBounds, dueSql, holderSql, isOpenSql, isPlannedSql, type QueueViewer } from './queueRepository'
import { inspectionList } from './repository'
import { lookedAtCode } from './headRepository'
import { rowsOf, type Columns } from '../kernel/database/rowsOf'

const assignmentSql = `a.person_id, ap.name AS person_name, a.day, i.minutes, ${holderSql} AS holder_id, hp.name AS holder_name,
  CASE WHEN a.held_at IS NULL THEN i.started_at WHEN a.holder_id IS NULL THEN NULL ELSE a.held_at END AS held_since, a.holder_id AS claimed_by, COALESCE(a.version, 0) AS version`

const assignmentColumns: Columns<Assignment> = {
  personId: 'text?',
  personName: 'text?',
  day: 'text?',
  minutes: 'number?',
  holderId: 'text?',
  holderName: 'text?',
  heldSince: 'text?',
  claimedBy: 'text?',
  version: 'number',
}

/** For whom and for which day an inspection is planned, and who has it. */
export async function assignmentOf(reader: Reader, inspectionId: string): Promise<Assignment> {
  const [row] = await rowsOf<Assignment>(
    reader,
    assignmentColumns,
    `SELECT ${assignmentSql} FROM inspection i LEFT JOIN assignment a ON a.id = i.id LEFT JOIN person ap ON ap.id = a.person_id
     LEFT JOIN person hp ON hp.id = ${holderSql} WHERE i.id = ?`,
    [inspectionId],
  )
  return row as Assignment
}

type Query = Pick<ListQuery, 'q'>

/** What each facet groups by: the value that narrows, and its name. */
const facets = {
  operationId: ['i.operation_id', 'o.name'],
  partId: ['l.part_id', `t.code || ' ' || t.name`],
  supplierId: ['COALESCE(l.supplier_id, v.partner_id)', 's.name'],
  responsible: [
    `CASE i.responsible WHEN '' THEN '-' ELSE i.responsible END`,
    `CASE i.responsible WHEN '' THEN 'nobody named' ELSE i.responsible END`,
  ],
  gate: [`CASE WHEN i.is_gate THEN 'yes' ELSE 'no' END`, `CASE WHEN i.is_gate THEN 'gate' ELSE 'no gate' END`],
  assignedTo: [`CASE WHEN ap.is_active THEN a.person_id ELSE '-' END`, `CASE WHEN ap.is_active THEN ap.name ELSE 'nobody yet' END`],
} as const

const facetColumns: Columns<Facet> = { value: 'text', name: 'text', count: 'number' }

/** How many are left when the queue is narrowed down further, by each way; those with the most first. */
export async function facetsOf(reader: Reader, query: Query, filters: readonly Filter[], asking: QueueViewer): Promise<QueueFacets> {
  const { sql, values } = matching(inspectionList, query, filters)
  const where = sql.length > 0 ? `WHERE ${sql.join(' AND ')}` : ''
  const grouped = async ([value, name]: readonly [string, string]): Promise<Facet[]> =>
    await rowsOf<Facet>(
      reader,
      facetColumns,
      `SELECT f.value, f.name, COUNT(*) AS count FROM (SELECT ${value} AS value, ${name} AS name FROM ${inspectionList.from} ${where}) f
       WHERE f.value IS NOT NULL GROUP BY f.value, f.name ORDER BY count DESC, f.name`,
      values,
    )
  const byDue = await rowsOf(
    reader,
    { value: 'text', count: 'number' },
    `SELECT f.value, COUNT(*) AS count FROM (SELECT ${dueSql} AS value FROM ${inspectionList.from} ${where}) f GROUP BY f.value`,
    [...dueBounds(asking), ...values],
  )
  return {
    due: dueGroups.flatMap((value) => {
      const found = byDue.find((row) => row.value === value)
      return found ? [{ value, name: dueWords[value], count: found.count }] : []
    }),
    operationId: await grouped(facets.operationId),
    partId: await grouped(facets.partId),
    supplierId: await grouped(facets.supplierId),
    responsible: await grouped(facets.responsible),
    gate: await grouped(facets.gate),
    assignedTo: await grouped(facets.assignedTo),
  }
}

const planned = `i.id, i.code, i.state, p.name AS plan_name, COALESCE(t.code, '') AS part_code, ${lookedAtCode} AS lot_code, o.name AS operation_name,
  i.is_gate, i.due_at, ${assignmentSql}`

async function plannedWhere(reader: Reader, query: Query, conditions: string, values: readonly string[], limit: number | null) {
  const found = matching(inspectionList, query, [{ sql: conditions, values }])
  const rows = await rowsOf<Omit<PlannedInspection, 'isGate'> & { isGate: number }>(
    reader,
    {
      code: 'text',
      partCode: 'text',
      id: 'text',
      state: 'text',
      day: 'text?',
      version: 'number',
      operationName: 'text',
      planName: 'text',
      lotCode: 'text',
      personId: 'text?',
      personName: 'text?',
      minutes: 'number?',
      holderId: 'text?',
      holderName: 'text?',
      heldSince: 'text?',
      claimedBy: 'text?',
      dueAt: 'text?',
      isGate: 'number',
    },
    `SELECT ${planned} FROM ${inspectionList.from} WHERE ${found.sql.join(' AND ')} ORDER BY COALESCE(i.due_at, '9'), i.code ${limit === null ? '' : `LIMIT ${limit}`}`,
    found.values,
  )
  return rows.map((row) => ({ ...row, isGate: row.isGate === 1 }))
}

const maxUnplanned = 100
/** Who can be planned for: those who work at the bench and may sign in. */
const atBench = (person: string) => `${person}.is_active AND (${person}.roles LIKE '%"inspector"%' OR ${person}.roles LIKE '%"qualityEngineer"%')`

/** People whom an inspection can be planned for, of those named. */
export async function isAtBench(reader: Reader, personId: string): Promise<boolean> {
  return (await reader.query(`SELECT 1 FROM person p WHERE p.id = ? AND ${atBench('p')}`, [personId])).length > 0
}

/** Who works at the bench, what is planned for whom, and what for nobody. */
export async function planningOf(reader: Reader, query: Query, days: readonly string[], today: string): Promise<Planning> {
  const people = await rowsOf<Planning['people'][number]>(
    reader,
    { id: 'text', name: 'text', initials: 'text', dayMinutes: 'number' },
    `SELECT p.id, p.name, p.initials, p.day_minutes FROM person p WHERE ${atBench('p')} ORDER BY p.name`,
    [],
  )
  const [{ total } = { total: 0 }] = await rowsOf(
    reader,
    { total: 'number' },
    `SELECT COUNT(*) AS total FROM inspection i WHERE ${isOpenSql} AND NOT ${isPlannedSql}`,
    [],
  )
  return {
    days: [...days],
    today,
    people,
    planned: await plannedWhere(reader, {}, `${isOpenSql} AND ${isPlannedSql} AND (a.day IS NULL OR a.day <= ?)`, [days.at(-1) ?? today], null),
    unplanned: await plannedWhere(reader, query, `${isOpenSql} AND NOT ${isPlannedSql}`, [], maxUnplanned),
    unplannedTotal: total,
  }
}
