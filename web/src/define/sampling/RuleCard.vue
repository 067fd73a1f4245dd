<template>
  <section class="rule stack" :aria-label="`Rule ${stroke.letter}`">
    <div class="row">
      <svg width="34" height="12" aria-hidden="true">
        <line x1="0" x2="34" y1="6" y2="6" :stroke="stroke.color" stroke-width="3" :stroke-dasharray="dash" />
      </svg>
      <h2 class="grow">Rule {{ stroke.letter }}</h2>
      <TakeOut v-if="canTakeOut" :name="`rule ${stroke.letter}`" @click="emit('takeOut')" />
    </div>
    <div class="fields">
      <SamplingFields :model-value="choice.sampling" :is-fixed="false" with-runs @update:model-value="emit('change', { sampling: $event })" />
    </div>
    <div v-if="choice.sampling.kind !== 'continuous'" class="fields">
      <v-select
        :model-value="choice.frequency.kind"
        label="How often"
        :items="frequencies"
        data-field="frequencyKind"
        @update:model-value="emit('change', { frequency: { ...frequencyKinds[$event as FrequencyRule['kind']].start } })"
      />
      <RuleFields
        :model-value="choice.frequency"
        :fields="frequencyKinds[choice.frequency.kind].fields"
        :is-fixed="false"
        @update:model-value="emit('change', { frequency: $event })"
      />
    </div>
    <p v-if="problem" class="nonconforming small" role="alert">{{ problem }}</p>
    <p v-else class="small soft">{{ reasoning }}</p>
  </section>
</template>

<script setup lang="ts">
import type { FrequencyRule, SamplingChoice } from '@nemawashi/core'
import { computed } from 'vue'
import TakeOut from '../../components/TakeOut.vue'
import type { Stroke } from './chartScale'
import RuleFields from './RuleFields.vue'
import SamplingFields from './SamplingFields.vue'
import { frequencyKinds } from './samplingKinds'

/** One rule of the workshop: how many and how often, with the arithmetic or what is wrong below it. */
const { stroke } = defineProps<{
  choice: SamplingChoice
  stroke: Stroke
  reasoning: string
  problem: string
  canTakeOut: boolean
}>()
const emit = defineEmits<{ change: [change: Partial<SamplingChoice>]; takeOut: [] }>()
const frequencies = Object.entries(frequencyKinds).map(([value, { title }]) => ({ title, value }))
const dash = computed(() => (typeof stroke.dash === 'string' ? '' : stroke.dash.join(' ')))
</script>

<style scoped>
.rule {
  border-bottom: 1px solid var(--rule);
  padding-bottom: 10px;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
.fields > :first-child,
.fields :deep(.long),
.fields :deep(.add),
.fields :deep(.stages) {
  grid-column: 1 / -1;
}
.rule p {
  margin: 0;
}
</style>
