<template>
  <fieldset>
    <legend>Routing, receiving first, shipping last</legend>
    <ol>
      <li v-for="(id, i) in model" :key="id">
        <span class="m soft">{{ i + 1 }}</span>
        <span class="grow">{{ nameOf(id) }}</span>
        <button type="button" :disabled="isDisabled || i === 0" :aria-label="`Move ${nameOf(id)} up`" @click="move(i, -1)">↑</button>
        <button type="button" :disabled="isDisabled || i === model.length - 1" :aria-label="`Move ${nameOf(id)} down`" @click="move(i, 1)">↓</button>
        <TakeOut :disabled="isDisabled" :name="nameOf(id)" @click="model = model.filter((_, at) => at !== i)" />
      </li>
    </ol>
    <v-select
      v-if="!isDisabled"
      v-model="added"
      label="Add an operation"
      :items="free"
      item-title="name"
      item-value="id"
      data-field="addOperation"
      @update:model-value="add"
    />
    <p v-if="error" class="nonconforming small" role="alert">{{ error }}</p>
  </fieldset>
</template>

<script setup lang="ts">
import { type Operation, define } from '@nemawashi/contract'
import { computed, nextTick, onMounted, ref } from 'vue'
import { call } from '../../shell/api'
import TakeOut from '../../components/TakeOut.vue'

/** A part's operations in order. */
const model = defineModel<string[]>({ required: true })
defineProps<{ error: string | undefined; isDisabled: boolean }>()

const operations = ref<Operation[]>([])
const added = ref<string | null>(null)
const nameOf = (id: string) => operations.value.find((operation) => operation.id === id)?.name ?? '…'
const free = computed(() => operations.value.filter((operation) => !model.value.includes(operation.id)))
onMounted(async () => {
  operations.value = (await call(define.operations.list, { query: { limit: 200 } })).rows as Operation[]
})

function move(at: number, by: number): void {
  const order = [...model.value]
  const [id] = order.splice(at, 1)
  if (id) order.splice(at + by, 0, id)
  model.value = order
}
async function add(id: string | null): Promise<void> {
  if (id) model.value = [...model.value, id]
  await nextTick()
  added.value = null
}
</script>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
}
legend {
  color: var(--soft);
  margin-bottom: 4px;
}
ol {
  list-style: none;
  padding: 0;
  margin: 0 0 8px;
}
li {
  display: flex;
  gap: 10px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  padding: 4px 0;
}
button {
  border: 0;
  background: none;
  color: var(--indigo);
  padding: 2px 6px;
  cursor: pointer;
}
button:disabled {
  color: var(--rule);
}
</style>
