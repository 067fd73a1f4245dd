<template>
  <div v-if="orders.length > 0" class="orders small" data-test="open-orders">
    <span class="soft">Open orders:</span>
    <v-btn
      v-for="of in orders"
      :key="of.id"
      size="small"
      :variant="of.orderNumber === orderNumber ? 'tonal' : 'text'"
      :aria-pressed="of.orderNumber === orderNumber"
      @click="emit('chosen', of)"
      >{{ of.orderNumber }} <span class="soft">&nbsp;{{ of.partCodes }}{{ of.dueOn ? `, due ${dayWords(of.dueOn)}` : '' }}</span></v-btn
    >
    <span v-if="more > 0" class="soft">and {{ more }} more: write the number</span>
  </div>
</template>

<script setup lang="ts">
import type { PurchaseOrderRow } from '@nemawashi/contract'
import { dayWords } from '../../format/format'

/** What was ordered of a supplier and is not closed: one of them fills the lines in. */
defineProps<{ orders: readonly PurchaseOrderRow[]; more: number; orderNumber: string }>()
const emit = defineEmits<{ chosen: [order: PurchaseOrderRow] }>()
</script>

<style scoped>
.orders {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 8px;
}
</style>
