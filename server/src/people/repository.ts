import type { Reader, Store } from '../kernel/database'
import type { ListSpec } from '../kernel/lists'
import type { Finds } from '../kernel/area'

/** People by their name, or what they sign in with. */
export const peopleFound: Finds = {
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
  const rows = (await reader.query(`SELECT DISTINCT ${column} AS word FROM audit ORDER BY 1`)) as { word: string }[]
  return rows.map(({ word }) => word)
}

/** Sessions of a person that have not run out, the newest first. */
export async function sessionsOf(reader: Reader, personId: string, now: string) {
  return (await reader.query(
    'SELECT token_hash, created_at, expires_at, agent FROM session WHERE person_id = ? AND expires_at > ? ORDER BY created_at DESC',
    [personId, now],
  )) as { tokenHash: string; createdAt: string; expiresAt: string; agent: string }[]
}

/** Drops the sessions of a person but one; says how many. */
export async function dropSessions(store: Store, personId: string, exceptHash: string): Promise<number> {
  const [ended] = (await store.query('SELECT COUNT(*) AS n FROM session WHERE person_id = ? AND token_hash <> ?', [personId, exceptHash])) as {
    n: number
  }[]
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
  const idle = (await store.query(
    `SELECT s.token_hash FROM session s JOIN person p ON p.id = s.person_id LEFT JOIN session_seen n ON n.token_hash = s.token_hash
     WHERE COALESCE(n.at, s.created_at) < ? AND p.roles NOT LIKE '%"orderFeed"%'`,
    [since],
  )) as { tokenHash: string }[]
  for (const { tokenHash } of idle) await store.query('DELETE FROM session WHERE token_hash = ?', [tokenHash])
  await store.query('DELETE FROM session_seen WHERE token_hash NOT IN (SELECT token_hash FROM session)', [])
  return idle.length
}

/** Drops the sessions that have run out; says how many. */
export async function dropExpired(store: Store, now: string): Promise<number> {
  const [ended] = (await store.query('SELECT COUNT(*) AS n FROM session WHERE expires_at < ?', [now])) as { n: number }[]
  if (ended && ended.n > 0) await store.query('DELETE FROM session WHERE expires_at < ?', [now])
  return ended?.n ?? 0
}
