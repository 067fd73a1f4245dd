<template>
  <div class="row wide">
    <v-select v-model="side" label="Marginal band" :items="sides" :readonly="isFixed" data-field="bandSide" />
    <template v-if="band">
      <v-select v-model="basis" label="Stated as" :items="bases" :readonly="isFixed" data-field="bandBasis" />
      <v-text-field
        v-model="amount"
        :label="band.width.kind === 'amount' ? `Width, ${unit}` : 'Width, %'"
        class="mono"
        :readonly="isFixed"
        :error-messages="error"
        data-field="bandAmount"
      />
      <v-select v-model="counts" label="△ counts as" :items="countings" :readonly="isFixed" data-field="bandCounts" />
    </template>
  </div>
</template>

<script setup lang="ts">
import type { CharacteristicDetails } from '@nemawashi/contract'
import { computed } from 'vue'

/** A band beside the limits: on which side, how wide and of what, and what a reading in it counts as. */
const { step } = defineProps<{ isFixed: boolean; unit: string; step: string; error: string | undefined }>()
const band = defineModel<CharacteristicDetails['band']>({ required: true })

const sides = [
  { title: 'none', value: 'none' },
  { title: 'inside the limits (guard band)', value: 'inside' },
  { title: 'outside the limits (allowed excess)', value: 'outside' },
]
const side = computed({
  get: () => band.value?.side ?? 'none',
  set: (value) =>
    (band.value =
      value === 'none'
        ? null
        : {
            side: value as 'inside' | 'outside',
            width: band.value?.width ?? { kind: 'amount', amount: step },
            countsAsConforming: band.value?.countsAsConforming ?? value === 'inside',
          }),
})
const bases = [
  { title: 'an amount', value: 'amount' },
  { title: '% of the nominal', value: 'nominal' },
  { title: '% of each limit', value: 'limit' },
  { title: '% of the tolerance width', value: 'width' },
]
const basis = computed({
  get: () => (band.value?.width.kind === 'percentage' ? band.value.width.base : 'amount'),
  set: (value) => {
    if (!band.value) return
    band.value.width =
      value === 'amount' ? { kind: 'amount', amount: step } : { kind: 'percentage', percent: '5', base: value as 'nominal' | 'limit' | 'width' }
  },
})
const amount = computed({
  get: () => (band.value?.width.kind === 'percentage' ? band.value.width.percent : (band.value?.width.amount ?? '')),
  set: (value) => {
    if (band.value?.width.kind === 'percentage') band.value.width.percent = value.replace(',', '.')
    else if (band.value) band.value.width.amount = value.replace(',', '.')
  },
})
const countings = [
  { title: 'conforming', value: true },
  { title: 'nonconforming', value: false },
]
const counts = computed({
  get: () => band.value?.countsAsConforming ?? true,
  set: (value: boolean) => band.value && (band.value.countsAsConforming = value),
})
</script>

<style scoped>
.wide > * {
  flex: 1;
}
:deep(.mono input) {
  font-family: var(--mono);
}
</style>
