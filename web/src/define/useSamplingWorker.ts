import type { Assessment, AssessmentOptions, Limits, PastLot, ReplayChange, ReplayedLot, ReplaySummary, SamplingChoice } from '@nemawashi/core'
import { onScopeDispose, shallowRef, watch } from 'vue'
import { brokenOff, useLongTask, type Outcome, type Reply } from '../workers/longTask'
import type { SamplingTask } from '../workers/sampling.worker'

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
  const { result: replayed, done, problem, run: begin, stop } = useLongTask<Replayed>(startWorker)
  function run(lots: readonly PastLot[], change: ReplayChange, limitsBefore: Limits | null, poorPercent: number): void {
    begin({ kind: 'replay', lots, change, limitsBefore, poorPercent })
  }
  return { replayed, done, problem, run, stop }
}
