import { sameFacts, type Endpoint } from '@nemawashi/contract'
import type { RevisionState } from '@nemawashi/core'
import { computed, nextTick, ref, watch, type Ref } from 'vue'
import { asFailure, askFor, type Failure } from '../../shell/api'
import { ask, type Question } from '../../shell/ask'
import { notify } from '../../shell/notify'
import { useSession } from '../../shell/session'
import { useUnsaved } from '../../shell/unsaved'
import { copyOf } from '../../shell/useEdited'
import { useSaver } from '../../composables/useSaver'

interface Revision {
  readonly id: string
  readonly revision: number
  readonly state: RevisionState
  readonly releasedAt: string | null
  readonly releasedByName: string | null
}

interface Definition {
  readonly id: string
  readonly code: string
  readonly version: number
  readonly revisions: readonly Revision[]
}

/** What a form of a definition knows: how to load and save it, and what of it is being edited. */
export interface DefinitionForm<T extends Definition, Edited> {
  readonly id: string
  readonly load: () => Promise<T>
  readonly create: (code: string) => Promise<T>
  readonly update: (version: number) => Promise<T>
  /** What is edited of the revision that is shown; of null for a new one. */
  readonly editedOf: (definition: T | null, revision: T['revisions'][number] | null) => Edited
  /** Told what was saved; nothing where a discarded draft was all there was. */
  readonly saved: (id: string) => void
}

/**
 * The life of a definition on the screen (a characteristic, a plan): load, edit the draft, save, release, revise, retire, and choose
 * when somebody else was faster. Released revisions are looked at, not edited.
 */
export function useDefinition<T extends Definition, Edited>(form: DefinitionForm<T, Edited>) {
  const { isEngineer } = useSession()
  const saver = useSaver()
  const isNew = form.id === 'new'
  const entity = ref<T | null>(null) as Ref<T | null>
  const theirs = ref<T | null>(null) as Ref<T | null>
  const code = ref('')
  const chosen = ref<string | null>(null)
  const revisions = computed<readonly T['revisions'][number][]>(() => entity.value?.revisions ?? [])
  const shown = computed(() => revisions.value.find((revision) => revision.id === chosen.value) ?? revisions.value[0] ?? null)
  const hasDraft = computed(() => revisions.value.some((revision) => revision.state === 'draft'))
  const hasReleased = computed(() => revisions.value.some((revision) => revision.state === 'released'))
  const isFixed = computed(() => !isEngineer || (!isNew && shown.value?.state !== 'draft'))
  const edited = ref(form.editedOf(null, null)) as Ref<Edited>
  const before = ref(copyOf(edited.value)) as Ref<Edited>
  const isChanged = computed(() => !sameFacts(edited.value, before.value))

  function reset(): void {
    edited.value = copyOf(form.editedOf(entity.value, shown.value))
    before.value = copyOf(edited.value)
  }
  watch(shown, reset)
  function show(loaded: T): void {
    entity.value = loaded
    code.value = loaded.code
    chosen.value = null
    reset()
  }
  const failure = ref<Failure | null>(null)
  // Loading is not saving: the form is not busy meanwhile.
  if (!isNew) form.load().then(show, (error: unknown) => (failure.value = asFailure(error)))
  /** What is said in place of the form as long as there is nothing to show in it. */
  const waiting = computed(() => (isNew || entity.value !== null ? null : (failure.value?.message ?? 'Loading …')))
  let isDone = false
  useUnsaved(
    () => isChanged.value && !isFixed.value && !isDone,
    () => (isNew ? 'the new definition' : code.value),
  )

  async function change(run: () => Promise<T>, words: (saved: T) => string): Promise<void> {
    const done = await saver.save(async () => {
      const saved = await run()
      isDone = isNew
      show(saved)
      notify(words(saved))
      form.saved(saved.id)
    })
    if (!done && saver.isStale.value) theirs.value = await form.load()
  }
  const version = () => entity.value?.version ?? 0
  const submit = () =>
    change(
      () => (isNew ? form.create(code.value) : form.update(version())),
      (saved) => `Saved ${saved.code} as a draft.`,
    )
  /** A step of the definition's life: asked about first, with what it changes. */
  const step = async (endpoint: Endpoint, words: string, question: Question | null = null, more: object = {}) => {
    if (question !== null && (await ask(question)) === null) return
    await change(
      () => askFor<T>(endpoint, { params: { id: form.id }, body: { version: version(), ...more } }),
      (saved) => `${saved.code} ${words}.`,
    )
  }

  /** Takes the draft back; where nothing else stood, the definition is gone. */
  async function discard(endpoint: Endpoint): Promise<void> {
    const isAll = revisions.value.length === 1
    const question = {
      title: `Discard the draft of ${code.value}?`,
      text: isAll
        ? 'It was never released: the whole definition goes. The audit keeps what it said.'
        : 'The revision before it stays as it is. The audit keeps what the draft said.',
      yes: 'Discard it',
      no: 'Keep it',
    }
    if ((await ask(question)) === null) return
    let left: T | null = null
    const isDiscarded = await saver.save(async () => {
      ;({ left } = await askFor<{ left: T | null }>(endpoint, { params: { id: form.id }, body: { version: version() } }))
    })
    if (!isDiscarded) return
    notify(`The draft of ${code.value} is discarded.`)
    isDone = left === null
    if (left !== null) show(left)
    form.saved(left === null ? '' : form.id)
  }

  async function keepMine(): Promise<void> {
    const mine = edited.value
    if (theirs.value) entity.value = theirs.value
    theirs.value = null
    saver.clear()
    await nextTick()
    edited.value = mine
    await submit()
  }
  function takeTheirs(): void {
    if (theirs.value) show(theirs.value)
    theirs.value = null
    saver.clear()
  }
  return {
    isEngineer,
    saver,
    failure,
    waiting,
    isNew,
    entity,
    theirs,
    code,
    chosen,
    shown,
    hasDraft,
    hasReleased,
    isFixed,
    edited,
    isChanged,
    reset,
    submit,
    step,
    discard,
    keepMine,
    takeTheirs,
  }
}
