<template>
  <template v-for="field in fields" :key="field.key">
    <v-select
      v-if="field.kind === 'choice'"
      :model-value="said[field.key] ?? initialRule[field.key]"
      :label="field.label"
      :items="field.choices"
      :readonly="isFixed"
      :data-field="field.test ?? field.key"
      :class="{ long: field.isLong }"
      @update:model-value="set(field.key, $event)"
    />
    <v-number-input
      v-else
      :model-value="shown(field)"
      :label="field.label"
      control-variant="hidden"
      variant="outlined"
      density="compact"
      hide-details
      :precision="field.kind === 'whole' ? 0 : null"
      :min="field.least"
      :readonly="isFixed"
      :clearable="field.kind === 'maybe'"
      :data-field="field.key"
      @update:model-value="set(field.key, taken(field, $event))"
    />
  </template>
</template>

<script setup lang="ts" generic="Rule extends object">
import { computed } from 'vue'
import { initialRule, type RuleField } from './samplingKinds'

/** The numbers and choices of a sampling or frequency rule. */
const { fields } = defineProps<{ fields: readonly RuleField[]; isFixed: boolean }>()
const rule = defineModel<Rule>({ required: true })
const said = computed(() => rule.value as Record<string, unknown>)

function shown({ key, kind }: RuleField): number | null {
  const value = said.value[key] as number | null | undefined
  if (value === null || value === undefined) return null
  return kind === 'share' ? Number((100 * value).toPrecision(12)) : value
}
function taken({ kind }: RuleField, value: number | null): number | null {
  if (value === null) return kind === 'maybe' ? null : Number.NaN
  return kind === 'share' ? Number((value / 100).toPrecision(12)) : value
}
function set(key: string, value: unknown): void {
  // A number that was emptied waits for the next one: the rule keeps what it had.
  if (typeof value === 'number' && Number.isNaN(value)) return
  rule.value = { ...rule.value, [key]: value }
}
</script>
