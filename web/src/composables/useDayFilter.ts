import { Day } from '@nemawashi/contract'
import { ref, watch, type Ref, type WritableComputedRef } from 'vue'

/** What is typed in a day's filter: it stays while it is no day yet, and only a day, or none, becomes the filter. */
export function useDayFilter(filter: WritableComputedRef<string | null>): Ref<string> {
  const typed = ref(filter.value ?? '')
  watch(filter, (to) => (typed.value = to ?? ''))
  watch(typed, (to) => {
    if (to === '' ? filter.value !== null : Day.safeParse(to).success && to !== filter.value) filter.value = to || null
  })
  return typed
}
