<template>
  <p class="small inspector">
    <label
      >Inspected by
      <select v-model="model" data-field="inspected-by">
        <option :value="null">you</option>
        <option v-for="person in others" :key="person.id" :value="person.id">{{ person.name }}</option>
      </select></label
    >
    <span v-if="model !== null" class="marginal" data-test="typed-for">You type what another inspected; both are kept.</span>
  </p>
</template>

<script setup lang="ts">
import { people, recordersOf } from '@nemawashi/contract'
import { computed } from 'vue'
import { useThing } from '../../shell/queries'
import { useSession } from '../../shell/session'

/** Who inspects, where that is another than who types; null: who types. */
const model = defineModel<string | null>({ required: true })
const session = useSession()
const { data } = useThing(people.listPeople, () => ({ query: { limit: 200, sort: 'name', dir: 'asc' as const } }))
const others = computed(() =>
  (data.value?.rows ?? []).filter(
    ({ id, isActive, roles }) => isActive && id !== session.person?.id && recordersOf(null).some((role) => roles.includes(role)),
  ),
)
</script>

<style scoped>
.inspector {
  margin: 0;
  display: flex;
  flex-direction: column;
  gap: 2px;
}
select {
  min-height: 32px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  padding: 0 6px;
  margin-left: 4px;
}
@media (max-width: 1023px) {
  select {
    min-height: 44px;
  }
}
</style>
