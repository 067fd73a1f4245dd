import { effectScope, nextTick, ref } from 'vue'
import type * as Composables from './useSamplingWorker'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

interface Task {
  readonly id: number
  readonly kind: string
  readonly choices?: readonly unknown[]
}
/** A worker that answers when the test says so. */
class SlowWorker {
  static all: SlowWorker[] = []
  readonly tasks: Task[] = []
  private readonly hearers: Record<string, (event: { data: object }) => void> = {}
  constructor() {
    SlowWorker.all.push(this)
  }
  addEventListener(name: string, hear: (event: { data: object }) => void): void {
    this.hearers[name] = hear
  }
  postMessage(task: Task): void {
    this.tasks.push(task)
  }
  isTerminated = false
  terminate(): void {
    this.isTerminated = true
  }
  answer(data: object): void {
    this.hearers['message']?.({ data })
  }
  breakOff(): void {
    this.hearers['error']?.({ data: {} })
  }
}
let useReplay: typeof Composables.useReplay
let useAssessments: typeof Composables.useAssessments
beforeEach(async () => {
  vi.stubGlobal('Worker', SlowWorker)
  SlowWorker.all = []
  ;({ useReplay, useAssessments } = await import('./useSamplingWorker'))
})
afterEach(() => vi.unstubAllGlobals())
const inScope = <T>(make: () => T): T => effectScope().run(make) as T

describe('a replay off the page', () => {
  it('shows what belongs to the last question: a late answer to the one before, or its progress, changes nothing', () => {
    const { replayed, done, run } = inScope(useReplay)
    const [worker] = SlowWorker.all as [SlowWorker]
    run([], { sampling: undefined }, null, 1)
    run([], { sampling: undefined }, null, 1)
    const [first, , second] = worker.tasks as [Task, Task, Task]
    expect(worker.tasks.map(({ kind }) => kind)).toEqual(['replay', 'stop', 'replay'])
    worker.answer({ id: first.id, done: 7 })
    worker.answer({ id: first.id, outcome: { value: { lots: ['old'], summary: {} } } })
    expect([replayed.value, done.value]).toEqual([null, 0])
    worker.answer({ id: second.id, done: 3 })
    expect(done.value).toBe(3)
    worker.answer({ id: second.id, outcome: { value: { lots: ['new'], summary: {} } } })
    expect([replayed.value?.lots, done.value]).toEqual([['new'], null])
  })

  it('says when the computing broke off, and waits no longer', () => {
    const { done, problem, run } = inScope(useReplay)
    run([], { sampling: undefined }, null, 1)
    SlowWorker.all[0]?.breakOff()
    expect([done.value, problem.value]).toEqual([null, expect.stringContaining('broke off')])
  })
})

describe('the workshop off the page', () => {
  it('asks one question at a time, and of those that came in between only the newest', async () => {
    const choice = ref(1)
    const { outcomes } = inScope(() =>
      useAssessments(
        () => [choice.value] as never,
        () => ({}) as never,
      ),
    )
    const [worker] = SlowWorker.all as [SlowWorker]
    for (const next of [2, 3]) {
      choice.value = next
      await nextTick()
    }
    expect(worker.tasks.map(({ choices }) => choices)).toEqual([[1]])
    const idOf = (nth: number) => worker.tasks[nth]?.id
    worker.answer({ id: idOf(0), outcome: { value: ['of 1'] } })
    expect(worker.tasks.map(({ choices }) => choices)).toEqual([[1], [3]])
    worker.answer({ id: idOf(1), outcome: { value: ['of 3'] } })
    expect(outcomes.value).toEqual(['of 3'])
    expect(worker.tasks).toHaveLength(2)
  })

  it('says that it takes long, and leaves the question for a newer one: another worker goes on with that', async () => {
    vi.useFakeTimers()
    try {
      const choice = ref(1)
      const { outcomes, isLong } = inScope(() =>
        useAssessments(
          () => [choice.value] as never,
          () => ({}) as never,
        ),
      )
      const [first] = SlowWorker.all as [SlowWorker]
      expect(isLong.value).toBe(false)
      vi.advanceTimersByTime(1000)
      expect([isLong.value, SlowWorker.all.length]).toEqual([true, 1])
      choice.value = 2
      await nextTick()
      expect([first.isTerminated, SlowWorker.all.length]).toEqual([true, 2])
      const [, second] = SlowWorker.all as [SlowWorker, SlowWorker]
      expect(second.tasks.map(({ choices }) => choices)).toEqual([[2]])
      first.answer({ id: first.tasks[0]?.id, outcome: { value: ['of 1'] } })
      expect(outcomes.value).toEqual([])
      second.answer({ id: second.tasks[0]?.id, outcome: { value: ['of 2'] } })
      expect([outcomes.value, isLong.value]).toEqual([['of 2'], false])
      choice.value = 3
      await nextTick()
      second.breakOff()
      expect(outcomes.value).toEqual([{ problem: expect.stringContaining('broke off') }])
    } finally {
      vi.useRealTimers()
    }
  })
})
