import type { Assessment, AssessmentOptions, Limits, PastLot, ReplayChange, ReplayedLot, ReplaySummary, SamplingChoice } from '@nemawashi/core'
import { onScopeDispose, ref, shallowRef, watch } from 'vue'
import type { Outcome, SamplingTask } from '../workers/sampling.worker'

interface Reply {
  readonly id: number
  readonly done?: number
  readonly outcome?: Outcome<unknown>
}

/** A worker that cannot be loaded or breaks off says nothing itself. */
const brokenOff = 'The computing broke off. Reload the page; if it stays, the server was updated or the page is too old.'

let counter = 0
function startWorker(): Worker {
  return new Worker(new URL('../workers/sampling.worker.ts', import.meta.url), { type: 'module' })
}

/** What each choice lets through and costs, worked out off the page; while one answer is awaited only the newest question is kept. */
export function useAssessments(choices: () => readonly SamplingChoice[], options: () => AssessmentOptions) {
  const worker = startWorker()
  const outcomes = shallowRef<readonly Outcome<Assessment>[]>([])
  let isBusy = false
  let isAskedAgain = false
  function ask(): void {
    if (isBusy) return void (isAskedAgain = true)
    isBusy = true
    const task: SamplingTask = { id: ++counter, kind: 'assess', choices: choices(), options: options() }
    // Reactive proxies cannot cross to the worker.
    worker.postMessage(JSON.parse(JSON.stringify(task)))
  }
  worker.addEventListener('message', ({ data }: MessageEvent<Reply>) => {
    outcomes.value = (data.outcome as { value: Outcome<Assessment>[] }).value
    isBusy = false
    if (isAskedAgain) {
      isAskedAgain = false
      ask()
    }
  })
  worker.addEventListener('error', () => {
    outcomes.value = choices().map(() => ({ problem: brokenOff }))
    isBusy = false
  })
  watch([choices, options], ask, { immediate: true, deep: true })
  onScopeDispose(() => worker.terminate())
  return { outcomes }
}

export interface Replayed {
  readonly lots: readonly ReplayedLot[]
  readonly summary: ReplaySummary
}

/** Runs replays off the page, one at a time, with progress and a stop. */
export function useReplay() {
  const worker = startWorker()
  const replayed = shallowRef<Replayed | null>(null)
  const done = ref<number | null>(null)
  const problem = ref('')
  let current = 0
  worker.addEventListener('message', ({ data }: MessageEvent<Reply>) => {
    if (data.id !== current) return
    if (data.done !== undefined) return void (done.value = data.done)
    done.value = null
    const outcome = data.outcome as Outcome<Replayed>
    problem.value = 'problem' in outcome ? outcome.problem : ''
    if ('value' in outcome) replayed.value = outcome.value
  })
  worker.addEventListener('error', () => {
    done.value = null
    problem.value = brokenOff
  })
  function run(lots: readonly PastLot[], change: ReplayChange, limitsBefore: Limits | null, poorPercent: number): void {
    stop()
    current = ++counter
    done.value = 0
    problem.value = ''
    const task: SamplingTask = { id: current, kind: 'replay', lots, change, limitsBefore, poorPercent }
    worker.postMessage(JSON.parse(JSON.stringify(task)))
  }
  function stop(): void {
    if (done.value === null) return
    const task: SamplingTask = { id: current, kind: 'stop' }
    worker.postMessage(task)
  }
  onScopeDispose(() => worker.terminate())
  return { replayed, done, problem, run, stop }
}
