import { afterEach, expect, it } from 'vitest'
import { bytes, die, double, refuse, slow } from '../../testing/poolWorker'
import { ThreadPool } from './threadPool'

let pool: ThreadPool | null = null
const begin = (most = 2, limits = {}) => (pool = new ThreadPool(import.meta.url, '../../testing/poolWorker', { most, ...limits }))
afterEach(() => pool?.close())

it('gives each asker the answer to what was asked, whoever is done first', async () => {
  const pool = begin()
  const [late, ...doubles] = await Promise.all([pool.run(slow, 100), pool.run(double, 1), pool.run(double, 2), pool.run(double, 3)])
  expect([late, doubles]).toEqual(['done', [2, 4, 6]])
})

it('hands bytes over, and says how far a task has come', async () => {
  const steps: number[][] = []
  const pool = begin(1)
  expect((await pool.run(bytes, 5)).join()).toBe('7,7,7,7,7')
  await pool.run(slow, 1, (done, total) => void steps.push([done, total]))
  expect(steps).toEqual([[1, 2]])
})

it('a task that fails, or takes its thread with it, fails for its asker alone', async () => {
  const pool = begin(1)
  const answers = await Promise.allSettled([pool.run(refuse, 'no such paper'), pool.run(die, null), pool.run(double, 4), pool.run(double, 5)])
  expect(answers.map((answer) => (answer.status === 'fulfilled' ? answer.value : String((answer.reason as Error).message).split('\n')[0]))).toEqual([
    'Error: no such paper',
    'The thread has ended.',
    8,
    10,
  ])
})

it('ends what does not end by itself, and goes on with the next', async () => {
  // Less than a thread takes to begin: that time is not the task's.
  const pool = begin(1, { maxMs: 20 })
  const answers = await Promise.allSettled([pool.run(slow, 60_000), pool.run(double, 6)])
  expect(answers[0]).toMatchObject({ status: 'rejected', reason: { code: 'too_busy' } })
  expect(answers[1]).toMatchObject({ value: 12 })
})

it('refuses whom it would keep waiting too long, and keeps no thread that has nothing to do', async () => {
  const pool = begin(1, { maxWaiting: 2, idleMs: 30 })
  const asked = [pool.run(slow, 50), pool.run(double, 1), pool.run(double, 2)]
  await expect(pool.run(double, 3)).rejects.toMatchObject({ code: 'too_busy' })
  expect(await Promise.all(asked)).toEqual(['done', 2, 4])
  await expect.poll(() => pool.size).toBe(0)
  expect(await pool.run(double, 7)).toBe(14)
})
