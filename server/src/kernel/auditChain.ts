import { createHash } from 'node:crypto'
import type Sqlite from 'better-sqlite3'
import type { AuditRow } from './entities'
import type { Head } from './chainHead'
import type { RawDatabase } from './rawDatabase'
import type { RowSeals } from './rowSeals'

/** What is said of one change. `before` and `after` hold what differs. */
export interface Change {
  readonly action: string
  readonly subject: string
  readonly subjectId: string
  readonly before?: unknown
  readonly after?: unknown
  readonly why?: string | null
  /** Who did it, where that is not who asked: somebody who signs in is nobody yet. */
  readonly personId?: string
}

export const beginning: Head = { seq: 0, hash: '0'.repeat(64) }

export function hashOf(row: Omit<AuditRow, 'hash' | 'seq'>): string {
  const { at, personId, action, subject, subjectId, before, after, why, previousHash, rows } = row
  // Entries written before rows were sealed have none and keep the digits that they were given.
  const parts = [previousHash, at, personId, action, subject, subjectId, before, after, why, ...(rows === null ? [] : [rows])]
  return createHash('sha256').update(JSON.stringify(parts)).digest('hex')
}

const columns = 'seq, at, personId, action, subject, subjectId, before, after, why, previousHash, hash, rows'
type Statement = Sqlite.Statement<unknown[]>

/** Appends to the audit chain, inside the caller's transaction. */
export class ChainWriter {
  private readonly last: Statement
  private readonly insert: Statement

  constructor(raw: RawDatabase) {
    this.last = raw.prepare('SELECT seq, hash FROM audit ORDER BY seq DESC LIMIT 1')
    this.insert = raw.prepare(`INSERT INTO audit (${columns}) VALUES (?,?,?,?,?,?,?,?,?,?,?,?)`)
  }

  /** Appends the changes; the last of them carries the seals of all rows that were written. Gives the new head. */
  append(at: string, personId: string | null, changes: readonly Change[], rows: RowSeals | null): Head {
    let { seq, hash } = (this.last.get() as Head | undefined) ?? beginning
    changes.forEach((change, i) => {
      const { action, subject, subjectId } = change
      const who = change.personId ?? personId
      const before = change.before === undefined ? null : JSON.stringify(change.before)
      const after = change.after === undefined ? null : JSON.stringify(change.after)
      const why = change.why ?? null
      const sealed = rows !== null && i === changes.length - 1 ? JSON.stringify(rows) : null
      const previousHash = hash
      hash = hashOf({ at, personId: who, action, subject, subjectId, before, after, why, previousHash, rows: sealed })
      seq += 1
      this.insert.run(seq, at, who, action, subject, subjectId, before, after, why, previousHash, hash, sealed)
    })
    return { seq, hash }
  }
}
