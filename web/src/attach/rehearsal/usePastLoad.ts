import type { RuledPoint } from '@nemawashi/core'
import { type PastOccasions, attach } from '@nemawashi/contract'
import { ref, shallowRef } from 'vue'
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
  const isFetching = ref(false)
  let key = ''
  let latest = 0

  /** @throws {ApiError} what cannot be fetched is the caller's to show */
  async function play(
    query: Scope & { days: number; planId?: string },
    rulesOf: (points: PastOccasions['points']) => readonly (readonly RuledPoint[])[],
  ): Promise<void> {
    const mine = ++latest
    const wanted = JSON.stringify(query)
    if (past.value === null || wanted !== key) {
      isFetching.value = true
      try {
        const found = await call(attach.getPastOccasions, { query })
        if (mine !== latest) return
        ;[past.value, key] = [found, wanted]
      } finally {
        if (mine === latest) isFetching.value = false
      }
    }
    const { from, until, points, plans, occasions } = past.value
    const rules = rulesOf(points).map((set) => [...set])
    run({ kind: 'play', from, until, occasions, plans: plans as RehearsalTask['plans'], rules } satisfies RehearsalTask)
  }
  /** What is in force has changed: the next play asks again. */
  function forget(): void {
    key = ''
  }
  return { past, played: result, done, problem, isFetching, play, stop, forget }
}
