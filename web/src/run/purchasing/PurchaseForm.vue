<template>
  <form v-first-focus class="form stack" @submit.prevent="submit()" @focusout="leave">
    <h1>What is ordered?</h1>
    <ErrorNote :failure="saver.note.value" />
    <SupplierOrder v-model:supplier-id="supplierId" v-model:order-number="orderNumber" :errors="errors">
      <v-text-field v-model="contract" label="Contract" style="max-width: 200px" :error-messages="errors['contract']" data-field="contract" />
    </SupplierOrder>
    <GoodsLineFields
      v-for="(line, i) in lines"
      :key="line.key"
      v-model="lines[i]!"
      :index="i"
      :errors="errors"
      :is-one-of-many="lines.length > 1"
      asks="due"
      @out="lines.splice(i, 1)"
    />
    <div class="row">
      <v-btn type="submit" color="primary" :loading="saver.isBusy.value">Enter it</v-btn>
      <v-btn variant="text" @click="lines.push(goodsLine())">Add a line</v-btn>
    </div>
    <p class="soft small">What comes on it is read from the deliveries that name its number: nothing has to be ticked off.</p>
  </form>
</template>

<script setup lang="ts">
import { type PurchaseOrder, run } from '@nemawashi/contract'
import { ref } from 'vue'
import { useCrumbs } from '../../shell/crumbs'
import { vFirstFocus } from '../../shell/firstFocus'
import ErrorNote from '../../components/ErrorNote.vue'
import { useEntry } from '../../composables/useEntry'
import GoodsLineFields from '../goods/GoodsLineFields.vue'
import { goodsLine, isBlankLine, quantityOf, type GoodsLine } from '../goods/goodsLine'
import SupplierOrder from './SupplierOrder.vue'

/** Enters a purchase order as it was placed. */
const emit = defineEmits<{ saved: [order: PurchaseOrder] }>()
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Purchase orders', to: '/run/purchase-orders' }, { words: 'New' }])
const supplierId = ref<string | null>(null)
const orderNumber = ref('')
const contract = ref('')
const lines = ref<GoodsLine[]>([goodsLine()])
const { saver, errors, leave, submit } = useEntry({
  endpoint: run.createPurchaseOrder,
  bodyOf: () => ({
    supplierId: supplierId.value ?? '',
    orderNumber: orderNumber.value,
    contract: contract.value,
    lines: lines.value.map((line) => ({ partId: line.partId ?? '', quantity: quantityOf(line), dueOn: line.dueOn === '' ? null : line.dueOn })),
  }),
  isBlank: () => supplierId.value === null && orderNumber.value === '' && lines.value.every(isBlankLine),
  words: 'this order',
  saved: (made) => emit('saved', made),
})
</script>

<style scoped>
.form {
  padding: 20px 28px 40px;
  max-width: 860px;
}
</style>
