<template>
  <details v-if="told.length > 0" class="story">
    <summary>What the machine side told</summary>
    <table class="plain" :aria-label="`Reports of ${step.operationName}`">
      <tbody>
        <tr v-for="report in told" :key="report.id">
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
import { count, momentOf, whole } from '../../format/format'

/** What was told of a step while it ran, newest first. */
const { step } = defineProps<{ step: OrderStep }>()
const told = computed(() => step.reports.toReversed())
function wordsOf({ kind, good, scrapped, setAside, done, minutes, note }: StepReport): string {
  if (kind === 'setUp') return `set-up changed: ${note}`
  if (kind === 'paused') return `paused: ${note}`
  if (kind === 'resumed') return 'went on'
  if (kind === 'lastPiece') return `last piece, ${whole(done)} made`
  if (kind === 'timed') return `${count(minutes, 'minute')} had passed`
  if (good + scrapped + setAside === 0) return `${whole(done)} made`
  const lost = [scrapped > 0 ? `, ${whole(scrapped)} scrapped` : '', setAside > 0 ? `, ${whole(setAside)} to rework` : '']
  return `${whole(good)} good${lost.join('')}; ${whole(done)} made`
}
</script>

<style scoped>
summary {
  padding: 4px 0;
  cursor: pointer;
  color: var(--soft);
}
</style>
