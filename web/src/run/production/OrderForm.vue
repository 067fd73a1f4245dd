<template>
  <form v-first-focus class="form stack" @submit.prevent="submit()" @focusout="leave">
    <h1>What is to be made?</h1>
    <ErrorNote :failure="saver.note.value" />
    <PickOne
      v-model="partId"
      :endpoint="define.parts.list"
      label="Part"
      :error="errors['partId']"
      is-needed
      field="partId"
      @chosen="unit = $event?.unit ?? ''"
    />
    <div class="row top">
      <v-text-field
        v-model="quantity"
        :label="unit ? `Quantity, ${stockUnitOf(unit).symbol}` : 'Quantity'"
        inputmode="decimal"
        class="mono"
        :error-messages="errors['quantity']"
        aria-required="true"
        data-field="quantity"
      />
      <v-text-field
        v-model="orderNumber"
        class="grow"
        label="For order (empty: for stock)"
        :error-messages="errors['orderNumber']"
        data-field="orderNumber"
      />
    </div>
    <PickOne
      v-model="customerId"
      :endpoint="define.partners.list"
      label="Customer (empty: for stock)"
      is-clearable
      :filter="isCustomer"
      :error="errors['customerId']"
      field="customerId"
    />
    <div><v-btn type="submit" color="primary" :loading="saver.isBusy.value">Plan it</v-btn></div>
    <p class="soft small">Its steps are the production operations on the way of the part. The lot is given when the order is released.</p>
  </form>
</template>

<script setup lang="ts">
import { stockUnitOf } from '@nemawashi/core'
import { typedQuantity } from '../../format/format'
import { type Partner, type ProductionOrder, define, run } from '@nemawashi/contract'
import { ref } from 'vue'
import { vFirstFocus } from '../../shell/firstFocus'
import ErrorNote from '../../components/ErrorNote.vue'
import PickOne from '../../components/PickOne.vue'
import { useEntry } from '../../composables/useEntry'

/** Plans a production order. */
const emit = defineEmits<{ saved: [order: ProductionOrder] }>()
const partId = ref<string | null>(null)
const quantity = ref('')
/** What the part is counted in. */
const unit = ref('')
const orderNumber = ref('')
const customerId = ref<string | null>(null)
const isCustomer = (row: Partner) => row.kind === 'customer' && row.isActive
const bodyOf = () => ({
  partId: partId.value ?? '',
  quantity: typedQuantity(quantity.value, unit.value),
  orderNumber: orderNumber.value,
  customerId: customerId.value,
})
const { saver, errors, leave, submit } = useEntry({
  endpoint: run.createOrder,
  bodyOf,
  isBlank: () => partId.value === null && quantity.value === '',
  words: 'the new order',
  saved: (order) => emit('saved', order),
})
</script>

<style scoped>
.form {
  padding: 20px 28px 40px;
  max-width: 640px;
}
</style>
