import type { ListEndpoint, ListPage } from '@nemawashi/contract'
import { keepPreviousData, useInfiniteQuery } from '@tanstack/vue-query'
import { computed, ref, watch, type Ref } from 'vue'
import { asFailure, askFor } from '../shell/api'
import { queryClient } from '../shell/queries'

/** What a list is asked for: words, sorting, and what the page narrows it by. */
export type ListAsked = Readonly<Record<string, string | undefined>>

const typingMs = 180

/**
 * The rows of a list page by page, asked for anew when what is asked changes (words only once they rest), the next page when it is
 * wanted. They stand in the cache under what was asked: who comes back to a list sees at once what was there, and a moment later what is.
 */
export function useListPages<Row>(endpoint: () => ListEndpoint<Row>, listQuery: Ref<ListAsked>) {
  const asked = ref<ListAsked>({ ...listQuery.value })
  let timer = 0
  watch(
    listQuery,
    (value, old) => {
      window.clearTimeout(timer)
      timer = window.setTimeout(() => (asked.value = { ...value }), value['q'] !== old['q'] ? typingMs : 0)
    },
    { deep: true },
  )
  const query = useInfiniteQuery(
    {
      queryKey: computed(() => ['list', endpoint().path, asked.value]),
      queryFn: ({ pageParam, signal }) =>
        askFor<ListPage<Row>>(endpoint(), { query: { ...asked.value, ...(pageParam === null ? {} : { after: pageParam }) } }, { signal }),
      initialPageParam: null as string | null,
      getNextPageParam: ({ next }) => next,
      placeholderData: keepPreviousData,
      // Whoever has scrolled on keeps what they read: pages that are looked at ask again by themselves (`useFresh`).
      refetchOnWindowFocus: false,
    },
    queryClient,
  )
  /** Whether it asked by itself: what is shown stays as it is until the answer is there, and where there is none. */
  const isQuiet = ref(false)
  /** Whether somebody waits for what is asked, and sees so. */
  const isAwaited = ref(false)
  async function load(isMore: boolean, byItself = false): Promise<void> {
    isQuiet.value = byItself
    isAwaited.value = !byItself
    await (isMore ? query.fetchNextPage() : query.refetch())
    isAwaited.value = false
  }
  watch(asked, () => (isQuiet.value = false))
  const pages = computed(() => query.data.value?.pages ?? [])
  const isLoading = computed(() => query.isFetching.value && (isAwaited.value || query.isPlaceholderData.value || query.data.value === undefined))
  const failure = computed(() => (query.error.value === null || isLoading.value || isQuiet.value ? null : asFailure(query.error.value)))
  return {
    rows: computed(() => pages.value.flatMap(({ rows }) => rows)),
    total: computed(() => pages.value.at(-1)?.total ?? 0),
    next: computed(() => pages.value.at(-1)?.next ?? null),
    status: computed(() => (isLoading.value ? 'loading' : failure.value ? 'failed' : 'ready')),
    failure,
    load,
  }
}
