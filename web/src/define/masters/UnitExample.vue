<template>
  <p v-if="words" class="small" :class="{ soft: !problem, nonconforming: problem }" data-test="unit-example">{{ words }}</p>
</template>

<script setup lang="ts">
import type { MeasureUnitRecord } from '@nemawashi/contract'
import { convertUnit, CoreError, type MeasureUnit } from '@nemawashi/core'
import { computed } from 'vue'
import { useMeasureUnits } from '../../composables/useMeasureUnits'

/** What a unit says while it is written: one of it in the unit that its quantity is reckoned in, or what is wrong with its factor. */
const { form } = defineProps<{ form: Readonly<Partial<MeasureUnitRecord>> }>()
const { known } = useMeasureUnits()
const told = computed<{ words: string; problem: boolean }>(() => {
  const { code = '', name = '', quantity: measured = '', factor = null, shift = null } = form
  const unit: MeasureUnit = { symbol: code.trim(), name, quantity: measured.trim(), factor, shift }
  const others = known.value.filter(({ symbol, quantity }) => symbol !== unit.symbol && quantity === unit.quantity)
  const base = others.find(({ factor, shift }) => factor === '1' && shift === null)
  if (unit.symbol === '' || unit.factor === null) return { words: '', problem: false }
  if (!base)
    return {
      words: unit.factor === '1' ? 'Other units of this quantity are reckoned in it.' : 'No unit of this quantity has factor 1 yet.',
      problem: false,
    }
  try {
    const one = convertUnit('1', unit.symbol, base.symbol, null, [...others, unit])
    return {
      words: `1 ${unit.symbol} is ${one} ${base.symbol}; readings may be typed in ${[unit, ...others].map(({ symbol }) => symbol).join(', ')}.`,
      problem: false,
    }
  } catch (error) {
    return { words: error instanceof CoreError ? error.message : '', problem: true }
  }
})
const words = computed(() => told.value.words)
const problem = computed(() => told.value.problem)
</script>

<style scoped>
p {
  margin: 0;
}
</style>
