import { addressOf, type CallOf, type Endpoint, type ReplyOf } from '@nemawashi/contract'
import { QueryClient, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { asFailure, call } from './api'

/** What the server said, by address: a page shows what belongs to the address that it asks for now, and never a late answer to another. */
export const queryClient = new QueryClient({
  defaultOptions: { queries: { staleTime: 0, gcTime: 60_000, refetchOnWindowFocus: true, retry: false, networkMode: 'always' } },
})

function keyOf(endpoint: Endpoint, input: object): readonly string[] {
  return [endpoint.path, addressOf(endpoint, input)]
}

/**
 * One thing of the server under its address. While `input` gives null nothing is asked for. `data` is what belongs to the present
 * input, or undefined until it is there; loading is not saving, so no form is busy meanwhile.
 * @param everyMs how often it is asked for again by itself while the page is looked at; null: not
 */
export function useThing<E extends Endpoint>(
  target: MaybeRefOrGetter<E>,
  input: MaybeRefOrGetter<CallOf<E> | null>,
  everyMs: (data: ReplyOf<E> | undefined) => number | null = () => null,
) {
  const endpoint = computed(() => toValue(target))
  const wanted = computed(() => toValue(input))
  const key = computed(() => (wanted.value === null ? ['nothing'] : keyOf(endpoint.value, wanted.value)))
  const query = useQuery(
    {
      queryKey: key,
      queryFn: ({ signal }) => call(endpoint.value, wanted.value as CallOf<E>, { signal }),
      enabled: computed(() => wanted.value !== null),
      refetchInterval: ({ state }) => everyMs(state.data as ReplyOf<E> | undefined) ?? false,
    },
    queryClient,
  )
  const data = computed(() => (wanted.value === null ? undefined : (query.data.value as ReplyOf<E> | undefined)))
  return {
    data,
    failure: computed(() => (query.error.value === null ? null : asFailure(query.error.value))),
    isLoading: computed(() => wanted.value !== null && query.isFetching.value && data.value === undefined),
    /** Asks again; resolves when the answer is there. */
    reload: async () => void (await query.refetch()),
    /** Puts an answer in that came with a change; under another address than the present one where something new has got its own. */
    put: (value: ReplyOf<E>, input: CallOf<E> | null = wanted.value) =>
      void (input === null ? undefined : queryClient.setQueryData(keyOf(endpoint.value, input) as string[], value)),
  }
}
