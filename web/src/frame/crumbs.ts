import { onBeforeUnmount, ref, watchEffect, type Ref } from 'vue'

export interface Crumb {
  readonly words: string
  readonly to?: string
}

/** Where the page is, as the strip shows it. */
export const crumbs: Ref<readonly Crumb[]> = ref([])

/** Sets the crumbs and the title of the window while the calling page is shown. */
export function useCrumbs(of: () => readonly Crumb[]): void {
  watchEffect(() => {
    crumbs.value = of()
    document.title = `${of().at(-1)?.words ?? ''} · Nemawashi`
  })
  onBeforeUnmount(() => (crumbs.value = []))
}
