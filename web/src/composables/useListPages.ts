import type { ListEndpoint, ListPage } from '@nemawashi/contract'
import { ref, shallowRef, watch, type Ref } from 'vue'
import { asFailure, askFor, type Failure } from '../shell/api'

/** What a list is asked for: words, sorting, and what the page narrows it by. */
export type ListAsked = Readonly<Record<string, string | undefined>>

const typingMs = 180

/**
 * The rows of a list page by page, asked for anew when what is asked changes (words only once they rest), the next page when it is
 * wanted. An answer to what is not asked any more is dropped.
 */
export function useListPages<Row>(endpoint: () => ListEndpoint<Row>, listQuery: Ref<ListAsked>) {
  const rows = shallowRef<Row[]>([])
  const total = ref(0)
  const next = ref<string | null>(null)
  const status = ref<'loading' | 'ready' | 'failed'>('loading')
  const failure = ref<Failure | null>(null)

  let latest = 0
  /** @param isQuiet what is shown stays as it is until the answer is there, and where there is none */
  async function load(isMore: boolean, isQuiet = false): Promise<void> {
    const mine = ++latest
    if (!isQuiet) {
      status.value = 'loading'
      failure.value = null
    }
    try {
      const after = isMore && next.value ? { after: next.value } : {}
      const page = await askFor<ListPage<Row>>(endpoint(), { query: { ...listQuery.value, ...after } })
      if (mine !== latest) return
      rows.value = isMore ? [...rows.value, ...page.rows] : page.rows
      total.value = page.total
      next.value = page.next
      status.value = 'ready'
    } catch (error) {
      if (mine !== latest || isQuiet) return
      failure.value = asFailure(error)
      status.value = 'failed'
    }
  }
  let timer = 0
  watch(
    listQuery,
    (value, old) => {
      window.clearTimeout(timer)
      timer = window.setTimeout(() => void load(false), old && value['q'] !== old['q'] ? typingMs : 0)
    },
    { immediate: true, deep: true },
  )
  return { rows, total, next, status, failure, load }
}
