<template>
  <v-autocomplete
    v-model="model"
    v-model:search="words"
    :menu="isOpen"
    :items="items"
    :label="label"
    :loading="isLoading"
    :clearable="isClearable"
    :error-messages="error ? [error] : []"
    :hint="hint"
    :persistent-hint="Boolean(hint)"
    :disabled="isDisabled"
    :aria-required="isNeeded"
    :data-field="field"
    :no-data-text="isLoading ? 'Looking …' : words ? `Nothing found for ${words}` : 'Nothing there to choose'"
    item-title="title"
    item-value="value"
    no-filter
    @update:menu="isOpen = $event && isAsked"
    @pointerdown.capture="isAsked = true"
    @keydown.capture="isAsked = true"
    @input.capture="isAsked = true"
    @blur="isAsked = false"
  >
    <template #loader="{ isActive }">
      <v-progress-linear :active="isActive" :aria-label="`Looking for: ${label}`" absolute height="2" indeterminate />
    </template>
  </v-autocomplete>
</template>

<script setup lang="ts" generic="Row extends { id: string; code?: string; name?: string }">
import type { ListEndpoint, ListPage } from '@nemawashi/contract'
import { ref, watch } from 'vue'
import { useLatest } from '../shell/useLatest'
import { askFor } from '../shell/api'

/** Chooses one row of a list of the server by typing a part of its code or name. */
const {
  endpoint,
  label,
  query = {},
  initial = null,
  isClearable = false,
  isNeeded = false,
  error = '',
  hint = '',
  isDisabled = false,
  filter = () => true,
  titleOf = (row: Row) => (row.code ? `${row.code} · ${row.name ?? ''}` : (row.name ?? '')),
  field,
} = defineProps<{
  endpoint: ListEndpoint<Row>
  label: string
  query?: Record<string, string>
  initial?: { id: string; title: string } | null
  isClearable?: boolean
  /** Whether it has to be chosen: it is marked so. */
  isNeeded?: boolean
  error?: string | undefined
  hint?: string | undefined
  isDisabled?: boolean
  filter?: (row: Row) => boolean
  /** How a row is called where it is chosen: by its code and name, unless it has other words. */
  titleOf?: (row: Row) => string
  field?: string
}>()
const model = defineModel<string | null>({ required: true })
const emit = defineEmits<{ chosen: [row: Row | null] }>()

const words = ref('')
/** What is chosen and not read yet: no number of a row is shown meanwhile. */
const unread = '…'
const items = ref<{ title: string; value: string }[]>(
  initial ? [{ title: initial.title, value: initial.id }] : model.value ? [{ title: unread, value: model.value }] : [],
)
const rows = new Map<string, Row>()
/** What can be chosen shows when somebody does something in the field, not when the cursor stands in it as its rows arrive. */
const isOpen = ref(false)
const isAsked = ref(false)

const { ask, isWaiting: isLoading } = useLatest()
async function load(q: string): Promise<void> {
  const page = await ask((signal) => askFor<ListPage<Row>>(endpoint, { query: { ...query, ...(q === '' ? {} : { q }), limit: 50 } }, { signal }))
  if (page === null) return
  for (const row of page.rows) rows.set(row.id, row)
  const found = page.rows.filter((row) => filter(row)).map((row) => ({ title: titleOf(row), value: row.id }))
  const kept = items.value.find((item) => item.value === model.value && item.title !== unread)
  items.value = kept && !found.some((item) => item.value === kept.value) ? [kept, ...found] : found
  if (model.value && !items.value.some((item) => item.value === model.value)) {
    const chosen = rows.get(model.value)
    items.value.unshift({ value: model.value, title: chosen ? titleOf(chosen) : unread })
  }
}
watch(
  words,
  (value) => {
    const isChosen = items.value.some((item) => item.title === value)
    void load(isChosen ? '' : (value ?? '').replaceAll('·', ' '))
  },
  { immediate: true },
)
watch(model, (value) => emit('chosen', value ? (rows.get(value) ?? null) : null))
</script>
