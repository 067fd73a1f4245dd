import {
  LoadTally,
  playOccasions,
  restsOnFindings,
  type PastOccasion,
  type RuledLine,
  type RuledPoint,
  type WeeklyLoad,
  type Workload,
} from '@nemawashi/core'
import { inSlices, stop } from './slices'

/** Occasions of the past, and the rules that they are played under, one set after another. */
export interface RehearsalTask {
  readonly kind: 'play'
  readonly from: string
  readonly until: string
  readonly occasions: readonly PastOccasion[]
  readonly plans: readonly { readonly id: string; readonly lines: readonly RuledLine[] }[]
  readonly rules: readonly (readonly RuledPoint[])[]
}
/** What each set of rules would have brought. */
export interface PlayedRules {
  readonly weeks: readonly WeeklyLoad[]
  readonly byPoint: readonly (readonly [string, Workload])[]
  readonly problems: readonly (readonly [string, number])[]
  /** Variance of the number of inspections, and whether what was found then bears on it. */
  readonly chance: number
  readonly restsOnFindings: boolean
}

async function playAll(id: number, { from, until, occasions, plans, rules }: RehearsalTask): Promise<void> {
  const byId = new Map(plans.map((plan) => [plan.id, plan.lines]))
  const tallies = rules.map(() => new LoadTally(from, until))
  const all = function* () {
    for (const [i, points] of rules.entries()) for (const played of playOccasions({ points, plans: byId }, occasions)) yield [i, played] as const
  }
  const isDone = await inSlices(id, { of: rules.length * occasions.length, words: 'occasions' }, all(), ([i, played]) => tallies[i]?.add(played))
  if (!isDone) return
  const value = tallies.map(({ weeks, byPoint, problems, chance }, i): PlayedRules => ({
    weeks,
    byPoint: [...byPoint],
    problems: [...problems],
    chance,
    restsOnFindings: restsOnFindings({ points: rules[i] ?? [], plans: byId }),
  }))
  postMessage({ id, outcome: { value } })
}

addEventListener('message', ({ data }: MessageEvent<({ id: number } & RehearsalTask) | { id: number; kind: 'stop' }>) => {
  if (data.kind === 'stop') stop(data.id)
  else void playAll(data.id, data)
})
