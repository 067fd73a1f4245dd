<template>
  <div class="sampling">
    <div class="stack">
      <v-select v-model="kind" label="How many are looked at" :items="kinds" :readonly="isFixed" data-field="samplingKind" />
      <template v-if="rule.kind === 'attributesScheme'">
        <v-select v-model="rule.level" label="Level" :items="inspectionLevels" :readonly="isFixed" data-field="level" />
        <v-select v-model="rule.aqlPercent" label="AQL, %" :items="[...aqlSeries] as number[]" :readonly="isFixed" data-field="aql" />
      </template>
      <template v-else>
        <v-number-input
          v-if="rule.kind === 'fixedNumber'"
          v-model="rule.sampleSize"
          label="Pieces"
          control-variant="hidden"
          variant="outlined"
          density="compact"
          hide-details
          :min="1"
          :readonly="isFixed"
          data-field="sampleSize"
        />
        <template v-if="rule.kind === 'percentage'">
          <v-number-input
            v-model="rule.percent"
            label="Per cent of the lot"
            control-variant="hidden"
            variant="outlined"
            density="compact"
            hide-details
            :precision="null"
            :readonly="isFixed"
            data-field="percent"
          />
          <v-select v-model="rule.rounding" label="Rounded" :items="roundings" :readonly="isFixed" data-field="rounding" />
        </template>
        <v-number-input
          v-model="rule.accept"
          label="Accept up to"
          control-variant="hidden"
          variant="outlined"
          density="compact"
          hide-details
          :min="0"
          :readonly="isFixed"
          data-field="accept"
        />
      </template>
      <v-number-input
        v-model="lotSize"
        label="Lot size to look at"
        control-variant="hidden"
        variant="outlined"
        density="compact"
        hide-details
        :min="1"
        data-field="lotSize"
      />
    </div>
    <div class="risk">
      <ErrorNote :failure="error" />
      <template v-if="worked.sample">
        <p class="small soft" data-test="reasoning">{{ worked.sample.reasoning }}</p>
        <p class="sentence" data-test="risk">{{ worked.risk.sentence }}</p>
        <OperatingCurve :sample="worked.sample" :lot-size="lotSize" :risk="worked.risk" />
      </template>
      <p v-else class="nonconforming" role="alert" data-test="reasoning">{{ worked.words }}</p>
    </div>
  </div>
</template>

<script setup lang="ts">
import { aqlSeries, inspectionLevels, riskOf, roundings, sampleFor, type Risk, type Sample, type SamplingRule } from '@nemawashi/core'
import { computed, defineAsyncComponent, ref } from 'vue'
import type { Failure } from '../frame/api'
import ErrorNote from '../pieces/ErrorNote.vue'

/** Chooses a sampling rule, with its risk beside the choice: the operating curve and one sentence. */
const OperatingCurve = defineAsyncComponent(() => import('./OperatingCurve.vue'))
const rule = defineModel<SamplingRule>({ required: true })
defineProps<{ isFixed: boolean; error: Failure | null }>()

const kinds = [
  { title: 'MIL-STD-105E, attributes', value: 'attributesScheme' },
  { title: 'a fixed number', value: 'fixedNumber' },
  { title: 'a percentage of the lot', value: 'percentage' },
  { title: 'every piece', value: 'everyPiece' },
]
const starts: Record<SamplingRule['kind'], SamplingRule> = {
  attributesScheme: { kind: 'attributesScheme', level: 'II', aqlPercent: 1 },
  fixedNumber: { kind: 'fixedNumber', sampleSize: 5, accept: 0 },
  percentage: { kind: 'percentage', percent: 10, rounding: 'up', accept: 0 },
  everyPiece: { kind: 'everyPiece', accept: 0 },
}
const kind = computed({ get: () => rule.value.kind, set: (value) => (rule.value = { ...starts[value] }) })
const lotSize = ref(500)

const worked = computed<{ sample: Sample; risk: Risk } | { sample: null; words: string; risk?: never }>(() => {
  try {
    const sample = sampleFor(rule.value, lotSize.value)
    return { sample, risk: riskOf(sample, lotSize.value, rule.value.kind === 'attributesScheme' ? rule.value.aqlPercent : null) }
  } catch (problem) {
    return { sample: null, words: problem instanceof Error ? problem.message : String(problem) }
  }
})
</script>

<style scoped>
.sampling {
  display: grid;
  grid-template-columns: 210px minmax(0, 1fr);
  gap: 20px;
  margin: 12px 0;
  align-items: start;
}
.sentence {
  font: 600 15px/21px var(--words);
  margin: 2px 0 6px;
}
.risk p.small {
  margin: 0;
}
</style>
