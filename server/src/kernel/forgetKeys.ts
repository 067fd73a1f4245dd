import type { UnitOfWork } from './unitOfWork'

const keyDays = 14

/** Drops the idempotency keys of requests that nobody repeats any more. */
export async function forgetKeys(work: UnitOfWork, now: Date): Promise<void> {
  await work.run({ personId: null, key: null, content: '' }, async ({ manager, nothingChanged }) => {
    // A clock that is far ahead at a start makes no key old: a day after the last change is as late as it can be.
    const [last] = (await manager.query('SELECT at FROM audit ORDER BY seq DESC LIMIT 1')) as { at: string }[]
    const latest = Math.min(now.getTime(), last === undefined ? Infinity : Date.parse(last.at) + 86_400_000)
    const old = new Date(latest - keyDays * 86_400_000).toISOString()
    await manager.query('DELETE FROM request_key WHERE at < ?', [old])
    nothingChanged()
  })
}
