import { createHash } from 'node:crypto'
import type { EntityManager } from 'typeorm'
import type { Reader } from './database'
import type { AuditRow } from './entities'

/** What is said of one change. `before` and `after` hold what differs. */
export interface Change {
  readonly action: string
  readonly subject: string
  readonly subjectId: string
  readonly before?: unknown
  readonly after?: unknown
  readonly why?: string | null
}

const beginning = '0'.repeat(64)

function hashOf(row: Omit<AuditRow, 'hash' | 'seq'>): string {
  const { at, personId, action, subject, subjectId, before, after, why, previousHash } = row
  return createHash('sha256')
    .update(JSON.stringify([previousHash, at, personId, action, subject, subjectId, before, after, why]))
    .digest('hex')
}

/** Appends changes to the audit chain, inside the caller's transaction. */
export async function appendToChain(manager: EntityManager, at: string, personId: string | null, changes: readonly Change[]): Promise<void> {
  const [last] = (await manager.query('SELECT hash FROM audit ORDER BY seq DESC LIMIT 1')) as { hash: string }[]
  let previousHash = last?.hash ?? beginning
  for (const change of changes) {
    const row = {
      at,
      personId,
      action: change.action,
      subject: change.subject,
      subjectId: change.subjectId,
      before: change.before === undefined ? null : JSON.stringify(change.before),
      after: change.after === undefined ? null : JSON.stringify(change.after),
      why: change.why ?? null,
      previousHash,
    }
    const hash = hashOf(row)
    await manager.query(
      'INSERT INTO audit (at, personId, action, subject, subjectId, before, after, why, previousHash, hash) VALUES (?,?,?,?,?,?,?,?,?,?)',
      [row.at, row.personId, row.action, row.subject, row.subjectId, row.before, row.after, row.why, row.previousHash, hash],
    )
    previousHash = hash
  }
}

export interface Verification {
  readonly entries: number
  readonly breaks: string[]
}

const mostBreaks = 20

/**
 * Recomputes the chain from its beginning, in pages, and names what does not fit: an edited row, a missing one, a cut end.
 * At most 20 breaks are named.
 */
export async function verifyChain(reader: Reader): Promise<Verification> {
  const breaks: string[] = []
  let previousHash = beginning
  let previousSeq = 0
  let entries = 0
  for (;;) {
    const page = (await reader.query('SELECT * FROM audit WHERE seq > ? ORDER BY seq LIMIT 2000', [previousSeq])) as AuditRow[]
    if (page.length === 0) break
    for (const row of page) {
      const who = `entry ${row.seq} (${row.action}, ${row.at})`
      if (row.seq !== previousSeq + 1) breaks.push(`entries ${previousSeq + 1} to ${row.seq - 1} are missing`)
      if (row.previousHash !== previousHash) breaks.push(`${who} does not follow the entry before it`)
      if (hashOf(row) !== row.hash) breaks.push(`${who} was changed after it was written`)
      previousHash = row.hash
      previousSeq = row.seq
      entries += 1
    }
    if (breaks.length >= mostBreaks) break
  }
  const [sequence] = (await reader.query("SELECT seq FROM sqlite_sequence WHERE name = 'audit'")) as { seq: number }[]
  if (breaks.length < mostBreaks && (sequence?.seq ?? 0) !== previousSeq)
    breaks.push(`the chain ends at entry ${previousSeq}, ${sequence?.seq} were written`)
  return { entries, breaks: breaks.slice(0, mostBreaks) }
}
