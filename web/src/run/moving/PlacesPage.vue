<template>
  <div class="places">
    <RunNav current="/run/places" />
    <div class="body">
      <header class="row top">
        <div class="grow">
          <h1>Put-away rules</h1>
          <p class="soft">
            Read from the top: the first rule that matches says where pieces belong. Where none does, held pieces go to the inspection place, free
            ones wait at the dock.
          </p>
        </div>
        <v-btn v-if="mayEdit" variant="outlined" color="primary" data-test="add" @click="add">Add a rule</v-btn>
        <v-btn v-if="mayEdit" color="primary" :disabled="!isChanged || problem !== ''" :loading="saver.isBusy.value" data-test="save" @click="save"
          >Save the list</v-btn
        >
      </header>
      <ErrorNote :failure="saver.failure.value ?? failure"
        ><v-btn v-if="saver.isStale.value" variant="text" @click="takeTheirs">Load the list anew</v-btn></ErrorNote
      >
      <p v-if="problem" class="nonconforming" role="alert" data-test="circle">{{ problem }}</p>
      <ol v-if="draft.length > 0" :aria-label="`${draft.length} rules, the first that matches counts`">
        <li
          v-for="(rule, i) in draft"
          :key="rule.key"
          :class="{ on: i === chosen, match: tried?.[i] === null && firstMatch === i }"
          :draggable="mayEdit"
          @dragstart="dragged = i"
          @dragover.prevent
          @drop.prevent="dragged !== null && reorder(dragged, i)"
        >
          <span class="m soft number">{{ i + 1 }}</span>
          <button type="button" class="what" :aria-expanded="i === chosen" :data-rule="rule.name" @click="chosen = i === chosen ? null : i">
            <b>{{ rule.name || 'New rule' }}</b>
            <span class="small"
              >{{ wordsOf(rule) }} → <b>{{ rule.toPlaceName || '…' }}</b></span
            >
          </button>
          <span v-if="tried" class="small" :class="firstMatch === i ? 'conforming' : 'soft'" :data-tried="rule.name">{{ triedWords(i) }}</span>
          <template v-if="mayEdit">
            <button type="button" class="tool" :disabled="i === 0" :aria-label="`${rule.name} before the one above`" @click="reorder(i, i - 1)">
              ↑
            </button>
            <button
              type="button"
              class="tool"
              :disabled="i === draft.length - 1"
              :aria-label="`${rule.name} after the one below`"
              @click="reorder(i, i + 1)"
            >
              ↓
            </button>
            <button type="button" class="tool" :aria-label="`Take ${rule.name} out`" @click="takeOut(i)">✕</button>
          </template>
          <PlaceRuleFields v-if="i === chosen && mayEdit" v-model="draft[i]!" class="fields" />
        </li>
      </ol>
      <p v-else-if="loaded" class="soft" data-test="none">
        No rule yet: held pieces go to the inspection place, free ones wait at the dock until they are put away.
      </p>

      <section aria-label="Try the list">
        <h2>Try it</h2>
        <div class="row top try">
          <PickOne v-model="piece.partId" :endpoint="define.parts.list" label="Part" is-clearable field="try-part" @chosen="part = $event" />
          <PickOne
            v-model="piece.supplierId"
            :endpoint="define.partners.list"
            :filter="(row: Partner) => row.kind === 'supplier'"
            label="Supplier"
            is-clearable
            field="try-supplier"
          />
          <v-select v-model="piece.standing" :items="standingItems" label="Status" data-field="try-standing" />
          <PickOne v-model="piece.placeId" :endpoint="define.places.list" label="Lies in (empty: arrives)" is-clearable field="try-place" />
        </div>
        <p v-if="tried" data-test="answer">
          <template v-if="firstMatch !== null"
            ><b>{{ draft[firstMatch]?.toPlaceName }}</b
            >, by rule {{ firstMatch + 1 }}, {{ draft[firstMatch]?.name }}.</template
          >
          <template v-else
            >No rule matches: {{ piece.standing === 'onHold' ? 'held pieces go to the inspection place' : 'they stay where they are' }}.</template
          >
        </p>
        <p v-else class="soft small">Choose a part to see which rule matches it.</p>
      </section>
    </div>
  </div>
</template>

<script setup lang="ts">
import { checkNoCircle, CoreError, missOf, ruleMissWords, standingWords, type Standing } from '@nemawashi/core'
import { type Part, type Partner, type PutAwayRule, define, run, sameFacts } from '@nemawashi/contract'
import { computed, reactive, ref, watch } from 'vue'
import { call } from '../../shell/api'
import { useCrumbs } from '../../shell/crumbs'
import { notify } from '../../shell/notify'
import { useThing } from '../../shell/queries'
import { useSession } from '../../shell/session'
import { useUnsaved } from '../../shell/unsaved'
import ErrorNote from '../../components/ErrorNote.vue'
import PickOne from '../../components/PickOne.vue'
import { useSaver } from '../../composables/useSaver'
import PlaceRuleFields from './PlaceRuleFields.vue'
import { inputOf, newRule, wordsOf, type RuleDraft } from './placeRules'
import RunNav from '../RunNav.vue'

/** The ordered list that says where pieces belong: edited, put in order, and tried out before it is saved. */
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Put-away rules' }])
const mayEdit = useSession().may(run.savePutAwayRules)
const saver = useSaver()
const { data: loaded, failure, put, reload } = useThing(run.getPutAwayRules, () => ({}))
const draft = ref<RuleDraft[]>([])
const chosen = ref<number | null>(null)
const dragged = ref<number | null>(null)
const draftOf = (rule: PutAwayRule): RuleDraft => ({ ...rule, key: rule.id })
const sameRules = (a: readonly RuleDraft[], b: readonly PutAwayRule[]) => sameFacts(a.map(inputOf), b.map(draftOf).map(inputOf))
const isChanged = computed(() => loaded.value !== undefined && !sameRules(draft.value, loaded.value.rules))
/** What somebody else saved is shown as long as nothing is typed here. */
watch(
  loaded,
  (now, before) => {
    if (!now) return
    if (before === undefined || sameRules(draft.value, before.rules)) draft.value = now.rules.map(draftOf)
  },
  { immediate: true },
)
useUnsaved(
  () => isChanged.value,
  () => 'the list of places',
)

/** What is wrong with the list as it stands, before it is sent. */
const problem = computed(() => {
  const families = new Map(draft.value.flatMap((rule) => (rule.partId === null ? [] : [[rule.partId, rule.partFamilyId] as const])))
  const complete = draft.value.filter((rule) => rule.toPlaceId !== null)
  const names = new Map(
    draft.value.flatMap((rule) => [[rule.toPlaceId, rule.toPlaceName] as const, [rule.fromPlaceId, rule.fromPlaceName ?? ''] as const]),
  )
  try {
    checkNoCircle(
      complete.map((rule) => ({ ...rule, id: rule.key, toPlaceId: rule.toPlaceId ?? '' })),
      families,
    )
    return ''
  } catch (error) {
    if (!(error instanceof CoreError)) throw error
    return `These rules send the same pieces round: ${(error.facts['places'] as string[]).map((id) => names.get(id) ?? '?').join(' → ')}. Narrow one of them down.`
  }
})

function add(): void {
  draft.value.push(newRule())
  chosen.value = draft.value.length - 1
}
function reorder(from: number, to: number): void {
  const [rule] = draft.value.splice(from, 1)
  if (rule) draft.value.splice(to, 0, rule)
  chosen.value = null
  dragged.value = null
}
function takeOut(i: number): void {
  draft.value.splice(i, 1)
  chosen.value = null
}
async function save(): Promise<void> {
  await saver.save(async () => {
    const saved = await call(run.savePutAwayRules, { body: { rules: draft.value.map(inputOf), version: loaded.value?.version ?? 0 } })
    draft.value = saved.rules.map(draftOf)
    put(saved)
    chosen.value = null
    notify(`Saved: ${saved.rules.length} rules, asked in this order.`)
  })
}
async function takeTheirs(): Promise<void> {
  draft.value = []
  await reload()
  draft.value = (loaded.value?.rules ?? []).map(draftOf)
  saver.clear()
}

const part = ref<Pick<Part, 'familyId'> | null>(null)
const piece = reactive<{ partId: string | null; supplierId: string | null; standing: Standing; placeId: string | null }>({
  partId: null,
  supplierId: null,
  standing: 'released',
  placeId: null,
})
const standingItems = (['released', 'onHold', 'quarantined', 'inRework', 'rejected'] as const).map((value) => ({
  value,
  title: standingWords[value],
}))
/** For each rule what keeps it from matching the pieces that are tried; null for one that matches. */
const tried = computed(() => {
  const { partId, ...rest } = piece
  if (partId === null) return null
  const body = { ...rest, partId, familyId: part.value?.familyId ?? null }
  return draft.value.map((rule) => missOf({ ...rule, id: rule.key, toPlaceId: rule.toPlaceId ?? '' }, body))
})
const firstMatch = computed(() => {
  const at = tried.value?.indexOf(null) ?? -1
  return at < 0 ? null : at
})
function triedWords(i: number): string {
  const miss = tried.value?.[i]
  if (miss != null) return ruleMissWords[miss]
  return firstMatch.value === i ? '○ matches' : `comes after rule ${(firstMatch.value ?? 0) + 1}`
}
</script>

<style scoped>
.places {
  min-height: 100%;
  background: var(--sheet);
}
.body {
  padding: 14px 26px 40px;
  max-width: 1080px;
}
header p {
  margin: 2px 0 0;
}
ol {
  list-style: none;
  margin: 14px 0 0;
  padding: 0;
  border-top: 1px solid var(--rule);
}
li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
  border-bottom: 1px solid var(--rule);
  padding: 4px 8px 4px 4px;
  border-left: 4px solid transparent;
}
li.on {
  background: color-mix(in srgb, var(--wash) 55%, transparent);
  border-left-color: var(--indigo);
}
li.match {
  border-left-color: var(--conforming);
}
.number {
  width: 24px;
  text-align: right;
}
.what {
  flex: 1;
  text-align: left;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  cursor: pointer;
  padding: 4px 0;
}
.what b,
.what span {
  display: inline;
  margin-right: 10px;
}
.tool {
  border: 0;
  background: none;
  color: var(--indigo);
  font: 600 14px var(--words);
  cursor: pointer;
  padding: 2px 6px;
}
.tool:disabled {
  color: var(--rule);
  cursor: default;
}
.fields {
  flex: 0 0 100%;
  padding: 6px 34px 12px;
}
section {
  margin-top: 26px;
}
.try {
  margin-top: 8px;
}
.try > * {
  flex: 1;
  min-width: 170px;
}
</style>
