import type { Filter, ListSpec } from '../kernel/lists'

/** What a subject of the chain is called by people: its table, the column with its number or name, and the page that shows it. */
const named: Readonly<Record<string, { table: string; column: string }>> = {
  person: { table: 'person', column: 'name' },
  lot: { table: 'lot', column: 'code' },
  inspection: { table: 'inspection', column: 'code' },
  delivery: { table: 'delivery', column: 'code' },
  'control point': { table: 'control_point', column: 'code' },
  plan: { table: 'plan', column: 'code' },
  characteristic: { table: 'characteristic', column: 'code' },
  part: { table: 'part', column: 'code' },
  partner: { table: 'partner', column: 'code' },
  place: { table: 'place', column: 'code' },
  operation: { table: 'operation', column: 'code' },
  family: { table: 'family', column: 'code' },
  'answer list': { table: 'answer_list', column: 'code' },
  'fault code': { table: 'fault_code', column: 'code' },
  reason: { table: 'reason', column: 'code' },
  class: { table: 'importance_class', column: 'code' },
  'unit of count': { table: 'count_unit', column: 'code' },
  document: { table: 'document', column: 'name' },
}

const subjectName = `CASE a.subject ${Object.entries(named)
  .map(([subject, { table, column }]) => `WHEN '${subject}' THEN (SELECT x."${column}" FROM "${table}" x WHERE x.id = a.subjectId)`)
  .join(' ')} END`

/** Ids of everything whose number or name holds the word: `L-000012` finds what was done to that lot. */
const subjectIds = Object.values(named)
  .map(({ table, column }) => `SELECT id FROM "${table}" WHERE "${column}" LIKE ? ESCAPE '\\'`)
  .map((sql) => `a.subjectId IN (${sql})`)

export const auditList: ListSpec = {
  from: 'audit a LEFT JOIN person p ON p.id = a.personId',
  countFrom: 'audit a',
  id: 'a.seq',
  columns: {
    id: { sql: 'CAST(a.seq AS TEXT)' },
    at: { sql: 'a.at' },
    personName: { sql: 'p.name', isNullable: true },
    action: { sql: 'a.action' },
    subject: { sql: 'a.subject' },
    subjectName: { sql: subjectName, isNullable: true },
    subjectId: { sql: 'a.subjectId' },
    why: { sql: 'a.why', isNullable: true },
    before: { sql: 'a.before', isNullable: true },
    after: { sql: 'a.after', isNullable: true },
  },
  search: ['p.name', 'a.action', 'a.subject', 'a.subjectId', 'a.why'],
  searchAlso: subjectIds,
  sort: ['at', 'desc'],
}

export interface AuditQuery {
  readonly personId?: string | undefined
  readonly subject?: string | undefined
  readonly subjectId?: string | undefined
  readonly action?: string | undefined
  readonly from?: string | undefined
  readonly until?: string | undefined
  readonly work?: 'all' | undefined
}

/** Signing in and out is most of what happens and rarely what is looked for: it is shown when asked for. */
const ofSessions = `('signed in', 'signed out', 'tidied', 'session ended')`

export function auditFilters(query: AuditQuery): Filter[] {
  const equal = (column: string, value: string | undefined) => (value === undefined ? [] : [{ sql: `${column} = ?`, values: [value] }])
  return [
    ...equal('a.personId', query.personId),
    ...equal('a.subject', query.subject),
    ...equal('a.subjectId', query.subjectId),
    ...equal('a.action', query.action),
    ...(query.from === undefined ? [] : [{ sql: 'a.at >= ?', values: [query.from] }]),
    ...(query.until === undefined ? [] : [{ sql: 'a.at < ?', values: [query.until] }]),
    ...(query.work === 'all' || query.action !== undefined ? [] : [{ sql: `a.action NOT IN ${ofSessions}`, values: [] }]),
  ]
}
