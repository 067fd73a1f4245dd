import type { RuledPoint } from '@nemawashi/core'
import { type PastOccasions, attach } from '@nemawashi/contract'
import { shallowRef } from 'vue'
import { useLatest } from '../../shell/useLatest'
import { call } from '../../shell/api'
import { useLongTask } from '../../workers/longTask'
import type { PlayedRules, RehearsalTask } from '../../workers/rehearsal.worker'
import type { Scope } from './pastLoad'

function startWorker(): Worker {
  return new Worker(new URL('../../workers/rehearsal.worker.ts', import.meta.url), { type: 'module' })
}

/** Plays the past under sets of control points, off the page; what happened is fetched once for a scope. */
export function usePastLoad() {
  const { result, done, problem, run, stop } = useLongTask<readonly PlayedRules[]>(startWorker)
  const past = shallowRef<PastOccasions | null>(null)
  const { ask, isWaiting: isFetching } = useLatest()
  let key = ''

  /** @throws {ApiError} what cannot be fetched is the caller's to show */
  async function play(
    query: Scope & { days: number; planId?: string },
    rulesOf: (points: PastOccasions['points']) => readonly (readonly RuledPoint[])[],
  ): Promise<void> {
    const wanted = JSON.stringify(query)
    const known = wanted === key ? past.value : null
    const found = await ask(async (signal) => known ?? (await call(attach.getPastOccasions, { query }, { signal })))
    if (found === null) return
    if (known === null) [past.value, key] = [found, wanted]
    const { from, until, points, plans, occasions } = found
    const rules = rulesOf(points).map((set) => [...set])
    run({ kind: 'play', from, until, occasions, plans: plans as RehearsalTask['plans'], rules } satisfies RehearsalTask)
  }
  /** What is in force has changed: the next play asks again. */
  function forget(): void {
    key = ''
  }
  return { past, played: result, done, problem, isFetching, play, stop, forget }
}
