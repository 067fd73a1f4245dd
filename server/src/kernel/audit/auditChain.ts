import { hash as digest } from 'node:crypto'
import type { AuditRow } from '../database/entities'
import type { Head } from './chainHead'
import type { Connection } from '../database/connection'
import { insertBatch } from '../database/insertBatch'
import type { RowSeals } from './rowSeals'
import { rowsOf } from '../database/rowsOf'

/** What is said of one change. `before` and `after` hold what differs; without one of them, or with null, nothing is said of it. */
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
  return digest('sha256', JSON.stringify(parts), 'hex')
}

const columns = 'seq, at, person_id, action, subject, subject_id, before, after, why, previous_hash, hash, rows'

/** How far the chain goes, and when that was stored; null while it has no entry. */
export interface LastEntry extends Head {
  readonly at: string | null
}

/** The last entry of the chain. */
export async function lastEntry(reader: { query(sql: string): Promise<unknown[]> }): Promise<LastEntry> {
  const [last] = await rowsOf<Head & { at: string }>(
    reader,
    { seq: 'number', hash: 'text', at: 'text' },
    'SELECT seq, hash, at FROM audit ORDER BY seq DESC LIMIT 1',
  )
  return last ?? { ...beginning, at: null }
}

/** How far the chain goes. */
export async function headOf(reader: { query(sql: string): Promise<unknown[]> }): Promise<Head> {
  const { seq, hash } = await lastEntry(reader)
  return { seq, hash }
}

/** The hash that the chain has at an entry; undefined where it does not reach so far. */
export async function hashAt(
  reader: { query(sql: string, values: readonly unknown[]): Promise<unknown[]> },
  seq: number,
): Promise<string | undefined> {
  if (seq === 0) return beginning.hash
  const [entry] = await rowsOf(reader, { hash: 'text' }, 'SELECT hash FROM audit WHERE seq = ?', [seq])
  return entry?.hash
}

/** Appends to the audit chain, inside the caller's transaction. */
export class ChainWriter {
  /** How far it goes in this transaction; null where that has to be asked. */
  private known: LastEntry | null = null

  constructor(private readonly connection: Connection) {}

  /** A transaction has begun, or a part of one was taken back: others may have gone on. */
  begin(): void {
    this.known = null
  }

  /** How far it goes in this transaction, and when that was stored. */
  async last(): Promise<LastEntry> {
    this.known ??= await lastEntry(this.connection)
    return this.known
  }

  /** Appends the changes; the last of them carries the seals of all rows that were written. Gives the new head. */
  async append(at: string, personId: string | null, changes: readonly Change[], rows: RowSeals | null): Promise<Head> {
    let { seq, hash } = await this.last()
    const entries: unknown[][] = []
    for (const [i, change] of changes.entries()) {
      const { action, subject, subjectId } = change
      const who = change.personId ?? personId
      const before = change.before == null ? null : JSON.stringify(change.before)
      const after = change.after == null ? null : JSON.stringify(change.after)
      const why = change.why ?? null
      const sealed = rows !== null && i === changes.length - 1 ? JSON.stringify(rows) : null
      const previousHash = hash
      hash = hashOf({ at, personId: who, action, subject, subjectId, before, after, why, previousHash, rows: sealed })
      seq += 1
      entries.push([seq, at, who, action, subject, subjectId, before, after, why, previousHash, hash, sealed])
    }
    await insertBatch(this.connection, `audit (${columns})`, entries)
    this.known = { seq, hash, at }
    return { seq, hash }
  }
}
