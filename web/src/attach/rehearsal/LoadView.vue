<template>
  <div class="stack">
    <v-progress-linear v-if="done !== null" :model-value="100 * done" color="primary" aria-label="Playing the past" />
    <p v-if="problem" class="nonconforming" role="alert">{{ problem }}</p>
    <template v-if="first">
      <p class="sentence" data-test="past-load"><slot /></p>
      <div v-if="hasAny" class="row measures" role="group" aria-label="What the chart counts">
        <button v-for="entry in measures" :key="entry" type="button" :aria-pressed="measure === entry" @click="measure = entry">
          {{ entry }}
        </button>
      </div>
      <LoadChart v-if="hasAny" :before="first.weeks" :after="played[1]?.weeks ?? null" :measure="measure" :caption="`${measure} by week`" />
      <p v-if="range" class="soft small" data-test="by-chance">
        Some of it is drawn by chance: another time like it brings between {{ whole(range[0]) }} and {{ whole(range[1]) }} inspections, 19 times of
        20.
      </p>
      <p v-if="last?.restsOnFindings" class="soft small" data-test="on-findings">
        It rests on what was found: what was not accepted then is not accepted here where it is looked at; all else is taken to have been accepted.
      </p>
      <p v-if="untimed > 0" class="soft small">
        {{ count(untimed, 'inspection') }} without minutes: nobody has said in the library how long a piece takes.
      </p>
      <p v-for="[words, times] in problems" :key="words" class="marginal small">{{ times }} × no sample could be worked out: {{ words }}</p>
      <p v-if="isCut" class="marginal small">There was more: the latest 20,000 occasions were played.</p>
    </template>
  </div>
</template>

<script setup lang="ts">
import { loadRange, totalLoad } from '@nemawashi/core'
import { computed, defineAsyncComponent, ref } from 'vue'
import { count, whole } from '../../format/format'
import type { PlayedRules } from '../../workers/rehearsal.worker'
import { measures, type Measure } from './pastLoad'

/** What the past would have brought, as a sentence and by week; the charting library comes when there is something to chart. */
const LoadChart = defineAsyncComponent(() => import('./LoadChart.vue'))
const { played, done, problem, isCut } = defineProps<{
  played: readonly PlayedRules[]
  done: number | null
  problem: string
  isCut: boolean
}>()
const measure = ref<Measure>('inspections')
const first = computed(() => played[0] ?? null)
const last = computed(() => played.at(-1) ?? null)
const hasAny = computed(() => played.some(({ weeks }) => weeks.some(({ occasions }) => occasions > 0)))
const range = computed(() => (last.value ? loadRange(totalLoad(last.value.weeks).inspections, last.value.chance) : null))
const untimed = computed(() => totalLoad(last.value?.weeks ?? []).untimed)
const problems = computed(() => last.value?.problems ?? [])
</script>

<style scoped>
.measures button {
  border: 0;
  background: none;
  color: var(--indigo);
  font-weight: 600;
  cursor: pointer;
  padding: 2px 0;
}
.measures button[aria-pressed='true'] {
  text-decoration: underline;
  text-underline-offset: 5px;
  text-decoration-thickness: 2px;
  color: var(--ink);
  font-weight: 700;
}
</style>
