import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Job } from './area'
import { runJobs } from './jobs'

type Given = Parameters<typeof runJobs>[0]
const ran: string[] = []
const failures: string[] = []
/** A server of a plant with two jobs of its own; whether it leads is said by the test. */
function server(leads: () => boolean, job: Job['run'] = async () => void ran.push('for all')): () => void {
  const jobs: Job[] = [
    { words: 'for all', everyMs: 60_000, run: job },
    { words: 'of each', everyMs: 60_000, isOfEach: true, run: async () => void ran.push('of each') },
  ]
  return runJobs({
    areas: [{ name: 'test', jobs }],
    work: { run: async () => undefined },
    clock: { now: () => new Date() },
    log: { error: (_: unknown, words: string) => failures.push(words) },
    config: {},
    database: { fellows: { leads: async () => leads() } },
    identity: {},
  } as unknown as Given)
}
beforeEach(() => void vi.useFakeTimers())
afterEach(() => {
  vi.useRealTimers()
  ran.length = failures.length = 0
})

describe('what a server does by itself', () => {
  it('is done at its start and then every so often, and not after its end', async () => {
    const end = server(() => true)
    await vi.advanceTimersByTimeAsync(120_001)
    expect(ran.filter((job) => job === 'for all')).toHaveLength(3)
    end()
    await vi.advanceTimersByTimeAsync(600_000)
    expect(ran.filter((job) => job === 'for all')).toHaveLength(3)
  })

  it('is done by one of several servers for all, but for what each does itself; who takes it over begins at once', async () => {
    let isLeading = false
    const end = server(() => isLeading)
    await vi.advanceTimersByTimeAsync(60_001)
    expect(ran).toEqual(['of each', 'of each'])
    isLeading = true
    await vi.advanceTimersByTimeAsync(5_000)
    expect(ran).toEqual(['of each', 'of each', 'for all'])
    isLeading = false
    await vi.advanceTimersByTimeAsync(120_000)
    expect(ran.filter((job) => job === 'for all')).toHaveLength(1)
    end()
  })

  it('that fails is said and tried again, and is not begun twice at once', async () => {
    let isHolding = true
    let begun = 0
    const end = server(
      () => true,
      async () => {
        begun += 1
        if (isHolding) await new Promise((resolve) => setTimeout(resolve, 150_000))
        else throw new Error('no')
      },
    )
    await vi.advanceTimersByTimeAsync(140_000)
    expect(begun).toBe(1)
    isHolding = false
    await vi.advanceTimersByTimeAsync(120_000)
    expect(begun).toBeGreaterThan(1)
    expect(failures).toContain('for all failed')
    end()
  })
})
