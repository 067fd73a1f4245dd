<template>
  <div class="narrow">
    <select
      v-for="field in fields"
      :key="field.key"
      :value="route.query[field.key] ?? ''"
      :aria-label="field.label"
      :class="{ on: route.query[field.key] }"
      :data-test="`narrow-${field.key}`"
      @change="narrow(field.key, $event)"
    >
      <option value="">{{ field.all }}</option>
      <option v-for="choice in field.choices" :key="choice.value" :value="choice.value">{{ choice.words }}</option>
    </select>
  </div>
</template>

<script setup lang="ts">
import { type Family, define } from '@nemawashi/contract'
import { characteristicKinds } from '@nemawashi/core'
import { computed, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../../shell/api'

/** Narrows the library by kind, state, and the family of the parts that ask for a characteristic. Kept in the address. */
const route = useRoute()
const router = useRouter()
const families = ref<readonly Family[]>([])
onMounted(async () => {
  families.value = ((await call(define.families.list, { query: { limit: 200 } })) as { rows: Family[] }).rows
})
const fields = computed(() => [
  {
    key: 'kind',
    label: 'Kind of answer',
    all: 'Every kind',
    choices: characteristicKinds.map((value) => ({ value, words: value })),
  },
  { key: 'state', label: 'State', all: 'Every state', choices: ['draft', 'released', 'retired'].map((value) => ({ value, words: value })) },
  {
    key: 'familyId',
    label: 'Family of parts',
    all: 'Parts of every family',
    choices: families.value.map(({ id, name }) => ({ value: id, words: name })),
  },
])
function narrow(key: string, { target }: Event): void {
  void router.replace({ query: { ...route.query, [key]: (target as HTMLSelectElement).value || undefined } })
}
</script>

<style scoped>
.narrow {
  display: flex;
  gap: 10px;
  padding: 0 16px 8px;
}
select {
  min-width: 0;
  padding: 2px 0;
  color: var(--soft);
  font: 13px var(--words);
  background: var(--paper);
  border: 0;
  border-bottom: 1px solid var(--rule);
}
select.on {
  color: var(--ink);
  font-weight: 600;
}
</style>
