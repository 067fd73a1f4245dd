import { computed, ref, type Ref } from 'vue'

interface Revision {
  readonly id: string
  readonly revision: number
  readonly state: 'draft' | 'released' | 'retired'
}

/** Which revision of a definition is looked at: the newest, until another is chosen. Only a draft can be changed. */
export function useRevisions<R extends Revision>(revisions: Ref<readonly R[]>) {
  const chosen = ref<string | null>(null)
  const shown = computed(() => revisions.value.find((revision) => revision.id === chosen.value) ?? revisions.value[0] ?? null)
  const hasDraft = computed(() => revisions.value.some((revision) => revision.state === 'draft'))
  const hasReleased = computed(() => revisions.value.some((revision) => revision.state === 'released'))
  const isDraftShown = computed(() => shown.value?.state === 'draft')
  return { chosen, shown, hasDraft, hasReleased, isDraftShown }
}
