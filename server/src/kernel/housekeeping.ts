import type { UnitOfWork } from './unitOfWork'

const keyDays = 14

/** Drops what has outlived its use: ended sessions, and idempotency keys of requests that nobody repeats any more. */
export async function tidy(work: UnitOfWork, now: Date): Promise<void> {
  const old = new Date(now.getTime() - keyDays * 86_400_000).toISOString()
  await work.run({ personId: null, key: null, content: '' }, async ({ manager, audit, nothingChanged }) => {
    const [ended] = (await manager.query('SELECT COUNT(*) AS n FROM session WHERE expiresAt < ?', [now.toISOString()])) as { n: number }[]
    await manager.query('DELETE FROM request_key WHERE at < ?', [old])
    if (!ended?.n) return nothingChanged()
    await manager.query('DELETE FROM session WHERE expiresAt < ?', [now.toISOString()])
    audit({ action: 'tidied', subject: 'session', subjectId: '', after: { ended: ended.n } })
  })
}
