import { describe, expect, it } from 'vitest'
import { Progress } from './progress'

describe('the progress of a long request', () => {
  it('is known under its key while it runs, lets others in between, and is forgotten at its end, also at a bad one', async () => {
    const progress = new Progress()
    const seen: unknown[] = []
    const running = progress.follow('k', async (report) => {
      await report(1, 3)
      await report(2, 3)
      throw new Error('broke off')
    })
    const ended = running.catch((error: Error) => error.message)
    for (let turn = 0; turn < 4; turn++) {
      seen.push(progress.of('k'))
      await new Promise((resolve) => setImmediate(resolve))
    }
    expect(await ended).toBe('broke off')
    expect(seen).toContainEqual({ done: 1, total: 3 })
    expect(seen).toContainEqual({ done: 2, total: 3 })
    expect(progress.of('k')).toBeNull()
    expect(await progress.follow(null, async (report) => (await report(1, 1), 'done'))).toBe('done')
  })
})
