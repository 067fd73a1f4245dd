<template>
  <form v-first-focus class="form stack" @submit.prevent="submit()" @focusout="leave">
    <h1>What is to be picked, and for whom?</h1>
    <ErrorNote :failure="saver.note.value" />
    <CustomerOrder v-model:customer-id="customerId" v-model:order-number="orderNumber" :errors="errors">
      <DayField v-model="leavesOn" label="Leaves on" :error-messages="errors['leavesOn']" field="leavesOn" />
    </CustomerOrder>
    <GoodsLineFields
      v-for="(line, i) in lines"
      :key="line.key"
      v-model="lines[i]!"
      :index="i"
      :errors="errors"
      :is-one-of-many="lines.length > 1"
      asks="quantity"
      @out="lines.splice(i, 1)"
    />
    <div class="row">
      <v-btn type="submit" color="primary" :loading="saver.isBusy.value">Plan it</v-btn>
      <v-btn variant="text" @click="lines.push(goodsLine())">Add a part</v-btn>
    </div>
    <p class="soft small">What is asked before picking opens by itself. Which lots it is picked from is chosen then.</p>
  </form>
</template>

<script setup lang="ts">
import { type Dispatch, run } from '@nemawashi/contract'
import { ref } from 'vue'
import { vFirstFocus } from '../../shell/firstFocus'
import DayField from '../../components/DayField.vue'
import ErrorNote from '../../components/ErrorNote.vue'
import { useEntry } from '../../composables/useEntry'
import CustomerOrder from './CustomerOrder.vue'
import GoodsLineFields from '../goods/GoodsLineFields.vue'
import { goodsLine, isBlankLine, quantityOf, type GoodsLine } from '../goods/goodsLine'

/** Plans a dispatch: parts and quantities for a customer, before anybody picks them. */
const emit = defineEmits<{ saved: [dispatch: Dispatch] }>()
const customerId = ref<string | null>(null)
const orderNumber = ref('')
const leavesOn = ref('')
const lines = ref<GoodsLine[]>([goodsLine()])
const { saver, errors, leave, submit } = useEntry({
  endpoint: run.planDispatch,
  bodyOf: () => ({
    customerId: customerId.value ?? '',
    orderNumber: orderNumber.value,
    leavesOn: leavesOn.value === '' ? null : leavesOn.value,
    lines: lines.value.map((line) => ({ partId: line.partId ?? '', quantity: quantityOf(line) })),
  }),
  isBlank: () => customerId.value === null && orderNumber.value === '' && lines.value.every(isBlankLine),
  words: 'the planned dispatch',
  saved: (dispatch) => emit('saved', dispatch),
})
</script>

<style scoped>
.form {
  padding: 20px 28px 40px;
  max-width: 820px;
}
</style>
