<template>
  <v-dialog v-model="isOpen" width="520" aria-label="Use this rule">
    <v-card title="Put a rule on a plan line">
      <v-card-text class="stack">
        <v-select v-model="which" label="Rule" :items="rules" data-field="useRule" />
        <PickOne v-model="planId" :endpoint="define.listPlans" label="Inspection plan" field="usePlan" />
        <v-select v-if="plan" v-model="lineId" label="Line" :items="lines" data-field="useLine" />
        <p v-if="plan && !hasDraft" class="small soft">
          {{ plan.code }} is released: revise it there, and the rule goes on to the draft's line before you save.
        </p>
        <p v-if="frequency" class="small soft">The frequency, {{ frequency }}, belongs to the control point and is not taken along.</p>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="isOpen = false">Cancel</v-btn>
        <v-btn color="primary" :disabled="!planId || !lineId || which === null" data-test="use-go" @click="go">Take it to the plan</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<script setup lang="ts">
import { type Plan, define } from '@nemawashi/contract'
import { describeFrequencyRule, describeSamplingRule, type SamplingChoice } from '@nemawashi/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { call } from '../../shell/api'
import PickOne from '../../components/PickOne.vue'
import { strokes } from './chartScale'

/** Takes a rule of the workshop to a line of a plan's draft, where it is looked at once more and saved. */
const { choices, characteristicId } = defineProps<{ choices: readonly SamplingChoice[]; characteristicId: string | null }>()
const isOpen = defineModel<boolean>({ required: true })
const router = useRouter()
const which = ref<number | null>(0)
const planId = ref<string | null>(null)
const lineId = ref<string | null>(null)
const plan = ref<Plan | null>(null)

const rules = computed(() =>
  choices.flatMap(({ sampling }, i) =>
    sampling.kind === 'continuous' ? [] : [{ title: `${strokes[i]?.letter}: ${describeSamplingRule(sampling)}`, value: i }],
  ),
)
const hasDraft = computed(() => plan.value?.revisions[0]?.state === 'draft')
const lines = computed(() =>
  (plan.value?.revisions[0]?.lines ?? []).map((line) => ({ title: `${line.code} ${line.name}`, value: line.characteristicId })),
)
const frequency = computed(() => {
  const rule = choices[which.value ?? -1]?.frequency
  return rule && rule.kind !== 'everyArrival' ? describeFrequencyRule(rule) : ''
})
watch(planId, async (id) => {
  plan.value = null
  lineId.value = null
  if (!id) return
  const loaded = await call(define.getPlan, { params: { id } })
  if (planId.value !== id) return
  plan.value = loaded
  const own = loaded.revisions[0]?.lines.find((line) => line.characteristicId === characteristicId)
  lineId.value = (own ?? loaded.revisions[0]?.lines[0])?.characteristicId ?? null
})

async function go(): Promise<void> {
  const sampling = choices[which.value ?? -1]?.sampling
  if (!planId.value || !lineId.value || !sampling) return
  isOpen.value = false
  await router.push({ path: `/define/plans/${planId.value}`, query: { line: lineId.value, sampling: JSON.stringify(sampling) } })
}
</script>
