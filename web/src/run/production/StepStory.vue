<template>
  <details v-if="reports.length > 0" class="story">
    <summary>What the machine side told</summary>
    <table class="plain" :aria-label="`Reports of ${step.operationName}`">
      <tbody>
        <tr v-for="report in reports" :key="report.id">
          <td class="m small soft">{{ momentOf(report.at) }}</td>
          <td>{{ wordsOf(report) }}</td>
          <td class="soft small">{{ report.byName }}</td>
        </tr>
      </tbody>
    </table>
  </details>
</template>

<script setup lang="ts">
import type { OrderStep, StepReport } from '@nemawashi/contract'
import { computed } from 'vue'
import { count, figureOf, momentOf } from '../../format/format'

/** What was told of a step while it ran, newest first. */
const { step, unit } = defineProps<{ step: OrderStep; unit: string }>()
const told = (quantity: number) => figureOf(quantity, unit)
const reports = computed(() => step.reports.toReversed())
function wordsOf({ kind, good, scrapped, setAside, done, minutes, note }: StepReport): string {
  if (kind === 'setUp') return `set-up changed: ${note}`
  if (kind === 'paused') return `paused: ${note}`
  if (kind === 'resumed') return 'went on'
  if (kind === 'lastPiece') return `last piece, ${told(done)} made`
  if (kind === 'timed') return `${count(minutes, 'minute')} had passed`
  if (good + scrapped + setAside === 0) return `${told(done)} made`
  const lost = [scrapped > 0 ? `, ${told(scrapped)} scrapped` : '', setAside > 0 ? `, ${told(setAside)} to rework` : '']
  return `${told(good)} good${lost.join('')}; ${told(done)} made`
}
</script>

<style scoped>
summary {
  padding: 4px 0;
  cursor: pointer;
  color: var(--soft);
}
</style>
