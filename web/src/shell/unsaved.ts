import { onBeforeUnmount, onMounted } from 'vue'
import type { RouteLocationNormalized, Router } from 'vue-router'
import { ask } from './ask'

interface Unsaved {
  /** Whether something was typed that is not saved. */
  readonly isDirty: () => boolean
  /** What would be lost, for the question: `the plan PL-12`. */
  readonly words: () => string
}

const open = new Set<Unsaved>()

/** Asks before what was typed here is lost: on menu, Back, search and reload. */
export function useUnsaved(isDirty: () => boolean, words: () => string): void {
  const entry = { isDirty, words }
  onMounted(() => open.add(entry))
  onBeforeUnmount(() => open.delete(entry))
}

function dirty(): Unsaved | undefined {
  return [...open].find((entry) => entry.isDirty())
}

/** A page stays where it is when only its filter or sorting changes. */
function isElsewhere(to: RouteLocationNormalized, from: RouteLocationNormalized): boolean {
  return to.path !== from.path
}

export function guardUnsaved(router: Router): void {
  router.beforeEach(async (to, from) => {
    const entry = dirty()
    if (!entry || !isElsewhere(to, from)) return true
    const answer = await ask({
      title: 'Leave without saving?',
      text: `What you changed in ${entry.words()} is not saved yet. It is lost when you leave.`,
      yes: 'Leave, drop it',
      no: 'Stay',
    })
    return answer !== null
  })
  window.addEventListener('beforeunload', (event) => {
    if (dirty()) event.preventDefault()
  })
}
