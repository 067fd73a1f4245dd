<template>
  <v-autocomplete
    v-model="model"
    :items="choices"
    item-title="name"
    item-value="id"
    :label="label"
    multiple
    chips
    closable-chips
    clear-on-select
    :disabled="isDisabled"
    :data-field="field"
  />
</template>

<script setup lang="ts">
import { people } from '@nemawashi/contract'
import { computed } from 'vue'
import { useThing } from '../shell/queries'

/** Chooses people by their names: those who are still here, and those who are chosen already. */
defineProps<{ label: string; field: string; isDisabled: boolean }>()
const model = defineModel<string[]>({ required: true })
const { data } = useThing(people.listPeople, () => ({ query: { limit: 200, sort: 'name', dir: 'asc' as const } }))
const choices = computed(() => (data.value?.rows ?? []).filter(({ id, isActive }) => isActive || model.value.includes(id)))
</script>
