import {
  assess,
  replay,
  summariseReplay,
  type AssessmentOptions,
  type Limits,
  type PastLot,
  type ReplayChange,
  type ReplayedLot,
  type SamplingChoice,
} from '@nemawashi/core'

/** What the page asks for. Every task has a number; an answer names the one it belongs to. */
export type SamplingTask =
  | { readonly id: number; readonly kind: 'assess'; readonly choices: readonly SamplingChoice[]; readonly options: AssessmentOptions }
  | {
      readonly id: number
      readonly kind: 'replay'
      readonly lots: readonly PastLot[]
      readonly change: ReplayChange
      readonly limitsBefore: Limits | null
      readonly poorPercent: number
    }
  | { readonly id: number; readonly kind: 'stop' }

export type Outcome<T> = { readonly value: T } | { readonly problem: string }
const attempt = <T>(run: () => T): Outcome<T> => {
  try {
    return { value: run() }
  } catch (error) {
    return { problem: error instanceof Error ? error.message : String(error) }
  }
}

const stopped = new Set<number>()
const breathe = () => new Promise((resolve) => setTimeout(resolve))

/** Replays in slices of about 30 ms, telling how far it is, so that a stop is heard. */
async function replayAll(task: Extract<SamplingTask, { kind: 'replay' }>): Promise<void> {
  const seen: ReplayedLot[] = []
  try {
    let slice = performance.now()
    for (const lot of replay(task.lots, task.change, task.limitsBefore ?? undefined)) {
      seen.push(lot)
      if (performance.now() - slice < 30) continue
      postMessage({ id: task.id, done: seen.length / task.lots.length })
      await breathe()
      if (stopped.delete(task.id))
        return postMessage({ id: task.id, outcome: { problem: `Stopped after ${seen.length} of ${task.lots.length} lots.` } })
      slice = performance.now()
    }
    postMessage({ id: task.id, outcome: { value: { lots: seen, summary: summariseReplay(seen, task.poorPercent) } } })
  } catch (error) {
    postMessage({ id: task.id, outcome: { problem: error instanceof Error ? error.message : String(error) } })
  }
}

addEventListener('message', ({ data }: MessageEvent<SamplingTask>) => {
  if (data.kind === 'stop') stopped.add(data.id)
  else if (data.kind === 'replay') void replayAll(data)
  else postMessage({ id: data.id, outcome: { value: data.choices.map((choice) => attempt(() => assess(choice, data.options))) } })
})
