<template>
  <EmptyState v-if="waiting !== null" title="Characteristic" :text="waiting" />
  <form v-else class="form stack" @submit.prevent="submit" @focusout="leave">
    <DefinitionHead
      :title="isNew ? 'New characteristic' : `${code} ${fields.name}`"
      :can-change="isEngineer && entity !== null"
      :has-draft="hasDraft"
      :has-released="hasReleased"
      :is-changed="isChanged"
      :is-busy="saver.isBusy.value"
      @release="release"
      @revise="step(define.reviseCharacteristic, 'has a draft')"
      @discard="discard(define.discardCharacteristic)"
      @retire="retire"
    >
      <v-btn
        v-if="isEngineer && entity"
        variant="text"
        size="small"
        data-test="copy"
        :to="{ path: '/define/characteristics/new', query: { copy: id } }"
        >Copy</v-btn
      >
    </DefinitionHead>
    <RevisionBar v-if="entity" :revisions="entity.revisions" :shown-id="shown?.id ?? null" @choose="chosen = $event" />
    <ErrorNote :failure="failure ?? saver.note.value" />

    <div class="row top">
      <v-text-field
        v-if="isNew"
        v-model="code"
        v-first-focus
        label="Code"
        style="max-width: 160px"
        :error-messages="errors['code']"
        aria-required="true"
        data-field="code"
      />
      <v-text-field
        v-model="fields.name"
        label="Name"
        class="grow"
        :error-messages="errors['name']"
        :readonly="isFixed"
        aria-required="true"
        data-field="name"
      />
      <v-select v-model="fields.class" label="Class" :items="classes" style="max-width: 140px" :readonly="isFixed" data-field="class" />
    </div>
    <v-radio-group v-if="!isFixed" v-model="fields.kind" inline label="Answered by" data-field="kind">
      <v-radio v-for="(words, value) in kindWords" :key="value" :value="value" :label="words" />
    </v-radio-group>
    <p v-else class="soft small">Answered by {{ kindWords[fields.kind] }}.</p>

    <MeasuredFields v-if="fields.kind === 'measured'" :key="shown?.id ?? 'new'" v-model="fields" :is-fixed="isFixed" :errors="errors" />
    <v-textarea
      v-else-if="fields.kind === 'judged'"
      v-model="fields.acceptableState"
      label="Acceptable state, in words"
      :error-messages="errors['acceptableState']"
      :readonly="isFixed"
      aria-required="true"
      data-field="acceptableState"
    />
    <CodedFields v-else-if="fields.kind === 'coded'" v-model="fields.details" :is-fixed="isFixed" :errors="errors" />
    <CountedFields v-else-if="fields.kind === 'counted'" v-model="fields.details" :is-fixed="isFixed" :errors="errors" />
    <v-select
      v-else
      v-model="fields.details.noteType"
      label="What is noted"
      :items="Object.entries(noteWords).map(([value, title]) => ({ title, value }))"
      :error-messages="errors['noteType']"
      :readonly="isFixed"
      data-field="noteType"
      style="max-width: 360px"
    />

    <div class="row wide">
      <v-text-field v-model="fields.method" label="Method" :readonly="isFixed" data-field="method" />
      <v-combobox v-model="fields.details.gaugeKind" :items="gaugeKinds" label="Kind of gauge" :readonly="isFixed" data-field="gaugeKind" />
      <v-number-input
        v-model="fields.details.minutesPerPiece"
        label="Minutes a piece"
        control-variant="hidden"
        variant="outlined"
        density="compact"
        hide-details
        :precision="null"
        :min="0"
        :readonly="isFixed"
        data-field="minutesPerPiece"
        style="max-width: 150px"
      />
    </div>
    <RichEditor v-model="fields.instruction" label="Instruction for the inspector" field="instruction" :is-fixed="isFixed" />
    <div class="row wide">
      <v-text-field v-model="fields.details.adviceOnFailure" label="Advice when it fails" :readonly="isFixed" data-field="adviceOnFailure" />
      <v-text-field
        v-model="fields.details.responsible"
        label="Who is responsible"
        :readonly="isFixed"
        data-field="responsible"
        style="max-width: 240px"
      />
    </div>
    <v-checkbox
      v-if="fields.kind === 'measured'"
      v-model="fields.details.isAdaptable"
      label="a plan may set its own target and limits on a line"
      :disabled="isFixed"
      hide-details
      data-field="isAdaptable"
    />
    <DocumentList v-model="fields.details.documentIds" :is-fixed="isFixed" />
    <div v-if="isEngineer && !isFixed" class="row">
      <v-btn type="submit" color="primary" :loading="saver.isBusy.value" :disabled="!isChanged">{{
        isNew ? 'Save as draft' : 'Save the draft'
      }}</v-btn>
      <v-btn v-if="isChanged && !isNew" variant="text" @click="reset">Undo changes</v-btn>
    </div>
    <p v-if="entity && hasDraft" class="small" data-test="before-release"><b>Before the release:</b> {{ releaseWords(entity) }}</p>
    <RevisionCompare
      v-if="entity && shown && entity.revisions.length > 1"
      :key="shown.id"
      :left="shown"
      :revisions="entity.revisions"
      :words-of="revisionWords"
    />
    <UsesPanel v-if="entity" :uses="entity.uses" :unit="fields.unit" />
    <StaleChange
      v-if="saver.isStale.value && saver.failure.value && theirs"
      :failure="saver.failure.value"
      :rows="compared"
      @keep="keepMine"
      @take="takeTheirs"
    />
  </form>
</template>

<script setup lang="ts">
import { vFirstFocus } from '../../shell/firstFocus'
import { type Characteristic, type CharacteristicFields, define, noDetails } from '@nemawashi/contract'
import { computed, onMounted, ref } from 'vue'
import { useThing } from '../../shell/queries'
import { useRoute } from 'vue-router'
import { call } from '../../shell/api'
import { useCrumbs } from '../../shell/crumbs'
import EmptyState from '../../components/EmptyState.vue'
import ErrorNote from '../../components/ErrorNote.vue'
import RichEditor from '../../components/RichEditor.vue'
import StaleChange from '../../components/StaleChange.vue'
import { useTyped } from '../../composables/useTyped'
import { kindWords, noteWords, releaseWords, revisionWords, usesWords } from './characteristicWords'
import CodedFields from './CodedFields.vue'
import CountedFields from './CountedFields.vue'
import DefinitionHead from '../revisions/DefinitionHead.vue'
import DocumentList from './DocumentList.vue'
import MeasuredFields from './MeasuredFields.vue'
import RevisionBar from '../revisions/RevisionBar.vue'
import RevisionCompare from '../revisions/RevisionCompare.vue'
import { useDefinition } from '../revisions/useDefinition'
import UsesPanel from './UsesPanel.vue'

/** Defines a characteristic of any kind; the form shows what belongs to the kind, where it is asked for, and what its release means. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ saved: [id: string] }>()

const blank: CharacteristicFields = {
  name: '',
  kind: 'measured',
  class: 'major',
  method: '',
  instruction: '',
  nominal: null,
  lower: null,
  upper: null,
  unit: 'mm',
  resolution: '0.01',
  acceptableState: null,
  details: noDetails,
}
function fieldsOf(revision: CharacteristicFields | null): CharacteristicFields {
  if (!revision) return structuredClone(blank)
  return Object.fromEntries(Object.keys(blank).map((key) => [key, revision[key as keyof CharacteristicFields]])) as CharacteristicFields
}
const {
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
  edited: fields,
  isChanged,
  reset,
  submit,
  step,
  discard,
  keepMine,
  takeTheirs,
} = useDefinition<Characteristic, CharacteristicFields>({
  id,
  load: () => call(define.getCharacteristic, { params: { id } }),
  create: (newCode) => call(define.createCharacteristic, { body: { code: newCode, ...bodyOf() } }),
  update: (version) => call(define.updateCharacteristic, { params: { id }, body: { ...bodyOf(), version } }),
  editedOf: (_characteristic, revision) => fieldsOf(revision as CharacteristicFields | null),
  saved: (savedId) => emit('saved', savedId),
})
const { errors, leave } = useTyped(
  saver,
  () => (isNew ? define.createCharacteristic : define.updateCharacteristic).body,
  () => (isNew ? { code: code.value, ...bodyOf() } : { ...bodyOf(), version: entity.value?.version ?? 1 }),
)
const release = () =>
  step(define.releaseCharacteristic, 'released', {
    title: `Release ${code.value}?`,
    text: `${entity.value ? releaseWords(entity.value) : ''} What is released is not edited any more; a change is a new revision.`,
    yes: 'Release',
    isForward: true,
  })
const retire = () =>
  step(define.retireCharacteristic, 'retired', {
    title: `Retire ${code.value}?`,
    text: `No plan can take it any more. ${entity.value ? usesWords(entity.value) : ''} Inspections that are open go on.`,
    yes: 'Retire it',
  })
const kept = ref<string[]>(['critical', 'major', 'minor'])
/** Kinds of gauges that the plant keeps; what is not among them is typed. */
const { data: kinds } = useThing(define.gaugeKinds.list, { query: { limit: 200 } })
const gaugeKinds = computed(() =>
  ((kinds.value?.rows ?? []) as { code: string; isActive: boolean }[]).filter((kind) => kind.isActive).map(({ code }) => code),
)
const classes = computed(() => [...new Set([...kept.value, fields.value.class])])
onMounted(async () => {
  const { rows } = (await call(define.classes.list, { query: { limit: 200 } })) as { rows: { code: string; isActive: boolean }[] }
  kept.value = rows.flatMap(({ code: known, isActive }) => (isActive ? [known] : []))
})
useCrumbs(() => [
  { words: 'Define', to: '/define' },
  { words: 'Characteristics', to: '/define/characteristics' },
  { words: isNew ? 'New' : code.value },
])
/** A copy begins with what the copied one says, under a code of its own. */
const route = useRoute()
onMounted(async () => {
  const from = route.query['copy']
  if (!isNew || typeof from !== 'string') return
  const { revisions } = await call(define.getCharacteristic, { params: { id: from } })
  const revision = revisions.find((entry) => entry.state === 'released') ?? revisions[0]
  if (revision) fields.value = { ...fieldsOf(revision), name: `${revision.name}, copy` }
})

function bodyOf(): CharacteristicFields {
  const empty = (text: string | null) => (text === null || text.trim() === '' ? null : text.trim())
  const { nominal, lower, upper, resolution, acceptableState } = fields.value
  return {
    ...fields.value,
    nominal: empty(nominal),
    lower: empty(lower),
    upper: empty(upper),
    resolution: empty(resolution),
    acceptableState: empty(acceptableState),
  }
}
const compared = computed(() => {
  const other = theirs.value?.revisions[0]
  const says = other ? revisionWords(other) : []
  return revisionWords(fields.value).map(({ label, words }, i) => ({ label, mine: words, theirs: says[i]?.words ?? '' }))
})
</script>

<style scoped>
.form {
  padding: 20px 28px 40px;
  max-width: 820px;
}
.wide > * {
  flex: 1;
}
:deep(.v-radio) {
  margin-right: 14px;
}
</style>
