import { describe, expect, it } from 'vitest'
import type { Word } from '../database/fellows'
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

  it('is known at every server of the plant, and is forgotten there at its end, or when nothing is heard of it any more', async () => {
    let now = 0
    const listeners: ((word: Word) => void)[] = []
    const server = () => {
      let own: (word: Word) => void = () => undefined
      const tell = (word: Word) => listeners.filter((each) => each !== own).forEach((each) => each(word))
      const onTold = (listen: (word: Word) => void) => void listeners.push((own = listen))
      return new Progress({ leads: async () => true, tell, onTold }, () => now)
    }
    const [here, there] = [server(), server()]
    let goOn: () => void = () => undefined
    const running = here.follow('k', async (report) => {
      await report(1, 3)
      await report(2, 3)
      now += 1_000
      await report(3, 3)
      await new Promise<void>((resolve) => (goOn = resolve))
    })
    await new Promise((resolve) => setTimeout(resolve, 20))
    expect([here.of('k'), there.of('k')]).toEqual([
      { done: 3, total: 3 },
      { done: 3, total: 3 },
    ])
    now += 31_000
    expect(there.of('k')).toBeNull()
    now -= 31_000
    goOn()
    await running
    expect([here.of('k'), there.of('k')]).toEqual([null, null])
  })
})
