<template>
  <details @toggle="open">
    <summary class="small">Readings</summary>
    <p v-if="!inspection" class="small soft">{{ failure ?? 'Loading …' }}</p>
    <table v-else class="plain small">
      <tbody>
        <tr v-for="line in inspection.lines" :key="line.id">
          <th scope="row">{{ line.name }}</th>
          <td>
            <ToleranceStrip
              v-if="hasValues(line)"
              :limits="{ ...line, ...line.details }"
              :readings="of(line.id).map(({ value, mark }) => ({ value: value ?? '', mark }))"
              :width="180"
              :height="16"
            />
          </td>
          <td class="values">
            <span v-for="reading in of(line.id)" :key="reading.id" class="m" :title="`piece ${reading.piece}, ${reading.recordedByName}`"
              ><MarkSign
                v-if="line.kind === 'judged' || reading.mark === 'nonconforming' || reading.mark === 'marginal'"
                :mark="reading.mark"
                :size="12"
                :class="reading.mark"
              /><a v-if="documentIn(reading.value ?? '')" :href="`/api/documents/${documentIn(reading.value ?? '')?.id}/content`" target="_blank">{{
                answerWords(reading.value ?? '')
              }}</a
              ><template v-else>{{ line.kind === 'judged' ? '' : reading.value }}</template
              >{{ reading.corrections > 0 ? '*' : '' }}
            </span>
          </td>
        </tr>
      </tbody>
    </table>
  </details>
</template>

<script setup lang="ts">
import { endpoints, hasValues, type Inspection } from '@nemawashi/contract'
import { answerWords, documentIn } from '@nemawashi/core'
import { ref } from 'vue'
import { asFailure, call } from '../frame/api'
import MarkSign from '../pieces/MarkSign.vue'
import ToleranceStrip from '../pieces/ToleranceStrip.vue'

/** The readings of an inspection inside a passport, fetched when they are opened. A star marks a corrected answer. */
const { id } = defineProps<{ id: string }>()
const inspection = ref<Inspection | null>(null)
const failure = ref<string | null>(null)
const of = (lineId: string) => (inspection.value?.readings ?? []).filter((reading) => reading.lineId === lineId && reading.value !== null)
async function open(): Promise<void> {
  if (inspection.value) return
  try {
    inspection.value = await call(endpoints.record.getInspection, { params: { id } })
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
.values {
  max-width: 420px;
}
</style>
