<template>
  <form class="summary" :aria-label="`${line.name}, summary`" @submit.prevent="keep" @keydown="moveOut">
    <label v-for="{ key, words } in entries" :key="key"
      ><span class="small soft">{{ words }}</span
      ><input
        :ref="(element) => key === 'count' && (first = element as HTMLInputElement)"
        v-model="figures[key]"
        class="m"
        inputmode="decimal"
        autocomplete="off"
        :data-figure="key"
      />
    </label>
    <button type="submit">Keep</button>
  </form>
</template>

<script setup lang="ts">
import type { InspectionLine } from '@nemawashi/contract'
import { parseDecimal, parseSummary, summaryText } from '@nemawashi/core'
import { reactive, ref, watch } from 'vue'
import type { Answer } from './cells'

/** Readings of many pieces as six figures; whether they can belong together is checked when they are kept. */
const { line, current } = defineProps<{ line: InspectionLine; current: Answer | null }>()
const emit = defineEmits<{ answer: [text: string]; key: [event: KeyboardEvent] }>()
const first = ref<HTMLInputElement>()
defineExpose({ focus: () => first.value?.focus() })
const entries = [
  { key: 'count', words: 'pieces' },
  { key: 'mean', words: 'mean' },
  { key: 'deviation', words: 'standard deviation' },
  { key: 'smallest', words: 'smallest' },
  { key: 'largest', words: 'largest' },
  { key: 'nonconforming', words: 'nonconforming' },
] as const
const figures = reactive<Record<(typeof entries)[number]['key'], string>>({
  count: '',
  mean: '',
  deviation: '',
  smallest: '',
  largest: '',
  nonconforming: '0',
})
watch(
  () => current?.value,
  (kept) => {
    figures.count = String(line.sampleSize)
    if (!kept) return
    const summary = parseSummary(kept)
    Object.assign(figures, {
      ...summary,
      count: String(summary.count),
      deviation: summary.deviation ?? '',
      nonconforming: String(summary.nonconforming),
    })
  },
  { immediate: true },
)
function keep(): void {
  const decimal = (text: string) => {
    try {
      return parseDecimal(text)
    } catch {
      return text
    }
  }
  const { count, mean, deviation, smallest, largest, nonconforming } = figures
  emit(
    'answer',
    summaryText({
      count: Number(count),
      mean: decimal(mean),
      deviation: deviation.trim() === '' ? null : decimal(deviation),
      smallest: decimal(smallest),
      largest: decimal(largest),
      nonconforming: Number(nonconforming),
    }),
  )
}
function moveOut(event: KeyboardEvent): void {
  if (event.key === 'PageDown' || event.key === 'PageUp') emit('key', event)
}
</script>

<style scoped>
.summary {
  display: grid;
  grid-template-columns: repeat(3, 112px) auto;
  gap: 6px 10px;
  align-items: end;
}
label {
  display: grid;
}
input {
  height: 36px;
  border: 1px solid var(--indigo);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  text-align: right;
  padding: 0 8px;
}
button {
  grid-row: 2;
  grid-column: 4;
  height: 36px;
  padding: 0 14px;
  border: 0;
  border-radius: 4px;
  background: var(--indigo);
  color: var(--sheet);
  cursor: pointer;
}
</style>
