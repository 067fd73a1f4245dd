import { parentPort } from 'node:worker_threads'
import type { Answered, PoolTask, HeavyTask } from './threadPool'

/** The other side of a `ThreadPool`: does the tasks of a list, one after the other, for as long as the thread lives. */
export function answerTasks(tasks: readonly HeavyTask<never, unknown>[]): void {
  parentPort?.on('message', ({ id, name, given }: PoolTask) => {
    void (async () => {
      const task = tasks.find((task) => task.name === name)
      if (!task) throw new Error(`No thread knows the task ${name}.`)
      return task.run(given as never, (done, total) => parentPort?.postMessage({ id, step: { done, total } } satisfies Answered))
    })().then(
      (result) => {
        // Bytes are handed over, not copied.
        const handed = result instanceof Uint8Array && result.byteLength === result.buffer.byteLength ? [result.buffer as ArrayBuffer] : []
        parentPort?.postMessage({ id, result } satisfies Answered, handed)
      },
      (error: unknown) => {
        parentPort?.postMessage({ id, problem: error instanceof Error ? (error.stack ?? error.message) : String(error) } satisfies Answered)
      },
    )
  })
  parentPort?.postMessage({ isReady: true } satisfies Answered)
}
