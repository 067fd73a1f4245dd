<template>
  <table class="stages plain" aria-label="Stages of the plan">
    <thead>
      <tr>
        <th>stage</th>
        <th>n, pieces</th>
        <th>Ac</th>
        <th>Re</th>
        <th><span class="sr-only">take it out</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(stage, i) in stages" :key="i">
        <td class="m soft">{{ i + 1 }}</td>
        <td v-for="key in keys" :key="key">
          <TypedInput
            class="m"
            inputmode="numeric"
            :value="stage[key] ?? ''"
            :placeholder="key === 'accept' ? 'none' : ''"
            :readonly="isFixed"
            :aria-label="`stage ${i + 1}, ${key}`"
            @taken="set(i, key, $event)"
          />
        </td>
        <td>
          <TakeOut v-if="!isFixed && stages.length > 1" :name="`stage ${i + 1}`" @click="stages = stages.filter((_, at) => at !== i)" />
        </td>
      </tr>
    </tbody>
  </table>
  <button v-if="!isFixed && stages.length < 10" type="button" class="add" @click="add">Add a stage</button>
</template>

<script setup lang="ts">
import type { Stage } from '@nemawashi/core'
import TakeOut from '../../components/TakeOut.vue'
import TypedInput from '../../components/TypedInput.vue'

/** Own double or multiple plan: pieces that each stage adds, and the numbers that count over all stages so far. */
defineProps<{ isFixed: boolean }>()
const stages = defineModel<readonly Stage[]>({ required: true })
const keys = ['sampleSize', 'accept', 'reject'] as const

function set(at: number, key: (typeof keys)[number], text: string): void {
  const value = text.trim() === '' ? null : Number(text)
  stages.value = stages.value.map((stage, i) => (i === at ? ({ ...stage, [key]: value === null && key !== 'accept' ? 0 : value } as Stage) : stage))
}
function add(): void {
  const last = stages.value.at(-1)
  stages.value = [...stages.value, { sampleSize: last?.sampleSize ?? 20, accept: (last?.accept ?? 0) + 1, reject: (last?.accept ?? 0) + 2 }]
}
</script>

<style scoped>
.stages input {
  width: 56px;
  height: 30px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  text-align: right;
  padding: 0 6px;
}
button {
  border: 0;
  background: none;
  color: var(--indigo);
  cursor: pointer;
}
.add {
  font-weight: 600;
  text-align: left;
  padding: 0;
}
</style>
