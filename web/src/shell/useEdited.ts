import { computed, ref, watch, type ComputedRef, type Ref } from 'vue'

/**
 * A copy of something of the server that is being edited. It follows what arrives under its address as long as nothing was changed
 * here; what somebody typed is never written over, and never carried to another address.
 */
export function useEdited<T>(address: () => string | null, source: ComputedRef<T | undefined>, blank: () => T) {
  const edited = ref<T | null>(null) as Ref<T | null>
  const before = ref('')
  let shownFor: string | null = null
  const isChanged = computed(() => edited.value !== null && JSON.stringify(edited.value) !== before.value)
  function show(value: T): void {
    edited.value = JSON.parse(JSON.stringify(value)) as T
    before.value = JSON.stringify(value)
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
  return { edited, isChanged, show, undo: () => show(JSON.parse(before.value) as T) }
}
