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
  type Counting,
  type SamplingRule,
} from '@nemawashi/core'
import { inSlices, stop } from './slices'
import type { Outcome } from './longTask'
import { weighRule } from './weighRule'

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
  | { readonly id: number; readonly kind: 'weigh'; readonly sampling: SamplingRule; readonly lotSize: number; readonly counted: Counting }
  | { readonly id: number; readonly kind: 'stop' }

const attempt = <T>(run: () => T): Outcome<T> => {
  try {
    return { value: run() }
  } catch (error) {
    return { problem: error instanceof Error ? error.message : String(error) }
  }
}

/** Replays in slices, so that a stop is heard. */
async function replayAll({ id, lots, change, limitsBefore, poorPercent }: Extract<SamplingTask, { kind: 'replay' }>): Promise<void> {
  const seen: ReplayedLot[] = []
  const isDone = await inSlices(id, { of: lots.length, words: 'lots' }, replay(lots, change, limitsBefore ?? undefined), (lot) => seen.push(lot))
  if (isDone) postMessage({ id, outcome: { value: { lots: seen, summary: summariseReplay(seen, poorPercent) } } })
}

addEventListener('message', ({ data }: MessageEvent<SamplingTask>) => {
  if (data.kind === 'stop') stop(data.id)
  else if (data.kind === 'replay') void replayAll(data)
  else if (data.kind === 'weigh') postMessage({ id: data.id, outcome: attempt(() => weighRule(data.sampling, data.lotSize, data.counted)) })
  else postMessage({ id: data.id, outcome: { value: data.choices.map((choice) => attempt(() => assess(choice, data.options))) } })
})
