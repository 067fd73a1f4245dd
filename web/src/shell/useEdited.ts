import { sameFacts } from '@nemawashi/contract'
import { computed, ref, watch, type ComputedRef, type Ref } from 'vue'

/** A copy of what goes over the wire, without the page's threads to it. */
export const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/**
 * A copy of something of the server that is being edited. It follows what arrives under its address as long as nothing was changed
 * here; what somebody typed is never written over, and never carried to another address.
 */
export function useEdited<T>(address: () => string | null, source: ComputedRef<T | undefined>, blank: () => T) {
  const edited = ref<T | null>(null) as Ref<T | null>
  const before = ref<T | null>(null) as Ref<T | null>
  let shownFor: string | null = null
  const isChanged = computed(() => edited.value !== null && !sameFacts(edited.value, before.value))
  function show(value: T): void {
    edited.value = copyOf(value)
    before.value = copyOf(value)
    shownFor = address()
  }
  watch(
    [address, source] as const,
    ([wanted, loaded]) => {
      if (wanted !== shownFor) {
        edited.value = null
        shownFor = null
      }
      if (wanted === null) return
      if (wanted.endsWith('/new')) {
        if (shownFor === null) show(blank())
      } else if (loaded !== undefined && (edited.value === null || !isChanged.value)) show(loaded)
    },
    { immediate: true },
  )
  return { edited, isChanged, show, undo: () => before.value !== null && show(before.value) }
}
