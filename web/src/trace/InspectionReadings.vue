<template>
  <details @toggle="open">
    <summary class="small">Readings</summary>
    <p v-if="!inspection" class="small soft">{{ failure ?? 'Loading …' }}</p>
    <ReadingsTable v-else :inspection="inspection" has-strips />
  </details>
</template>

<script setup lang="ts">
import { type Inspection, record } from '@nemawashi/contract'
import { ref } from 'vue'
import { asFailure, call } from '../shell/api'
import ReadingsTable from '../components/ReadingsTable.vue'

/** The readings of an inspection inside a passport, fetched when they are opened. */
const { id } = defineProps<{ id: string }>()
const inspection = ref<Inspection | null>(null)
const failure = ref<string | null>(null)
async function open(): Promise<void> {
  if (inspection.value) return
  try {
    inspection.value = await call(record.getInspection, { params: { id } })
  } catch (error) {
    failure.value = asFailure(error).message
  }
}
</script>

<style scoped>
summary {
  cursor: pointer;
  color: var(--indigo);
}
</style>
