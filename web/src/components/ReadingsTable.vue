<template>
  <table class="plain small" data-test="readings">
    <tbody>
      <tr v-for="line in inspection.lines" :key="line.id">
        <th scope="row">{{ line.name }}</th>
        <td v-if="hasStrips">
          <ToleranceStrip
            v-if="hasValues(line)"
            :limits="{ ...line, ...line.details }"
            :readings="readingsOf(line.id).map(({ value, mark }) => ({ value: value ?? '', mark }))"
            :width="180"
            :height="16"
          />
        </td>
        <td class="values">
          <span
            v-for="reading in readingsOf(line.id)"
            :key="reading.id"
            class="m"
            :title="
              [
                `piece ${reading.piece}`,
                reading.inspectedByName ?? reading.recordedByName,
                reading.gaugeCode,
                reading.isSent && 'sent by the instrument',
              ]
                .filter(Boolean)
                .join(', ')
            "
            ><MarkSign
              v-if="line.kind === 'judged' || reading.mark === 'nonconforming' || reading.mark === 'marginal'"
              :mark="reading.mark"
              :size="12"
              :class="reading.mark"
            /><a v-if="documentIn(reading.value ?? '')" :href="`/api/v1/documents/${documentIn(reading.value ?? '')?.id}/content`" target="_blank">{{
              answerWords(reading.value ?? '')
            }}</a
            ><template v-else>{{ line.kind === 'judged' ? '' : answerWords(reading.value ?? '') }}</template
            >{{ reading.corrections > 0 ? '*' : '' }}
          </span>
          <span v-if="readingsOf(line.id).length === 0" class="soft">nothing recorded</span>
          <span v-for="words in typedFor(line.id)" :key="words" class="gauge soft" data-test="typed-for">{{ words }}</span>
          <span
            v-for="use in gaugesThatMeasured(inspection, line.id)"
            :key="use.code"
            class="gauge"
            :class="use.reason ? 'marginal' : 'soft'"
            data-test="measured-with"
            >measured with {{ describeGaugeUse(use, dayWords) }}</span
          >
          <EvidenceList :evidence="inspection.evidence.filter((entry) => entry.lineId === line.id)" />
        </td>
      </tr>
    </tbody>
  </table>
  <EvidenceList :evidence="inspection.evidence.filter((entry) => entry.lineId === null)" />
</template>

<script setup lang="ts">
import { gaugesThatMeasured, hasValues, type Inspection } from '@nemawashi/contract'
import { answerWords, describeGaugeUse, documentIn } from '@nemawashi/core'
import { dayWords } from '../format/format'
import EvidenceList from './EvidenceList.vue'
import MarkSign from './MarkSign.vue'
import ToleranceStrip from './ToleranceStrip.vue'

/** Every answer of an inspection, line by line, documents as links. A star marks a corrected answer. */
const { inspection, hasStrips = false } = defineProps<{ inspection: Inspection; hasStrips?: boolean }>()
/** Who inspected where another typed. */
const typedFor = (lineId: string) => [
  ...new Set(
    readingsOf(lineId).flatMap(({ inspectedByName, recordedByName }) =>
      inspectedByName === null ? [] : [`inspected by ${inspectedByName}, typed by ${recordedByName}`],
    ),
  ),
]
const readingsOf = (lineId: string) => inspection.readings.filter((reading) => reading.lineId === lineId && reading.value !== null)
</script>

<style scoped>
.gauge {
  display: block;
}
.values {
  max-width: 420px;
}
</style>
