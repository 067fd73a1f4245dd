<template>
  <ToleranceStrip
    class="long"
    :limits="{ ...line, ...line.details }"
    :readings="live ? [...kept, live] : kept"
    :width="480"
    :height="28"
    has-numbers
  />
  <LineVariables :line="line" :numbers="numbers" />
  <LineTrend :inspection-id="inspectionId" :code="code" :line="line" :numbers="numbers" />
</template>

<script setup lang="ts">
import type { InspectionLine } from '@nemawashi/contract'
import type { Mark } from '@nemawashi/core'
import { computed } from 'vue'
import ToleranceStrip from '../../components/ToleranceStrip.vue'
import LineTrend from './LineTrend.vue'
import LineVariables from './LineVariables.vue'

/** A measured line in pictures: its values against the limits, as a distribution where it is judged by variables, and after those before it. */
const { kept } = defineProps<{
  inspectionId: string
  code: string
  line: InspectionLine
  /** The values that are kept; none where they are summed up in one answer. */
  kept: readonly { value: string; mark: Mark }[]
  /** The one that is being typed. */
  live: { value: string; mark: Mark } | null
}>()
const numbers = computed(() => kept.map(({ value }) => Number(value)).filter(Number.isFinite))
</script>

<style scoped>
.long {
  margin: 4px 0 22px;
  max-width: 100%;
  flex: none;
}
</style>
