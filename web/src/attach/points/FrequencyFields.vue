<template>
  <div class="row top">
    <v-select v-model="kind" class="kind" :items="kinds" label="How often (frequency)" :disabled="isFixed" data-field="frequency" />
    <v-text-field
      v-for="field in fields"
      :key="field.key"
      class="number"
      type="number"
      :model-value="(rule as Record<string, unknown>)[field.key]"
      :label="field.label"
      :min="field.least"
      :disabled="isFixed"
      :data-field="field.key"
      @update:model-value="set(field.key, Number($event))"
    />
    <v-select
      v-if="rule.kind === 'oncePer'"
      class="number"
      :model-value="rule.period"
      :items="['day', 'week', 'month']"
      label="Period"
      :disabled="isFixed"
      @update:model-value="set('period', $event)"
    />
    <v-text-field
      v-if="rule.kind !== 'everyArrival'"
      class="number"
      type="number"
      :model-value="rule.fullAfterFailure ?? 0"
      label="In full after a failure"
      suffix="lots"
      :min="0"
      :disabled="isFixed"
      data-field="fullAfterFailure"
      @update:model-value="set('fullAfterFailure', Number($event))"
    />
  </div>
</template>

<script setup lang="ts">
import { comesAs, describeFrequencyRule, type FrequencyKind, type FrequencyRule, type OperationKind } from '@nemawashi/core'
import { computed } from 'vue'

/** Which arrivals are looked at at all: percentages and "one in k" are different things and entered as such. */
const rule = defineModel<FrequencyRule>({ required: true })
const { operationKind } = defineProps<{ isFixed: boolean; operationKind: OperationKind }>()

const kinds = computed((): readonly { value: FrequencyKind; title: string }[] => [
  { value: 'everyArrival', title: describeFrequencyRule({ kind: 'everyArrival' }, comesAs(operationKind)) },
  { value: 'oneIn', title: 'one in k' },
  { value: 'randomShare', title: 'a random share' },
  { value: 'oncePer', title: 'once a day, week or month' },
  { value: 'oncePerOrder', title: 'once for an order line, however many part deliveries' },
  { value: 'perPieces', title: 'once per so many pieces' },
  { value: 'perHours', title: 'once per so many hours' },
  { value: 'certificateOnly', title: 'certificate only, in good standing' },
  { value: 'earnedSkipping', title: 'earned skipping (skip-lot)' },
])
const starts: Readonly<Record<FrequencyKind, FrequencyRule>> = {
  everyArrival: { kind: 'everyArrival' },
  oneIn: { kind: 'oneIn', k: 3 },
  randomShare: { kind: 'randomShare', percent: 25 },
  oncePer: { kind: 'oncePer', period: 'week' },
  oncePerOrder: { kind: 'oncePerOrder' },
  perPieces: { kind: 'perPieces', pieces: 1000 },
  perHours: { kind: 'perHours', hours: 8 },
  certificateOnly: { kind: 'certificateOnly', clearance: 10 },
  earnedSkipping: { kind: 'earnedSkipping', clearance: 10, k: 3 },
}
const labels = { k: 'One in k', percent: 'Percent', pieces: 'Pieces', hours: 'Hours', clearance: 'Accepted in a row' } as const

const kind = computed({ get: () => rule.value.kind, set: (value) => (rule.value = starts[value]) })
const fields = computed(() =>
  Object.keys(starts[rule.value.kind])
    .filter((key): key is keyof typeof labels => key in labels)
    .map((key) => ({ key, label: labels[key], least: key === 'percent' || key === 'hours' ? 0 : 1 })),
)
function set(key: string, value: unknown): void {
  rule.value = { ...rule.value, [key]: value } as FrequencyRule
}
</script>

<style scoped>
.kind {
  flex: 1 1 220px;
}
.number {
  flex: 0 1 150px;
}
</style>
