import { describe, expect, it } from 'vitest'
import { ref } from 'vue'
import { useRevisions } from './useRevisions'

type State = 'draft' | 'released' | 'retired'
const revision = (number: number, state: State) => ({ id: `r${number}`, revision: number, state })

describe('the revisions of a definition', () => {
  it('show the newest until another is chosen, and only a draft can be changed', () => {
    const { chosen, shown, isDraftShown, hasDraft, hasReleased } = useRevisions(
      ref([revision(3, 'draft'), revision(2, 'released'), revision(1, 'retired')]),
    )
    expect([shown.value?.id, isDraftShown.value, hasDraft.value, hasReleased.value]).toEqual(['r3', true, true, true])
    chosen.value = 'r2'
    expect([shown.value?.id, isDraftShown.value]).toEqual(['r2', false])
    chosen.value = 'gone'
    expect(shown.value?.id).toBe('r3')
  })

  it('can be none', () => {
    const { shown, hasDraft } = useRevisions(ref<ReturnType<typeof revision>[]>([]))
    expect([shown.value, hasDraft.value]).toEqual([null, false])
  })
})
