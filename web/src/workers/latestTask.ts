import { onScopeDispose, ref, shallowRef, watch } from 'vue'
import { brokenOff, type Outcome, type Reply } from './longTask'

/** How long a question may still be worked on once a newer one is there: a start of the worker anew takes about as long. */
const graceMs = 300

let counter = 0

/**
 * Answers the newest of the questions that a page asks while somebody types, off the page, one at a time. One that takes long is left when a
 * newer one comes; until then the last answer stands.
 */
export function useLatestTask<T>(start: () => Worker, task: () => object) {
  const outcome = shallowRef<Outcome<T> | null>(null)
  /** Whether the answer that is shown is to another question, for longer than a moment. */
  const isLong = ref(false)
  let worker = begin()
  let current: number | null = null
  let isAskedAgain = false
  let timer: ReturnType<typeof setTimeout> | undefined

  function begin(): Worker {
    const made = start()
    made.addEventListener('message', ({ data }: MessageEvent<Reply>) => {
      if (data.id === current) settle(data.outcome as Outcome<T>)
    })
    made.addEventListener('error', () => settle({ problem: brokenOff }))
    return made
  }
  function ask(): void {
    if (current !== null) {
      isAskedAgain = true
      if (isLong.value) leave()
      return
    }
    current = ++counter
    isAskedAgain = false
    timer = setTimeout(() => {
      isLong.value = true
      if (isAskedAgain) leave()
    }, graceMs)
    // Reactive proxies cannot cross to the worker.
    worker.postMessage(JSON.parse(JSON.stringify({ ...task(), id: current })))
  }
  function settle(answer: Outcome<T> | null): void {
    clearTimeout(timer)
    current = null
    if (answer !== null) outcome.value = answer
    if (isAskedAgain) ask()
    else isLong.value = false
  }
  function leave(): void {
    worker.terminate()
    worker = begin()
    settle(null)
  }
  watch(task, ask, { immediate: true, deep: true })
  onScopeDispose(() => {
    clearTimeout(timer)
    worker.terminate()
  })
  return { outcome, isLong }
}
