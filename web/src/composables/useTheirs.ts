import { ref, type Ref } from 'vue'
import type { useSaver } from './useSaver'

interface Form<T> {
  readonly edited: Ref<T | null>
  readonly show: (value: T) => void
}

/**
 * What somebody else saved meanwhile, beside what is being edited here, and the choice which of the two stands (`StaleChange`).
 * @param submit saves what is edited, as the form does
 */
export function useTheirs<T extends object>(
  saver: Pick<ReturnType<typeof useSaver>, 'clear'>,
  { edited, show }: Form<T>,
  submit: () => Promise<void>,
) {
  const theirs = ref<T | null>(null) as Ref<T | null>
  const versionOf = (value: T) => (value as { readonly version?: unknown }).version
  async function keepMine(): Promise<void> {
    if (edited.value && theirs.value) edited.value = { ...edited.value, version: versionOf(theirs.value) }
    theirs.value = null
    await submit()
  }
  function takeTheirs(): void {
    if (theirs.value) show(theirs.value)
    theirs.value = null
    saver.clear()
  }
  return { theirs, keepMine, takeTheirs }
}
