import { computed, onBeforeUnmount, shallowReactive, watchEffect, type ComputedRef } from 'vue'

export interface Crumb {
  readonly words: string
  readonly to?: string
}

/** Those who say where the page is, the innermost last: a list, and over it the sheet that is open beside it. */
const said = shallowReactive<ComputedRef<readonly Crumb[]>[]>([])

/** Where the page is, as the strip shows it. */
export const crumbs = computed(() => said.at(-1)?.value ?? [])

watchEffect(() => {
  const last = crumbs.value.at(-1)?.words
  document.title = last === undefined ? 'Nemawashi' : `${last} · Nemawashi`
})

/** Sets the crumbs and the title of the window while the calling component is shown. */
export function useCrumbs(makeCrumbs: () => readonly Crumb[]): void {
  const own = computed(makeCrumbs)
  said.push(own)
  onBeforeUnmount(() => said.splice(said.indexOf(own), 1))
}
