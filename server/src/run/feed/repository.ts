import type { FeedState } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import type { Filter, ListSpec } from '../../kernel/http/lists'
import { rowsOf } from '../../kernel/database/rowsOf'

export const feedList: ListSpec = {
  from: 'feed_event e',
  countFrom: 'feed_event e',
  id: 'e.id',
  columns: {
    id: { sql: 'e.id' },
    key: { sql: 'e.key' },
    kind: { sql: 'e.kind' },
    state: { sql: 'e.state' },
    receivedAt: { sql: 'e.received_at' },
    takenAt: { sql: 'e.taken_at', isNullable: true },
    subjectKind: { sql: 'e.subject_kind', isNullable: true },
    subjectId: { sql: 'e.subject_id', isNullable: true },
    subjectCode: { sql: 'e.subject_code', isNullable: true },
    code: { sql: 'e.code', isNullable: true },
    version: { sql: 'e.version', kind: 'number' },
  },
  search: ['e.key', 'e.subject_code', 'e.code'],
  sort: ['receivedAt', 'desc'],
}
export function feedFilters({ state }: { state?: FeedState | undefined }): Filter[] {
  return state === undefined ? [] : [{ sql: 'e.state = ?', values: [state] }]
}

export const noticeList: ListSpec = {
  from: 'notice n',
  countFrom: 'notice n',
  id: 'n.id',
  columns: {
    id: { sql: 'n.id' },
    kind: { sql: 'n.kind' },
    at: { sql: 'n.at' },
    about: { sql: 'n.about' },
    tries: { sql: 'n.tries', kind: 'number' },
    nextAt: { sql: 'n.next_at', isNullable: true },
    deliveredAt: { sql: 'n.delivered_at', isNullable: true },
    lastAnswer: { sql: 'n.last_answer' },
  },
  search: ['n.about', 'n.last_answer'],
  sort: ['at', 'desc'],
}

/** What is to be told now, oldest first. */
export async function dueNotices(reader: Reader, now: string, most: number): Promise<string[]> {
  const rows = await rowsOf(reader, { id: 'text' }, 'SELECT id FROM notice WHERE next_at <= ? ORDER BY next_at, at, id LIMIT ?', [now, most])
  return rows.map(({ id }) => id)
}

/** In whose name dropped files are taken: the first who may send events; null where nobody may. */
export async function feedPerson(reader: Reader): Promise<string | null> {
  const [person] = await rowsOf(
    reader,
    { id: 'text' },
    `SELECT id FROM person WHERE is_active AND roles LIKE '%"orderFeed"%' ORDER BY sign_in_key LIMIT 1`,
    [],
  )
  return person?.id ?? null
}
