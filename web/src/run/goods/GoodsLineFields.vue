<template>
  <fieldset :data-line="index">
    <legend>{{ isOneOfMany ? `Line ${index + 1}` : 'Goods' }}</legend>
    <div class="row top">
      <PickOne
        v-model="line.partId"
        class="grow"
        :endpoint="define.parts.list"
        label="Part"
        :initial="line.partWords && line.partId ? { id: line.partId, title: line.partWords } : null"
        :error="errorOf('partId')"
        is-needed
        field="partId"
        @chosen="chosen"
      />
      <v-text-field
        v-if="asksLot"
        v-model="line.supplierLot"
        label="Supplier's lot"
        style="max-width: 180px"
        :error-messages="errorOf('supplierLot')"
        :aria-required="asks === 'lot'"
        data-field="supplierLot"
      />
      <v-text-field
        v-model="line.quantity"
        :label="line.unit ? `Quantity, ${stockUnitOf(line.unit).symbol}` : 'Quantity'"
        inputmode="decimal"
        class="mono"
        style="max-width: 160px"
        :error-messages="errorOf('quantity')"
        :hint="hint"
        :persistent-hint="hint !== ''"
        aria-required="true"
        data-field="quantity"
      />
      <DayField v-if="asks === 'due'" v-model="line.dueOn" label="Due on" :error-messages="errorOf('dueOn')" field="dueOn" />
    </div>
    <slot />
    <div class="row">
      <v-btn v-if="asksLot" variant="text" size="small" data-test="another-lot" @click="emit('another')">Another lot of it</v-btn>
      <v-btn v-if="isOneOfMany" variant="text" size="small" @click="emit('out')">Take this line out</v-btn>
    </div>
  </fieldset>
</template>

<script setup lang="ts">
import { stockUnitOf } from '@nemawashi/core'
import { type Part, define } from '@nemawashi/contract'
import { computed } from 'vue'
import DayField from '../../components/DayField.vue'
import PickOne from '../../components/PickOne.vue'
import type { GoodsLine } from './goodsLine'

/** A line of goods: which part, how many, and the supplier's lot of it (wanted or not), the day that it is due, or nothing more. */
const {
  index,
  errors,
  isOneOfMany,
  asks,
  hint = '',
} = defineProps<{
  index: number
  errors: Readonly<Record<string, string>>
  isOneOfMany: boolean
  asks: 'lot' | 'lotIfKnown' | 'due' | 'quantity'
  hint?: string
}>()
const line = defineModel<GoodsLine>({ required: true })
const emit = defineEmits<{ another: []; out: [] }>()
const asksLot = computed(() => asks === 'lot' || asks === 'lotIfKnown')
function chosen(part: Pick<Part, 'code' | 'name' | 'unit' | 'tracking' | 'packQuantity'> | null): void {
  line.value.unit = part?.unit ?? ''
  line.value.isSerial = part?.tracking === 'serial'
  line.value.packQuantity = part?.packQuantity ?? null
  line.value.partWords = part === null ? '' : `${part.code} · ${part.name}`
}
const errorOf = (field: string) => errors[`lines.${index}.${field}`] ?? ''
</script>

<style scoped>
fieldset {
  border: 1px solid var(--rule);
  padding: 8px 14px 10px;
}
legend {
  padding: 0 6px;
  color: var(--soft);
}
fieldset .row {
  margin-bottom: 10px;
}
:deep(.mono input) {
  font-family: var(--mono);
}
</style>
