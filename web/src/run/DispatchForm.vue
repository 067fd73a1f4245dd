<template>
  <form class="form stack" @submit.prevent="submit()" @focusout="leave">
    <h1>What is to leave?</h1>
    <ErrorNote :failure="saver.note.value" />
    <div class="row top">
      <PickOne
        v-model="customerId"
        class="grow"
        :endpoint="define.partners.list"
        label="Customer"
        :filter="isCustomer"
        :error="errors['customerId']"
        field="customerId"
      />
      <v-text-field v-model="orderNumber" class="order" label="Order number" :error-messages="errors['orderNumber']" data-field="orderNumber" />
    </div>
    <div v-for="(pick, i) in picks" :key="pick.key" class="row top" :data-line="i">
      <PickOne
        v-model="pick.id"
        class="grow"
        :endpoint="run.listPickable"
        :label="`Lot ${i + 1}: released, in a store`"
        :error="saver.fieldErrors.value[`picks.${i}.lotId`] ?? saver.fieldErrors.value[`picks.${i}.placeId`]"
        field="lot"
        @chosen="choose(pick, $event)"
      />
      <v-text-field
        v-model="pick.quantity"
        class="number"
        label="Quantity"
        inputmode="numeric"
        :hint="hintOf(pick)"
        persistent-hint
        data-field="quantity"
      />
      <v-btn v-if="picks.length > 1" variant="text" size="small" @click="picks.splice(i, 1)">Take it out</v-btn>
    </div>
    <div class="row">
      <v-btn type="submit" color="primary" :loading="saver.isBusy.value" :disabled="picks.some((pick) => pick.from === null)">Pick it</v-btn>
      <v-btn variant="text" @click="picks.push(blank())">Add a lot</v-btn>
    </div>
    <p class="soft small">
      Only pieces that are released can be picked. What is checked before dispatch opens by itself; a gate keeps it at the door.
    </p>
  </form>
</template>

<script setup lang="ts">
import { endpoints, type Dispatch, type Partner, type Pickable } from '@nemawashi/contract'
import { ref } from 'vue'
import ErrorNote from '../pieces/ErrorNote.vue'
import { whole } from '../pieces/format'
import PickOne from '../pieces/PickOne.vue'
import { useEntry } from '../pieces/useEntry'

/** Picks released pieces for a customer. */
const emit = defineEmits<{ saved: [dispatch: Dispatch] }>()
const { define, run } = endpoints
interface Pick {
  readonly key: number
  id: string | null
  from: Pickable | null
  quantity: string
}
let nextKey = 0
const blank = (): Pick => ({ key: nextKey++, id: null, from: null, quantity: '' })
const customerId = ref<string | null>(null)
const orderNumber = ref('')
const picks = ref<Pick[]>([blank()])
const isCustomer = (row: Partner) => row.kind === 'customer' && row.isActive
const bodyOf = () => ({
  customerId: customerId.value ?? '',
  orderNumber: orderNumber.value,
  picks: picks.value.map(({ from, quantity }) => ({
    lotId: from?.lotId ?? '',
    containerId: from?.containerId ?? null,
    placeId: from?.placeId ?? '',
    quantity: quantity.trim() === '' ? Number.NaN : Number(quantity),
  })),
})
const { saver, errors, leave, submit } = useEntry({
  endpoint: run.pickDispatch,
  bodyOf,
  isBlank: () => customerId.value === null && orderNumber.value === '' && picks.value.every(({ id }) => id === null),
  words: 'the new dispatch',
  saved: (dispatch) => emit('saved', dispatch),
})
function choose(pick: Pick, from: Pickable | null): void {
  pick.from = from
  if (from && pick.quantity === '') pick.quantity = String(from.quantity)
}
const hintOf = ({ from }: Pick) => (from ? `of ${whole(from.quantity)}` : '')
</script>

<style scoped>
.form {
  padding: 20px 28px 40px;
  max-width: 820px;
}
.order {
  max-width: 200px;
}
.number {
  max-width: 140px;
}
</style>
