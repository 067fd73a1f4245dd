import { rowsOf } from '../database/rowsOf'
import type { UnitOfWork } from './unitOfWork'

const keyDays = 14

/**
 * Drops the idempotency keys of requests that nobody repeats any more: those that are older than so many days by the clock, and than the last so
 * many and one on which anything was stored. A clock that is far ahead makes one day of its own, and no key old.
 */
export async function forgetKeys(work: UnitOfWork, now: Date): Promise<void> {
  await work.run({ personId: null, key: null, content: '' }, async ({ manager, nothingChanged }) => {
    let oldest = new Date(now.getTime() - keyDays * 86_400_000).toISOString()
    let day = '9999'
    for (let days = 0; days <= keyDays; days++) {
      const [row] = await rowsOf(manager, { at: 'text?' }, 'SELECT MAX(at) AS at FROM request_key WHERE at < ?', [day])
      if (row?.at == null) return nothingChanged()
      day = row.at.slice(0, 10)
    }
    if (day < oldest) oldest = day
    await manager.query('DELETE FROM request_key WHERE at < ?', [oldest])
    nothingChanged()
  })
}
