import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { inSlices, stop } from './slices'

let said: { id: number; done?: number; outcome?: { problem: string } }[] = []
let clock = 0
beforeEach(() => {
  said = []
  clock = 0
  vi.stubGlobal('postMessage', (message: (typeof said)[number]) => void said.push(message))
  // Each look at the clock is 16 ms later: a slice of 30 ms holds two items.
  vi.stubGlobal('performance', { now: () => (clock += 16) })
})
afterEach(() => vi.unstubAllGlobals())
const items = (count: number) => Array.from({ length: count }, (_, i) => i)

describe('a long task in slices', () => {
  it('does every item in order, and tells how far it is after each slice', async () => {
    const done: number[] = []
    expect(await inSlices(1, { of: 8, words: 'lots' }, items(8), (item) => done.push(item))).toBe(true)
    expect(done).toEqual(items(8))
    const told = said.map(({ done: share }) => share ?? -1)
    expect(told.length).toBeGreaterThan(1)
    expect(told).toEqual([...told].sort((a, b) => a - b))
  })

  it('hears a stop between two slices and says how far it came; the next task is none the worse for it', async () => {
    const done: number[] = []
    expect(
      await inSlices(2, { of: 100, words: 'occasions' }, items(100), (item) => {
        done.push(item)
        if (item === 3) stop(2)
      }),
    ).toBe(false)
    expect(done.length).toBeLessThan(10)
    expect(said.at(-1)).toEqual({ id: 2, outcome: { problem: `Stopped after ${done.length} of 100 occasions.` } })
    expect(await inSlices(3, { of: 4, words: 'occasions' }, items(4), () => undefined)).toBe(true)
  })

  it('tells what went wrong, and does not go on', async () => {
    const all = function* () {
      yield 1
      throw new Error('The rule cannot be carried out.')
    }
    expect(await inSlices(4, { of: 2, words: 'lots' }, all(), () => undefined)).toBe(false)
    expect(said).toEqual([{ id: 4, outcome: { problem: 'The rule cannot be carried out.' } }])
  })
})
