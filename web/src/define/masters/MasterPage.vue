<template>
  <SheetSplit :list-words="kind.title">
    <template #nav><DefineNav :current="path" /></template>
    <template #list>
      <DataList
        ref="list"
        :key="path"
        :name="path"
        :endpoint="kind.area.list"
        :columns="kind.columns"
        :title="kind.title"
        :selected-id="id"
        :empty-text="kind.emptyText"
        :to="(row: { id: string }) => ({ path: `/define/${path}/${row.id}`, query: route.query })"
        @rows="isFirst = $event.length === 0 && !route.query['q']"
      >
        <template #head
          ><v-btn v-if="isEngineer" color="primary" variant="outlined" size="small" data-test="new" @click="begin"
            >New {{ kind.one }}</v-btn
          ></template
        >
      </DataList>
    </template>
    <form v-if="form" v-first-focus="isNew" class="form stack" @submit.prevent="submit" @focusout="leave">
      <h1>{{ isNew ? `New ${kind.one}` : `${form['code']} ${form['name']}` }}</h1>
      <ErrorNote :failure="saver.note.value" />
      <template v-for="field in kind.fields" :key="`${path} ${field.key}`">
        <v-text-field
          v-if="field.kind === 'text'"
          v-model="form[field.key] as string"
          :label="field.label"
          :hint="field.hint"
          :persistent-hint="Boolean(field.hint)"
          :aria-required="needed.has(field.key)"
          :error-messages="errors[field.key]"
          :readonly="!isEngineer"
          :data-field="field.key"
        />
        <v-text-field
          v-else-if="field.kind === 'maybeText'"
          :model-value="(form[field.key] as string | null) ?? ''"
          :label="field.label"
          :hint="field.hint"
          persistent-hint
          :error-messages="errors[field.key]"
          :readonly="!isEngineer"
          :data-field="field.key"
          @update:model-value="form[field.key] = $event || null"
        />
        <v-text-field
          v-else-if="field.kind === 'whole'"
          :model-value="(form[field.key] as number | null) ?? ''"
          :label="field.label"
          inputmode="numeric"
          :hint="field.hint"
          persistent-hint
          :error-messages="errors[field.key]"
          :readonly="!isEngineer"
          :data-field="field.key"
          @update:model-value="form[field.key] = $event === '' || $event === null ? null : Number($event)"
        />
        <QuantityField
          v-else-if="field.kind === 'quantity'"
          v-model="form[field.key] as number | null"
          :unit="String(form['unit'])"
          :label="`${field.label}, ${stockUnitOf(String(form['unit'])).symbol}`"
          :error-messages="errors[field.key]"
          :readonly="!isEngineer"
          :data-field="field.key"
        />
        <v-select
          v-else-if="field.kind === 'choice'"
          v-model="form[field.key] as string"
          :label="field.label"
          :items="(field.choices ?? []).map((value) => ({ value, title: field.meaning?.[value] ?? value }))"
          :error-messages="errors[field.key]"
          :readonly="!isEngineer"
          :data-field="field.key"
        />
        <v-checkbox
          v-else-if="field.kind === 'flag'"
          v-model="form[field.key] as boolean"
          :label="field.label"
          :disabled="!isEngineer"
          :data-field="field.key"
        />
        <PickOne
          v-else-if="field.kind === 'family'"
          v-model="form[field.key] as string | null"
          :endpoint="define.families.list"
          label="Family"
          is-clearable
          :error="errors[field.key]"
          :is-disabled="!isEngineer"
          :field="field.key"
        />
        <PickOne
          v-else-if="field.kind === 'place'"
          v-model="form[field.key] as string | null"
          :endpoint="define.places.list"
          label="Put away to"
          is-clearable
          :filter="isStore"
          :error="errors[field.key]"
          :is-disabled="!isEngineer"
          :field="field.key"
        />
        <template v-else-if="field.kind === 'answers'">
          <AnswerRows v-model="form[field.key] as ListAnswer[]" :is-fixed="!isEngineer" />
          <v-btn v-if="isEngineer" variant="outlined" size="small" data-test="add-answer" @click="addAnswer(form[field.key] as ListAnswer[])"
            >Add an answer</v-btn
          >
          <p v-if="errors[field.key]" class="nonconforming small" role="alert">{{ errors[field.key] }}</p>
        </template>
        <RoutingEditor v-else v-model="form[field.key] as string[]" :error="errors[field.key]" :is-disabled="!isEngineer" />
      </template>
      <component :is="kind.example" v-if="kind.example" :form="form" />
      <div v-if="isEngineer" class="row">
        <v-btn type="submit" color="primary" :loading="saver.isBusy.value" :disabled="!isChanged">Save</v-btn>
        <v-btn v-if="isChanged" variant="text" @click="undo">Undo changes</v-btn>
        <router-link v-if="path === 'parts' && !isNew" :to="`/attach/${id}`" class="end">Control points of this part</router-link>
      </div>
      <StaleChange
        v-if="saver.isStale.value && saver.failure.value && theirs"
        :failure="saver.failure.value"
        :rows="compared"
        @keep="keepMine"
        @take="takeTheirs"
      />
    </form>
    <EmptyState
      v-else
      :title="kind.title"
      :text="id ? (failure?.message ?? 'Loading …') : `Choose one from the list${isEngineer ? ', or make a new one' : ''}.`"
    />
  </SheetSplit>
</template>

<script setup lang="ts">
import { stockUnitOf } from '@nemawashi/core'
import { type ListAnswer, type Place, define } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { askFor } from '../../shell/api'
import { useCrumbs } from '../../shell/crumbs'
import { vFirstFocus } from '../../shell/firstFocus'
import { useKeys } from '../../shell/keys'
import { notify } from '../../shell/notify'
import { useThing } from '../../shell/queries'
import { useUnsaved } from '../../shell/unsaved'
import { useEdited } from '../../shell/useEdited'
import { useSession } from '../../shell/session'
import DataList from '../../components/DataList.vue'
import EmptyState from '../../components/EmptyState.vue'
import ErrorNote from '../../components/ErrorNote.vue'
import PickOne from '../../components/PickOne.vue'
import QuantityField from '../../components/QuantityField.vue'
import SheetSplit from '../../components/SheetSplit.vue'
import StaleChange from '../../components/StaleChange.vue'
import { useSaver } from '../../composables/useSaver'
import { useTheirs } from '../../composables/useTheirs'
import { useTyped } from '../../composables/useTyped'
import AnswerRows from '../library/AnswerRows.vue'
import DefineNav from '../DefineNav.vue'
import { masterKinds, type MasterKind } from './masterKinds'
import RoutingEditor from './RoutingEditor.vue'

/** List and form of one kind of master data: parts, families, partners, places, operations, and the words that the user keeps. */
type Form = Record<string, unknown>
const route = useRoute()
const router = useRouter()
const { isEngineer } = useSession()
const saver = useSaver()
const list = ref<{ reload: () => Promise<void> }>()

const path = computed(() => String(route.params['kind']))
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))
/** On the way to another page the address has none any more, and this one is still there. */
const kind = computed<MasterKind>((was) => masterKinds[path.value] ?? (was as MasterKind))
const isNew = computed(() => id.value === 'new')
const address = computed(() => (id.value === null ? null : `${path.value}/${id.value}`))
const {
  data: row,
  failure,
  put,
} = useThing(
  () => kind.value.area.get,
  () => (id.value === null || isNew.value ? null : { params: { id: id.value } }),
)
/** The plant has none of the kind yet: the first place is where things arrive, the first operation takes them in. */
const isFirst = ref(false)
function blank(): Form {
  return Object.fromEntries(kind.value.fields.map(({ key, initial, first }) => [key, structuredClone(isFirst.value ? (first ?? initial) : initial)]))
}
const {
  edited: form,
  isChanged,
  show,
  undo: takeBack,
} = useEdited<Form>(
  () => address.value,
  computed(() => row.value as Form | undefined),
  blank,
)
/** What a new one is refused without. */
const needed = computed(() => new Set(kind.value.area.create.body?.safeParse(blank()).error?.issues.map(({ path: [key] }) => key)))
watch(isFirst, () => {
  if (!isNew.value || !form.value) return
  for (const { key, initial, first } of kind.value.fields) if (first !== undefined && form.value[key] === initial) form.value[key] = first
})
const { theirs, keepMine, takeTheirs } = useTheirs(saver, { edited: form, show }, submit)
const isStore = (row: Place) => row.purpose === 'store'
useCrumbs(() => [
  { words: 'Define', to: '/define' },
  { words: kind.value.title, to: `/define/${path.value}` },
  ...(form.value ? [{ words: isNew.value ? 'New' : String(form.value['code']) }] : []),
])

const bodyOf = () => {
  const { id: _, ...body } = form.value as Form
  return body
}
const { errors, leave, forget } = useTyped(saver, () => kind.value.area[isNew.value ? 'create' : 'update'].body, bodyOf)

async function fetchRow(rowId: string): Promise<Form> {
  return askFor<Form>(kind.value.area.get, { params: { id: rowId } })
}
watch(address, () => {
  saver.clear()
  forget()
  theirs.value = null
})
useUnsaved(
  () => isChanged.value,
  () => (isNew.value ? `the new ${kind.value.one}` : `${String(form.value?.['code'])} ${String(form.value?.['name'])}`),
)

function addAnswer(answers: ListAnswer[]): void {
  const code = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'].find((letter) => !answers.some((answer) => answer.code === letter)) ?? ''
  answers.push({ code, words: '', verdict: answers.length === 0 ? 'conforming' : 'nonconforming', followUpPlanId: null })
}
async function begin(): Promise<void> {
  await router.push(`/define/${path.value}/new`)
}
async function submit(): Promise<void> {
  const wanted = id.value
  const done = await saver.save(async () => {
    const body = bodyOf()
    const { create, update } = kind.value.area
    const saved = isNew.value ? await askFor<Form>(create, { body }) : await askFor<Form>(update, { params: { id: wanted }, body })
    show(saved)
    put(saved as Parameters<typeof put>[0], { params: { id: String(saved['id']) } })
    await list.value?.reload()
    if (isNew.value) await router.replace(`/define/${path.value}/${String(saved['id'])}`)
    notify(`Saved ${String(saved['code'])}.`)
  })
  if (!done && saver.isStale.value && wanted) theirs.value = await fetchRow(wanted)
}
function undo(): void {
  takeBack()
  saver.clear()
}

const compared = computed(() =>
  kind.value.fields.map(({ key, label }) => ({ label, mine: words(form.value?.[key]), theirs: words(theirs.value?.[key]) })),
)
function words(value: unknown): string {
  return Array.isArray(value)
    ? `${value.length}: ${value.map((step) => (typeof step === 'string' ? step.slice(-4) : `${(step as ListAnswer).code} ${(step as ListAnswer).words}`)).join(', ')}`
    : value === null || value === undefined
      ? ''
      : String(value)
}
useKeys([{ key: 'N', words: `new one`, run: () => void begin() }])
</script>

<style scoped>
.form {
  padding: 20px 28px 40px;
  max-width: 620px;
}
.end {
  margin-left: auto;
}
</style>
