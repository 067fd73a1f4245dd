import type { UnitOfWork } from './unitOfWork'

const keyDays = 14

/** Drops the idempotency keys of requests that nobody repeats any more. */
export async function forgetKeys(work: UnitOfWork, now: Date): Promise<void> {
  const old = new Date(now.getTime() - keyDays * 86_400_000).toISOString()
  await work.run({ personId: null, key: null, content: '' }, async ({ manager, nothingChanged }) => {
    await manager.query('DELETE FROM request_key WHERE at < ?', [old])
    nothingChanged()
  })
}
