import type { Moment, RevisionState, Scope } from '@nemawashi/core'
import type { ControlPointRow } from './entities'
import type { ControlPoint, Flow, PastOccasions } from '@nemawashi/contract'
import type { Reader } from '../kernel/work/database'
import type { Column, ListSpec, Filter } from '../kernel/http/lists'
import { rowsOf } from '../kernel/database/rowsOf'

const nullable = (sql: string): Column => ({ sql, isNullable: true })

export const pointList: ListSpec = {
  from: `control_point c JOIN operation o ON o.id = c.operation_id JOIN plan p ON p.id = c.plan_id LEFT JOIN part t ON t.id = c.part_id
         LEFT JOIN family f ON f.id = c.family_id LEFT JOIN partner s ON s.id = c.supplier_id LEFT JOIN partner u ON u.id = c.customer_id LEFT JOIN place h ON h.id = c.hold_place_id LEFT JOIN plan y ON y.id = c.follow_plan_id`,
  where: `c.state <> 'byHand'`,
  id: 'c.id',
  columns: {
    id: { sql: 'c.id' },
    code: { sql: 'c.code' },
    operationId: { sql: 'c.operation_id' },
    moment: { sql: 'c.moment' },
    every: { sql: 'c.every', kind: 'number', isNullable: true },
    planId: { sql: 'c.plan_id' },
    partId: nullable('c.part_id'),
    familyId: nullable('c.family_id'),
    supplierId: nullable('c.supplier_id'),
    customerId: nullable('c.customer_id'),
    supplierGroup: nullable('c.supplier_group'),
    contract: nullable('c.contract'),
    subject: { sql: 'c.subject' },
    holds: { sql: 'c.holds' },
    frequency: { sql: 'c.frequency', kind: 'json' },
    responsible: { sql: 'c.responsible' },
    dueHours: { sql: 'c.due_hours', kind: 'number', isNullable: true },
    holdPlaceId: nullable('c.hold_place_id'),
    isGate: { sql: 'c.is_gate', kind: 'flag' },
    onFailure: { sql: 'c.on_failure' },
    whenConforming: { sql: 'c.when_conforming' },
    advice: { sql: 'c.advice' },
    followPlanId: nullable('c.follow_plan_id'),
    followPlanName: nullable('y.name'),
    answeredAt: { sql: 'c.answered_at' },
    tells: { sql: 'c.tells', kind: 'json' },
    keepsFrom: { sql: 'c.keeps_from' },
    setsAside: { sql: 'c.sets_aside', kind: 'flag' },
    need: { sql: 'c.need' },
    validFrom: nullable('c.valid_from'),
    validUntil: nullable('c.valid_until'),
    state: { sql: 'c.state' },
    version: { sql: 'c.version', kind: 'number' },
    operationName: { sql: 'o.name' },
    planCode: { sql: 'p.code' },
    planName: { sql: 'p.name' },
    partCode: nullable('t.code'),
    familyName: nullable('f.name'),
    supplierName: nullable('s.name'),
    customerName: nullable('u.name'),
    holdPlaceName: nullable('h.name'),
  },
  search: ['c.code', 'o.name', 'p.code', 'p.name', 't.code', 'f.name', 's.name', 'u.name', 'c.responsible'],
  sort: ['code', 'asc'],
}

const selected = Object.entries(pointList.columns).map(([name, { sql }]) => `${sql} AS "${name}"`)

export function pointFilters({ state }: { state?: string | undefined }): Filter[] {
  return state === undefined ? [] : [{ sql: 'c.state = ?', values: [state] }]
}

async function pointsWhere(reader: Reader, condition: string, values: string[]): Promise<ControlPoint[]> {
  const rows = await rowsOf<
    Omit<ControlPoint, 'isGate' | 'setsAside' | 'frequency' | 'tells'> & {
      isGate: number
      setsAside: number
      frequency: string
      tells: string
    }
  >(
    reader,
    {
      every: 'number?',
      partId: 'text?',
      code: 'text',
      partCode: 'text?',
      responsible: 'text',
      id: 'text',
      state: 'text',
      version: 'number',
      operationName: 'text',
      planCode: 'text',
      planName: 'text',
      familyName: 'text?',
      supplierName: 'text?',
      customerName: 'text?',
      holdPlaceName: 'text?',
      followPlanName: 'text?',
      operationId: 'text',
      moment: 'text',
      planId: 'text',
      familyId: 'text?',
      supplierId: 'text?',
      customerId: 'text?',
      supplierGroup: 'text?',
      contract: 'text?',
      subject: 'text',
      holds: 'text',
      dueHours: 'number?',
      holdPlaceId: 'text?',
      onFailure: 'text',
      whenConforming: 'text',
      advice: 'text',
      followPlanId: 'text?',
      answeredAt: 'text',
      keepsFrom: 'text',
      need: 'text',
      validFrom: 'text?',
      validUntil: 'text?',
      isGate: 'number',
      setsAside: 'number',
      frequency: 'text',
      tells: 'text',
    },
    `SELECT ${selected.join(', ')} FROM ${pointList.from} WHERE ${condition} ORDER BY c.code`,
    values,
  )
  return rows.map((row) => ({
    ...row,
    isGate: row.isGate === 1,
    setsAside: row.setsAside === 1,
    frequency: JSON.parse(row.frequency) as ControlPoint['frequency'],
    tells: JSON.parse(row.tells) as string[],
  }))
}

export async function pointById(reader: Reader, id: string): Promise<ControlPoint | null> {
  return (await pointsWhere(reader, 'c.id = ?', [id]))[0] ?? null
}

const reaching = '(c.part_id = ? OR c.family_id = ? OR (c.part_id IS NULL AND c.family_id IS NULL))'

/** Control points of a part that are in force on a day or will be: its own, those of its family, and those of every part. */
export async function pointsOn(reader: Reader, { id, familyId }: { id: string; familyId: string | null }, day: string): Promise<ControlPoint[]> {
  return pointsWhere(reader, `c.state = 'active' AND (c.valid_until IS NULL OR c.valid_until >= ?) AND ${reaching}`, [day, id, familyId ?? ''])
}

/** A family with its parts, and how many control points hang for each of them alone. */
export async function familyOf(reader: Reader, familyId: string | null): Promise<Flow['family']> {
  if (familyId === null) return null
  const [family] = await rowsOf(reader, { id: 'text', name: 'text' }, 'SELECT id, name FROM family WHERE id = ?', [familyId])
  if (!family) return null
  const parts = await rowsOf(
    reader,
    { id: 'text', code: 'text', own: 'number' },
    `SELECT t.id, t.code, (SELECT COUNT(*) FROM control_point c WHERE c.part_id = t.id AND c.state = 'active') AS own FROM part t WHERE t.family_id = ? ORDER BY t.code`,
    [familyId],
  )
  return { ...family, parts }
}

/** Those that were in force once and will not be any more. */
export async function pointsBefore(reader: Reader, { id, familyId }: { id: string; familyId: string | null }, day: string): Promise<Flow['before']> {
  const points = await pointsWhere(reader, `(c.state = 'retired' OR c.valid_until < ?) AND ${reaching}`, [day, id, familyId ?? ''])
  return points.map((point) => {
    const { id: pointId, code, planName, operationName, state, validUntil } = point
    return { id: pointId, code, planName, operationName, state, validUntil }
  })
}

/** In force on a day, which the statement takes twice. */
const inForceSql = `state = 'active' AND (valid_from IS NULL OR valid_from <= ?) AND (valid_until IS NULL OR valid_until >= ?)`

/** Intervals of the control points that are in force on a day at an operation, at a moment that has one. */
export async function intervalsAt(reader: Reader, operationId: string, moment: Moment, day: string): Promise<number[]> {
  const rows = await rowsOf(
    reader,
    { every: 'number' },
    `SELECT DISTINCT every FROM control_point WHERE operation_id = ? AND moment = ? AND ${inForceSql} AND every IS NOT NULL ORDER BY every`,
    [operationId, moment, day, day],
  )
  return rows.map(({ every }) => every)
}

/** Whether any control point that is in force on a day asks at a moment of an operation. */
export async function asksAt(reader: Reader, operationId: string, moment: Moment, day: string): Promise<boolean> {
  const rows = await reader.query(`SELECT 1 FROM control_point WHERE operation_id = ? AND moment = ? AND ${inForceSql} LIMIT 1`, [
    operationId,
    moment,
    day,
    day,
  ])
  return rows.length > 0
}

/** Every control point that is in force on a day, as far as it decides on what opens. */
export async function pointsInForce(reader: Reader, day: string): Promise<PastOccasions['points']> {
  const rows = await rowsOf<Omit<PastOccasions['points'][number], 'isGate' | 'frequency'> & { isGate: number; frequency: string }>(
    reader,
    {
      every: 'number?',
      partId: 'text?',
      code: 'text',
      id: 'text',
      operationName: 'text',
      planName: 'text',
      operationId: 'text',
      moment: 'text',
      planId: 'text',
      familyId: 'text?',
      supplierId: 'text?',
      customerId: 'text?',
      supplierGroup: 'text?',
      contract: 'text?',
      subject: 'text',
      holds: 'text',
      isGate: 'number',
      frequency: 'text',
    },
    `SELECT c.id, c.code, c.plan_id, p.name AS plan_name, c.operation_id, o.name AS operation_name, c.moment, c.every, c.subject, c.part_id, c.family_id, c.supplier_id,
       c.customer_id, c.supplier_group, c.contract, c.frequency, c.is_gate, c.holds
     FROM control_point c JOIN plan p ON p.id = c.plan_id JOIN operation o ON o.id = c.operation_id WHERE c.id IN (SELECT id FROM control_point WHERE ${inForceSql}) ORDER BY c.code`,
    [day, day],
  )
  return rows.map((row) => ({ ...row, isGate: row.isGate === 1, frequency: JSON.parse(row.frequency) as ControlPoint['frequency'] }))
}

/** Active control points that hang the same plan in the same place for the same, with the days on which they are in force. */
export async function samePoints(
  reader: Reader,
  input: Pick<ControlPointRow, 'operationId' | 'moment' | 'subject' | 'planId' | keyof Scope>,
): Promise<Pick<ControlPointRow, 'id' | 'code' | 'validFrom' | 'validUntil'>[]> {
  return rowsOf<Pick<ControlPointRow, 'id' | 'code' | 'validFrom' | 'validUntil'>>(
    reader,
    { code: 'text', id: 'text', validFrom: 'text?', validUntil: 'text?' },
    `SELECT id, code, valid_from, valid_until FROM control_point WHERE state = 'active' AND operation_id = ? AND moment = ? AND subject = ? AND plan_id = ?
       AND part_id IS NOT DISTINCT FROM ? AND family_id IS NOT DISTINCT FROM ? AND supplier_id IS NOT DISTINCT FROM ? AND customer_id IS NOT DISTINCT FROM ?
       AND supplier_group IS NOT DISTINCT FROM ? AND contract IS NOT DISTINCT FROM ? ORDER BY code`,
    [
      ...[input.operationId, input.moment, input.subject, input.planId],
      ...[input.partId, input.familyId, input.supplierId, input.customerId, input.supplierGroup, input.contract],
    ],
  )
}

/** Operations of a part in the order of its routing. */
export async function routingOf(reader: Reader, partId: string) {
  return rowsOf<{ id: string; code: string; name: string; kind: Flow['stops'][number]['kind'] }>(
    reader,
    { id: 'text', code: 'text', name: 'text', kind: 'text' },
    'SELECT o.id, o.code, o.name, o.kind FROM routing_step r JOIN operation o ON o.id = r.operation_id WHERE r.part_id = ? ORDER BY r.position',
    [partId],
  )
}

export async function releasedRevision(reader: Reader, planId: string): Promise<{ id: string; revision: number; state: RevisionState } | null> {
  const [row] = await rowsOf<{ id: string; revision: number; state: RevisionState }>(
    reader,
    { id: 'text', revision: 'number', state: 'text' },
    `SELECT id, revision, state FROM plan_revision WHERE plan_id = ? ORDER BY state = 'released' DESC, revision DESC LIMIT 1`,
    [planId],
  )
  return row ?? null
}

/** Whether any part that a reach is for has the operation on its way. */
export async function isOnTheWay(reader: Reader, { operationId, partId, familyId }: Pick<ControlPointRow, 'operationId' | 'partId' | 'familyId'>) {
  const isForAll = partId === null && familyId === null
  const rows = await reader.query(
    `SELECT 1 FROM routing_step r JOIN part t ON t.id = r.part_id WHERE r.operation_id = ? ${isForAll ? '' : 'AND (t.id = ? OR t.family_id = ?)'} LIMIT 1`,
    [operationId, ...(isForAll ? [] : [partId, familyId])],
  )
  return rows.length > 0
}

/** Operations of a part at which nothing is checked on purpose. */
export async function leftOpenOf(reader: Reader, partId: string): Promise<Map<string, { reason: string; byName: string; at: string }>> {
  const rows = await rowsOf(
    reader,
    { operationId: 'text', reason: 'text', byName: 'text', at: 'text' },
    'SELECT s.operation_id, s.reason, s.at, p.name AS by_name FROM open_stop s JOIN person p ON p.id = s.person_id WHERE s.part_id = ?',
    [partId],
  )
  return new Map(rows.map(({ operationId, ...said }) => [operationId, said]))
}

/** What the chain says of changes of a control point, newest first. */
export async function changesOf(
  reader: Reader,
  pointId: string,
): Promise<{ at: string; byName: string; action: string; before: string | null; after: string | null }[]> {
  return rowsOf(
    reader,
    { at: 'text', byName: 'text', action: 'text', before: 'text?', after: 'text?' },
    `SELECT a.at, COALESCE(p.name, '') AS by_name, a.action, a.before, a.after FROM audit a LEFT JOIN person p ON p.id = a.person_id
     WHERE a.subject_id = ? AND a.subject = 'control point' ORDER BY a.seq DESC`,
    [pointId],
  )
}

const named = ['operation', 'plan', 'part', 'family', 'partner', 'place']

/** What the things that a control point names are called, by id. */
export async function namesOf(reader: Reader, ids: readonly string[]): Promise<Map<string, string>> {
  const rows = await rowsOf(
    reader,
    { id: 'text', name: 'text' },
    [
      ...named.map((table) => `SELECT id, code || ' ' || name AS name FROM ${table} WHERE id IN (SELECT value FROM json_each(?))`),
      'SELECT id, name FROM person WHERE id IN (SELECT value FROM json_each(?))',
    ].join(' UNION ALL '),
    [...named, 'person'].map(() => JSON.stringify(ids)),
  )
  return new Map(rows.map(({ id, name }) => [id, name]))
}

/** Whether any supplier has this word as its group. */
export async function isSupplierGroup(reader: Reader, group: string): Promise<boolean> {
  return (await reader.query(`SELECT 1 FROM partner WHERE kind = 'supplier' AND supplier_group = ? LIMIT 1`, [group])).length > 0
}
