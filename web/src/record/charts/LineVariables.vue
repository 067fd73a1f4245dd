<template>
  <section v-if="state" class="variables" aria-label="By variables so far">
    <svg v-if="curve" :width="width" :height="height" :viewBox="`0 0 ${width} ${height}`" aria-hidden="true">
      <path v-for="(area, i) in curve.outside" :key="i" :d="area" class="outside" />
      <path :d="curve.line" class="bell" />
      <line v-for="x in curve.limits" :key="x" :x1="x" :x2="x" y1="4" :y2="height" class="limit" />
      <line :x1="curve.mean" :x2="curve.mean" y1="14" :y2="height" class="mean" />
    </svg>
    <p class="small" data-test="variables">{{ state.words }}</p>
  </section>
</template>

<script setup lang="ts">
import type { InspectionLine } from '@nemawashi/contract'
import { CoreError, describeVariablesSoFar, judgeVariables, summariseValues } from '@nemawashi/core'
import { computed } from 'vue'
import { bellCurve } from './bellCurve'

/** What the values so far say of the lot by variables, on a small picture of their distribution against the limits; it moves with every value. */
const { line, numbers } = defineProps<{ line: InspectionLine; numbers: readonly number[] }>()
const width = 480
const height = 64

const limitOf = (text: string | null) => (text === null ? null : Number(text))
const limits = computed(() => ({ lower: limitOf(line.lower), upper: limitOf(line.upper) }))
const state = computed(() => {
  if (!line.variables || numbers.length === 0) return null
  try {
    const summary = summariseValues(numbers)
    const facts = judgeVariables(line.variables, limits.value, summary)
    const places = (line.resolution?.split('.')[1]?.length ?? 2) + 1
    return { words: describeVariablesSoFar(facts, summary.count, line.variables.sampleSize, line.unit ?? '', places), facts }
  } catch (error) {
    if (error instanceof CoreError) return { words: `By variables so far: ${error.message}`, facts: null }
    throw error
  }
})
const curve = computed(() => (state.value?.facts ? bellCurve(state.value.facts, limits.value, width, height) : null))
</script>

<style scoped>
.variables p {
  margin: 4px 0 0;
}
svg {
  display: block;
  max-width: 100%;
  border-bottom: 1px solid var(--rule);
}
.bell {
  fill: none;
  stroke: var(--indigo);
  stroke-width: 2;
}
.outside {
  fill: var(--nonconforming);
  opacity: 0.5;
}
.limit {
  stroke: var(--conforming);
  stroke-width: 2;
}
.mean {
  stroke: var(--indigo);
  stroke-dasharray: 3 3;
}
</style>
