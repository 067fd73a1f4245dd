import type {
  Assessment,
  AssessmentOptions,
  Counting,
  Limits,
  PastLot,
  ReplayChange,
  ReplayedLot,
  ReplaySummary,
  SamplingChoice,
  SamplingRule,
} from '@nemawashi/core'
import { computed } from 'vue'
import { useLatestTask } from '../../workers/latestTask'
import { useLongTask, type Outcome } from '../../workers/longTask'
import type { WeighedRule } from '../../workers/weighRule'

function startWorker(): Worker {
  return new Worker(new URL('../../workers/sampling.worker.ts', import.meta.url), { type: 'module' })
}

/** What each choice lets through and costs, worked out off the page. */
export function useAssessments(choices: () => readonly SamplingChoice[], options: () => AssessmentOptions) {
  const { outcome, isLong } = useLatestTask<readonly Outcome<Assessment>[]>(startWorker, () => ({
    kind: 'assess',
    choices: choices(),
    options: options(),
  }))
  const outcomes = computed(() => {
    const now = outcome.value
    if (now === null) return []
    return 'value' in now ? now.value : choices().map(() => now)
  })
  return { outcomes, isLong }
}

/** A rule beside its risk, worked out off the page: some rules take seconds. */
export function useWeighedRule(rule: () => SamplingRule, lotSize: () => number, counted: () => Counting) {
  return useLatestTask<WeighedRule>(startWorker, () => ({ kind: 'weigh', sampling: rule(), lotSize: lotSize(), counted: counted() }))
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
