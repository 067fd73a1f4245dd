import { forgetAfterMs } from './attemptStore'
import type { Database } from '../kernel/work/database'
import type { AttemptStore, Kept } from './attemptStore'

/** For a plant on a server, whichever process is asked: a table beside the plant's own, under the server's clock. */
export class AttemptsOnServer implements AttemptStore {
  /** @param clockMs another clock than the server's, for tests */
  constructor(
    private readonly database: Pick<Database, 'apart'>,
    private readonly clockMs: (() => number) | null = null,
  ) {}

  change<T>(keys: readonly string[], change: (kept: Kept, nowMs: number) => T): Promise<T> {
    return this.database.apart(async ({ rows }) => {
      const [clock] = await rows(`SELECT CAST(EXTRACT(EPOCH FROM clock_timestamp()) * 1000 AS double precision) AS now`)
      const nowMs = this.clockMs?.() ?? Number(clock?.['now'])
      await rows('DELETE FROM attempt WHERE last_at_ms < ?', [nowMs - forgetAfterMs])
      const found = await rows(`SELECT key, count, last_at_ms, until_ms FROM attempt WHERE key IN (${keys.map(() => '?').join()})`, keys)
      const before = new Map(
        found.map((row) => [
          String(row['key']),
          { count: Number(row['count']), lastAtMs: Number(row['last_at_ms']), untilMs: Number(row['until_ms']) },
        ]),
      )
      const kept: Kept = new Map(before)
      const answer = change(kept, nowMs)
      for (const key of before.keys()) if (!kept.has(key)) await rows('DELETE FROM attempt WHERE key = ?', [key])
      for (const [key, entry] of kept) {
        if (entry === before.get(key)) continue
        await rows(
          `INSERT INTO attempt VALUES (?, ?, ?, ?) ON CONFLICT (key) DO UPDATE SET count = excluded.count, last_at_ms = excluded.last_at_ms, until_ms = excluded.until_ms`,
          [key, entry.count, entry.lastAtMs, entry.untilMs],
        )
      }
      return answer
    })
  }
}
