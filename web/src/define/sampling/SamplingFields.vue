<template>
  <v-select v-model="kind" :label="label" :items="kinds" :readonly="isFixed" data-field="samplingKind" />
  <StageFields
    v-if="rule.kind === 'stages'"
    :model-value="rule.stages"
    :is-fixed="isFixed"
    @update:model-value="rule = { kind: 'stages', stages: $event }"
  />
  <RuleFields v-else :model-value="rule" :fields="fieldsOf(rule)" :is-fixed="isFixed" @update:model-value="take" />
</template>

<script setup lang="ts">
import { suitsKind, type CharacteristicKind, type SamplingRule } from '@nemawashi/core'
import { computed } from 'vue'
import RuleFields from './RuleFields.vue'
import { fieldsOf, ruleKinds, type AnyRule, type RuleKind } from './samplingKinds'
import StageFields from './StageFields.vue'

/** The form of a sampling rule: which way, and what that way asks. */
const {
  label = 'How many are looked at',
  withRuns = false,
  characteristicKind = 'measured',
} = defineProps<{
  isFixed: boolean
  label?: string
  withRuns?: boolean
  /** What kind of characteristic it is asked of: what is not measured has no plan by variables. */
  characteristicKind?: CharacteristicKind
}>()
const rule = defineModel<AnyRule>({ required: true })
const kinds = computed(() =>
  Object.entries(ruleKinds).flatMap(([value, { title }]) =>
    (value === 'continuous' && !withRuns) || !suitsKind({ kind: value as SamplingRule['kind'] }, characteristicKind) ? [] : [{ title, value }],
  ),
)
const kind = computed({ get: () => rule.value.kind, set: (value: RuleKind) => (rule.value = structuredClone(ruleKinds[value].start)) })

function take(changed: AnyRule): void {
  // An AQL above 10 counts nonconformities only; going back to pieces goes back to an AQL that has them.
  const isTooHigh = changed.kind === 'attributesScheme' && changed.counting !== 'nonconformities' && changed.aqlPercent > 10
  const lowered = isTooHigh ? { ...changed, aqlPercent: 10 } : changed
  // No switching is said by leaving it out.
  if (lowered.kind !== 'attributesScheme' || (lowered.switching as string | undefined) !== 'none') rule.value = lowered
  else {
    const { switching: _, ...plain } = lowered
    rule.value = plain
  }
}
</script>
