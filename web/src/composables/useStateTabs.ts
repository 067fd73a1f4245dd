import { computed } from 'vue'
import { useRoute } from 'vue-router'

/** Ways to narrow a list down by the state of its rows, each with an address of its own: `/run/orders?state=released`. The first shows all. */
export function useStateTabs<S extends string>(path: string, tabs: readonly { readonly words: string; readonly state: S | null }[]) {
  const route = useRoute()
  const chosen = computed(() => tabs.find(({ state }) => state !== null && state === route.query['state']) ?? tabs[0])
  const links = computed(() =>
    tabs.map((tab) => ({ words: tab.words, to: { path, query: tab.state === null ? {} : { state: tab.state } }, isOn: tab === chosen.value })),
  )
  /** Null: all of them. */
  const state = computed(() => chosen.value?.state ?? null)
  return { state, links }
}
