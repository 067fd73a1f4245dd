<template>
  <div class="sampling">
    <div class="stack">
      <SamplingFields v-model="rule" :is-fixed="isFixed" :of="of" />
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
        v-if="worked.assessment"
        class="small"
        :to="{ path: '/define/sampling', query: { rules: packRules([{ sampling: rule, frequency: { kind: 'everyArrival' } }]), lot: lotSize } }"
        >Compare in the workshop</router-link
      >
    </div>
    <div class="risk">
      <ErrorNote :failure="error" />
      <template v-if="worked.assessment">
        <p class="small soft" data-test="reasoning">{{ worked.assessment.sample?.reasoning }}</p>
        <p class="sentence" data-test="risk">{{ worked.sentence }}</p>
        <RiskChart
          :lines="lines"
          :end="worked.end"
          :marks="worked.marks"
          :caption="`Lots of ${whole(lotSize)}; their quality, and how often such a lot is accepted.`"
        />
      </template>
      <p v-else class="nonconforming" role="alert" data-test="reasoning">{{ worked.words }}</p>
    </div>
  </div>
</template>

<script setup lang="ts">
import { assess, countedOf, riskOf, sampleFor, type Assessment, type CharacteristicKind, type SamplingRule } from '@nemawashi/core'
import { computed, defineAsyncComponent, ref } from 'vue'
import type { Failure } from '../frame/api'
import ErrorNote from '../pieces/ErrorNote.vue'
import { whole } from '../pieces/format'
import { isDark } from '../frame/night'
import { roundEnd, strokesOn } from './chartScale'
import { packRules } from './rulesInAddress'
import SamplingFields from './SamplingFields.vue'

/** Chooses a sampling rule, with its risk beside the choice: the operating curve and one sentence. */
const RiskChart = defineAsyncComponent(() => import('./RiskChart.vue'))
const rule = defineModel<SamplingRule>({ required: true })
const { of = 'measured' } = defineProps<{ isFixed: boolean; error: Failure | null; of?: CharacteristicKind }>()
const lotSize = ref(500)

interface Worked {
  assessment: Assessment
  sentence: string
  end: number
  marks: { percent: number; accepted: number }[]
}
const isNight = isDark(false)
const lines = computed(() =>
  strokesOn(isNight.value)
    .slice(0, 1)
    .flatMap((stroke) => (worked.value.assessment ? [{ ...stroke, assessment: worked.value.assessment }] : [])),
)
const worked = computed<Worked | { assessment: null; words: string }>(() => {
  try {
    return work(rule.value, lotSize.value)
  } catch (problem) {
    return { assessment: null, words: problem instanceof Error ? problem.message : String(problem) }
  }
})

function work(sampling: SamplingRule, lot: number): Worked {
  const sample = sampleFor(sampling, lot, countedOf(of))
  const aql = 'aqlPercent' in sampling ? sampling.aqlPercent : null
  const choice = { sampling, frequency: { kind: 'everyArrival' } } as const
  const options = { lotSize: lot, lotsPerMonth: null, minutesPerPiece: null }
  if (sample.stages.length === 1 && sample.variables === null && sample.counting === 'nonconforming') {
    const risk = riskOf({ sampleSize: sample.sampleSize, accept: sample.reject - 1 }, lot, aql)
    const end = roundEnd(Math.max(risk.poorPercent * 1.7, risk.goodPercent * 2, 0.2))
    const assessment = assess(choice, { ...options, toPercent: end, goodPercent: risk.goodPercent, poorPercent: risk.poorPercent })
    return {
      assessment,
      sentence: risk.sentence,
      end,
      marks: [
        { percent: risk.goodPercent, accepted: risk.goodAccepted },
        { percent: risk.poorPercent, accepted: risk.poorAccepted },
      ],
    }
  }
  const first = assess(choice, { ...options, toPercent: 100, goodPercent: aql ?? 1, poorPercent: 10 })
  const [good, poor] = [aql ?? first.at95 ?? 1, first.at10 ?? 50]
  const end = roundEnd(Math.max(poor * 1.7, good * 2, 0.2))
  const assessment = assess(choice, { ...options, toPercent: end, goodPercent: good, poorPercent: poor })
  return {
    assessment,
    sentence: assessment.sentence,
    end,
    marks: [
      { percent: good, accepted: 1 - assessment.producersRisk },
      { percent: poor, accepted: assessment.consumersRisk },
    ],
  }
}
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
.risk p.small {
  margin: 0;
}
</style>
