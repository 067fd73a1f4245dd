import type { CredentialChange } from '@nemawashi/contract'
import type { Reader, Store } from '../kernel/work/database'
import type { ListSpec } from '../kernel/http/lists'
import type { SearchProvider } from '../kernel/area'
import { rowsOf, type Columns } from '../kernel/database/rowsOf'

/** People by their name, or what they sign in with. */
export const peopleFound: SearchProvider = {
  kind: 'person',
  sql: `SELECT id, name AS title, sign_in_name AS detail FROM person WHERE name LIKE ? ESCAPE '\\' OR sign_in_name LIKE ? ESCAPE '\\' ORDER BY name LIMIT 6`,
}

export const peopleList: ListSpec = {
  from: 'person p',
  id: 'p.id',
  columns: {
    id: { sql: 'p.id' },
    name: { sql: 'p.name' },
    initials: { sql: 'p.initials' },
    signInName: { sql: 'p.sign_in_name' },
    roles: { sql: 'p.roles', kind: 'json' },
    isActive: { sql: 'p.is_active', kind: 'flag' },
    dayMinutes: { sql: 'p.day_minutes', kind: 'number' },
    version: { sql: 'p.version', kind: 'number' },
  },
  search: ['p.name', 'p.sign_in_name', 'p.roles'],
  sort: ['name', 'asc'],
}

/** Every word that stands in a column of the chain. */
export async function auditWords(reader: Reader, column: 'action' | 'subject'): Promise<string[]> {
  const rows = await rowsOf(reader, { word: 'text' }, `SELECT DISTINCT ${column} AS word FROM audit ORDER BY 1`)
  return rows.map(({ word }) => word)
}

/** Sessions of a person that have not run out, the newest first. */
export async function sessionsOf(reader: Reader, personId: string, now: string) {
  return rowsOf(
    reader,
    { tokenHash: 'text', createdAt: 'text', expiresAt: 'text', agent: 'text' },
    'SELECT token_hash, created_at, expires_at, agent FROM session WHERE person_id = ? AND expires_at > ? ORDER BY created_at DESC',
    [personId, now],
  )
}

/** Drops the sessions of a person but one; says how many. */
export async function dropSessions(store: Store, personId: string, exceptHash: string): Promise<number> {
  const [ended] = await rowsOf(store, { n: 'number' }, 'SELECT COUNT(*) AS n FROM session WHERE person_id = ? AND token_hash <> ?', [
    personId,
    exceptHash,
  ])
  await store.query('DELETE FROM session WHERE person_id = ? AND token_hash <> ?', [personId, exceptHash])
  return ended?.n ?? 0
}

/** Keeps when somebody was last seen at a session; of two servers the later word counts. */
export async function noteSeen(store: Store, tokenHash: string, at: string): Promise<void> {
  await store.query(
    `INSERT INTO session_seen (token_hash, at) VALUES (?, ?)
     ON CONFLICT (token_hash) DO UPDATE SET at = CASE WHEN excluded.at > session_seen.at THEN excluded.at ELSE session_seen.at END`,
    [tokenHash, at],
  )
}

/** Drops the sessions of people that nobody was seen at since an instant; says how many. Another system's key is no session of a person. */
export async function dropIdle(store: Store, since: string): Promise<number> {
  const idle = await rowsOf(
    store,
    { tokenHash: 'text' },
    `SELECT s.token_hash FROM session s JOIN person p ON p.id = s.person_id LEFT JOIN session_seen n ON n.token_hash = s.token_hash
     WHERE COALESCE(n.at, s.created_at) < ? AND p.roles NOT LIKE '%"orderFeed"%'`,
    [since],
  )
  for (const { tokenHash } of idle) await store.query('DELETE FROM session WHERE token_hash = ?', [tokenHash])
  await store.query('DELETE FROM session_seen WHERE token_hash NOT IN (SELECT token_hash FROM session)', [])
  return idle.length
}

/** Drops the sessions that have run out; says how many. */
export async function dropExpired(store: Store, now: string): Promise<number> {
  const [ended] = await rowsOf(store, { n: 'number' }, 'SELECT COUNT(*) AS n FROM session WHERE expires_at < ?', [now])
  if (ended && ended.n > 0) await store.query('DELETE FROM session WHERE expires_at < ?', [now])
  return ended?.n ?? 0
}

/** What is done to how somebody signs in, as the audit chain calls it. */
const credentialActions = [
  'password set',
  'password changed',
  'key given',
  'sessions ended',
  'session ended',
  'recovery code used',
  'second factor set up',
  'second factor taken away',
]

const credentialChangeColumns: Columns<CredentialChange> = { at: 'text', action: 'text', byName: 'text?' }

/** When somebody signed in before this time, and what was done since then to how they do. The newest first. */
export async function credentialChangesOf(reader: Reader, personId: string): Promise<{ lastAt: string | null; changes: CredentialChange[] }> {
  const last = await rowsOf(
    reader,
    { seq: 'any', at: 'text' },
    "SELECT seq, at FROM audit WHERE subject_id = ? AND subject = 'person' AND action = 'signed in' ORDER BY seq DESC LIMIT 2",
    [personId],
  )
  const before = last[1]
  if (before === undefined) return { lastAt: null, changes: [] }
  const changes = await rowsOf<CredentialChange>(
    reader,
    credentialChangeColumns,
    `SELECT a.at, a.action, p.name AS by_name FROM audit a LEFT JOIN person p ON p.id = a.person_id
     WHERE a.subject_id = ? AND a.subject = 'person' AND a.seq > ? AND a.action IN (${credentialActions.map(() => '?').join(', ')}) ORDER BY a.seq DESC LIMIT 20`,
    [personId, before.seq, ...credentialActions],
  )
  return { lastAt: before.at, changes }
}
