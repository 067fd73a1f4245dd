import { effectScope } from 'vue'
import { afterEach, describe, expect, it, vi } from 'vitest'

const call = vi.fn<(endpoint: object, input: { params: { id: string } }) => Promise<{ progress: { done: number; total: number } | null }>>()
vi.mock('./api', () => ({ call }))
const { useProgress } = await import('./useProgress')

afterEach(() => vi.useRealTimers())

describe('the progress of a long request', () => {
  it('is asked for by its key while it runs, survives an answer that is missed, and is gone at the end, also for a late answer', async () => {
    vi.useFakeTimers()
    const { step, follow, unfollow } = effectScope().run(useProgress) ?? expect.fail('no scope')
    follow('k-1')
    call.mockResolvedValueOnce({ progress: { done: 100, total: 2000 } })
    await vi.advanceTimersByTimeAsync(450)
    expect(call.mock.calls[0]?.[1]).toEqual({ params: { id: 'k-1' } })
    expect(step.value).toEqual({ done: 100, total: 2000 })
    call.mockRejectedValueOnce(new Error('no network'))
    await vi.advanceTimersByTimeAsync(400)
    expect(step.value).toEqual({ done: 100, total: 2000 })
    let late = (_reply: { progress: { done: number; total: number } }) => {}
    call.mockReturnValueOnce(new Promise((resolve) => (late = resolve)))
    await vi.advanceTimersByTimeAsync(400)
    unfollow()
    late({ progress: { done: 300, total: 2000 } })
    await vi.advanceTimersByTimeAsync(2000)
    expect(step.value).toBeNull()
    expect(call).toHaveBeenCalledTimes(3)
  })
})
