<template>
  <div class="sampling">
    <div class="stack">
      <SamplingFields v-model="rule" :is-fixed="isFixed" :characteristic-kind="characteristicKind" />
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
      <router-link
        v-if="sample.problem === ''"
        class="small"
        :to="{ path: '/define/sampling', query: { rules: packRules([{ sampling: rule, frequency: { kind: 'everyArrival' } }]), lot: lotSize } }"
        >Compare in the workshop</router-link
      >
    </div>
    <div class="risk">
      <ErrorNote :failure="error" />
      <p v-if="problem" class="nonconforming" role="alert" data-test="reasoning">{{ problem }}</p>
      <template v-else>
        <p class="small soft" data-test="reasoning">{{ sample.reasoning }}</p>
        <p v-if="isLong" class="small soft" role="status" data-test="weighing">Its risk is being worked out …</p>
        <template v-if="weighed">
          <p class="sentence" :class="{ past: isLong }" data-test="risk">{{ weighed.sentence }}</p>
          <RiskChart
            :class="{ past: isLong }"
            :lines="lines"
            :end="weighed.end"
            :marks="weighed.marks"
            :caption="`Lots of ${whole(lotSize)}; their quality, and how often such a lot is accepted.`"
          />
        </template>
      </template>
    </div>
  </div>
</template>

<script setup lang="ts">
import { countedOf, sampleFor, type CharacteristicKind, type SamplingRule } from '@nemawashi/core'
import { computed, defineAsyncComponent, ref } from 'vue'
import type { Failure } from '../../shell/api'
import ErrorNote from '../../components/ErrorNote.vue'
import { whole } from '../../format/format'
import { isDark } from '../../shell/night'
import { strokesOn } from './chartScale'
import { packRules } from './rulesInAddress'
import SamplingFields from './SamplingFields.vue'
import { useWeighedRule } from './useSamplingWorker'

/** Chooses a sampling rule, with its risk beside the choice: the operating curve and one sentence. */
const RiskChart = defineAsyncComponent(() => import('./RiskChart.vue'))
const rule = defineModel<SamplingRule>({ required: true })
const { characteristicKind = 'measured' } = defineProps<{ isFixed: boolean; error: Failure | null; characteristicKind?: CharacteristicKind }>()
const lotSize = ref(500)

const isNight = isDark(false)
/** How many are looked at, or why the rule means nothing: known at once, and before its risk is. */
const sample = computed(() => {
  try {
    return { reasoning: sampleFor(rule.value, lotSize.value, countedOf(characteristicKind)).reasoning, problem: '' }
  } catch (problem) {
    return { reasoning: '', problem: problem instanceof Error ? problem.message : String(problem) }
  }
})
const { outcome, isLong } = useWeighedRule(
  () => rule.value,
  () => lotSize.value,
  () => countedOf(characteristicKind),
)
const weighed = computed(() => (outcome.value !== null && 'value' in outcome.value ? outcome.value.value : null))
const lines = computed(() =>
  strokesOn(isNight.value)
    .slice(0, 1)
    .flatMap((stroke) => (weighed.value === null ? [] : [{ ...stroke, assessment: weighed.value.assessment }])),
)
const problem = computed(() => sample.value.problem || (outcome.value !== null && 'problem' in outcome.value ? outcome.value.problem : ''))
</script>

<style scoped>
.sampling {
  display: grid;
  grid-template-columns: 230px minmax(0, 1fr);
  gap: 20px;
  margin: 12px 0;
  align-items: start;
}
.sentence {
  font: 600 15px/21px var(--words);
  margin: 2px 0 6px;
}
/* What is shown is of the rule before. */
.past {
  opacity: 0.45;
}
.risk p.small {
  margin: 0;
}
</style>
