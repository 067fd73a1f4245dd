<template>
  <v-text-field v-model="text" inputmode="decimal" />
</template>

<script setup lang="ts">
import { quantityText } from '@nemawashi/core'
import { ref, watch } from 'vue'
import { typedQuantity } from '../format/format'

/** A quantity as people type it, with the decimals of its unit; the model has it in whole steps, or null where nothing is typed. */
const quantity = defineModel<number | null>({ required: true })
const { unit } = defineProps<{ unit: string }>()

const shownText = () => (quantity.value === null ? '' : quantityText(quantity.value, unit))
const meant = () => (text.value.trim() === '' ? null : typedQuantity(text.value, unit))
const text = ref(shownText())
watch(quantity, (now) => {
  if (!Object.is(now, meant())) text.value = shownText()
})
// What was typed stays as it is written when the unit becomes another.
watch([text, () => unit], () => {
  if (!Object.is(meant(), quantity.value)) quantity.value = meant()
})
</script>
