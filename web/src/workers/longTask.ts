import { onScopeDispose, ref, shallowRef } from 'vue'

export type Outcome<T> = { readonly value: T } | { readonly problem: string }
/** What a worker answers: how far a task is (0 to 1), or what came of it. */
export interface Reply {
  readonly id: number
  readonly done?: number
  readonly outcome?: Outcome<unknown>
}

/** A worker that cannot be loaded or breaks off says nothing itself. */
export const brokenOff = 'The computing broke off. Reload the page; if it stays, the server was updated or the page is too old.'

let counter = 0

/** Runs a worker's tasks off the page, one at a time, with progress and a stop; only the last question is answered. */
export function useLongTask<T>(start: () => Worker) {
  const worker = start()
  const result = shallowRef<T | null>(null)
  const done = ref<number | null>(null)
  const problem = ref('')
  let current = 0
  worker.addEventListener('message', ({ data }: MessageEvent<Reply>) => {
    if (data.id !== current) return
    if (data.done !== undefined) return void (done.value = data.done)
    done.value = null
    const outcome = data.outcome as Outcome<T>
    problem.value = 'problem' in outcome ? outcome.problem : ''
    if ('value' in outcome) result.value = outcome.value
  })
  worker.addEventListener('error', () => {
    done.value = null
    problem.value = brokenOff
  })
  function run(task: object): void {
    stop()
    current = ++counter
    done.value = 0
    problem.value = ''
    // Reactive proxies cannot cross to the worker.
    worker.postMessage(JSON.parse(JSON.stringify({ ...task, id: current })))
  }
  function stop(): void {
    if (done.value !== null) worker.postMessage({ id: current, kind: 'stop' })
  }
  onScopeDispose(() => worker.terminate())
  return { result, done, problem, run, stop }
}
