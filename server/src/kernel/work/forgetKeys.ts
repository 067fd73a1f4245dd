import { lastEntry } from '../audit/auditChain'
import type { UnitOfWork } from './unitOfWork'

const keyDays = 14

/** Drops the idempotency keys of requests that nobody repeats any more. */
export async function forgetKeys(work: UnitOfWork, now: Date): Promise<void> {
  await work.run({ personId: null, key: null, content: '' }, async ({ manager, nothingChanged }) => {
    // A clock that is far ahead at a start makes no key old: a day after the last change is as late as it can be.
    const { at } = await lastEntry(manager)
    const latest = Math.min(now.getTime(), at === null ? Infinity : Date.parse(at) + 86_400_000)
    const old = new Date(latest - keyDays * 86_400_000).toISOString()
    await manager.query('DELETE FROM request_key WHERE at < ?', [old])
    nothingChanged()
  })
}
