import { computed, ref } from 'vue'
import { asFailure, type Failure } from '../shell/api'

/**
 * Runs a change that a form asks for and keeps what came of it: busy, the failure, and the field that it is about.
 * A change that came too late (somebody else was faster) is told apart, so that the page can compare both.
 */
export function useSaver() {
  const isBusy = ref(false)
  const failure = ref<Failure | null>(null)
  const fieldErrors = computed<Record<string, string>>(() => {
    const facts = failure.value?.facts
    if (!facts) return {}
    if (Array.isArray(facts['fields'])) {
      return Object.fromEntries((facts['fields'] as { field: string; problem: string }[]).map(({ field, problem }) => [field, problem]))
    }
    return typeof facts['field'] === 'string' ? { [facts['field']]: failure.value?.message ?? '' } : {}
  })
  const isStale = computed(() => failure.value?.code === 'stale_version')
  /** The failure, unless it already stands beside its field or is shown as a comparison. */
  const note = computed(() => (failure.value && !isStale.value && Object.keys(fieldErrors.value).length === 0 ? failure.value : null))

  /** True when the change went through. */
  async function save(change: () => Promise<void>): Promise<boolean> {
    if (isBusy.value) return false
    isBusy.value = true
    failure.value = null
    try {
      await change()
      return true
    } catch (error) {
      failure.value = asFailure(error)
      return false
    } finally {
      isBusy.value = false
    }
  }
  function clear(): void {
    failure.value = null
  }
  return { isBusy, failure, fieldErrors, isStale, note, save, clear }
}
