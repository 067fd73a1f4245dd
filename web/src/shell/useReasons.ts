import { define } from '@nemawashi/contract'
import { computed } from 'vue'
import { useThing } from './queries'

type Purpose = 'skip' | 'correction' | 'decision'

/** The reasons that the plant keeps for a purpose, to be offered where one is written; what is not among them is typed. */
export function useReasons(purpose: Purpose, isWanted: () => boolean = () => true) {
  const { data } = useThing(define.reasons.list, () => (isWanted() ? { query: { limit: 200 } } : null))
  return computed(() => {
    const rows = (data.value as { rows: { name: string; purpose: string; isActive: boolean }[] } | undefined)?.rows ?? []
    return rows.filter((row) => row.purpose === purpose && row.isActive).map(({ name }) => name)
  })
}
