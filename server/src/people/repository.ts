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

/** Drops the sessions that have run out; says how many. */
export async function dropExpired(store: Store, now: string): Promise<number> {
  const [ended] = (await store.query('SELECT COUNT(*) AS n FROM session WHERE expires_at < ?', [now])) as { n: number }[]
  if (ended && ended.n > 0) await store.query('DELETE FROM session WHERE expires_at < ?', [now])
  return ended?.n ?? 0
}
