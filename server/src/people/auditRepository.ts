import type { Subjects } from '../kernel/area'
import { alike, type Filter, type ListSpec } from '../kernel/http/lists'

/** The list of the chain, with the names of what it speaks of; `L-000012` finds what was done to that lot. */
export function auditList(subjects: Subjects): ListSpec {
  const subjectName = `CASE a.subject ${Object.entries(subjects)
    .map(([subject, { table, column }]) => `WHEN '${subject}' THEN (SELECT x."${column}" FROM "${table}" x WHERE x.id = a.subject_id)`)
    .join(' ')} END`
  const subjectIds = Object.values(subjects)
    .map(({ table, column }) => `SELECT id FROM "${table}" WHERE ${alike(`"${column}"`)}`)
    .map((sql) => `a.subject_id IN (${sql})`)
  return {
    from: 'audit a LEFT JOIN person p ON p.id = a.person_id',
    countFrom: 'audit a',
    id: 'a.seq',
    columns: {
      id: { sql: 'CAST(a.seq AS TEXT)', sortSql: 'a.seq' },
      at: { sql: 'a.at' },
      personName: { sql: 'p.name', isNullable: true },
      action: { sql: 'a.action' },
      subject: { sql: 'a.subject' },
      subjectName: { sql: subjectName, isNullable: true },
      subjectId: { sql: 'a.subject_id' },
      why: { sql: 'a.why', isNullable: true },
      before: { sql: 'a.before', isNullable: true },
      after: { sql: 'a.after', isNullable: true },
    },
    search: ['p.name', 'a.action', 'a.subject', 'a.subject_id', 'a.why'],
    searchAlso: subjectIds,
    sort: ['at', 'desc'],
  }
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
    ...equal('a.person_id', query.personId),
    ...equal('a.subject', query.subject),
    ...equal('a.subject_id', query.subjectId),
    ...equal('a.action', query.action),
    ...(query.from === undefined ? [] : [{ sql: 'a.at >= ?', values: [query.from] }]),
    ...(query.until === undefined ? [] : [{ sql: 'a.at < ?', values: [query.until] }]),
    ...(query.work === 'all' || query.action !== undefined ? [] : [{ sql: `a.action NOT IN ${ofSessions}`, values: [] }]),
  ]
}
