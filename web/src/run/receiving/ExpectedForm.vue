<template>
  <form v-first-focus class="form stack" @submit.prevent="send" @focusout="leave">
    <h1>What is to come?</h1>
    <ErrorNote :failure="saver.note.value" />
    <SupplierOrder v-if="!isWaiting" v-model:supplier-id="supplierId" v-model:order-number="orderNumber" :errors="errors" :given="given">
      <DayField v-model="expectedOn" label="Expected on" :error-messages="errors['expectedOn']" field="expectedOn" />
    </SupplierOrder>
    <OpenOrders :orders="orders" :more="more" :order-number="orderNumber" @chosen="choose" />
    <LoadFields v-model="load" :errors="errors" />
    <GoodsLineFields
      v-for="(line, i) in lines"
      :key="line.key"
      v-model="lines[i]!"
      :index="i"
      :errors="errors"
      :is-one-of-many="lines.length > 1"
      asks="lotIfKnown"
      :hint="hints[i] ?? ''"
      @another="lines.splice(i + 1, 0, goodsLine({ partId: line.partId, partWords: line.partWords, unit: line.unit }))"
      @out="lines.splice(i, 1)"
    />
    <v-checkbox v-model="isHere" label="It stands at the dock already: nobody announced it" data-field="isHere" />
    <div class="row">
      <v-btn type="submit" color="primary" :loading="saver.isBusy.value">{{ isHere ? 'Register it' : 'Announce it' }}</v-btn>
      <v-btn variant="text" @click="lines.push(goodsLine())">Add a line</v-btn>
    </div>
    <p class="soft small">
      Nothing is in stock yet. What is asked of the load when it is announced or registered opens by itself; a gate keeps its receipt from being
      posted.
    </p>
  </form>
</template>

<script setup lang="ts">
import { type ExpectedDelivery, type LoadFacts, noLoad, run } from '@nemawashi/contract'
import { ref } from 'vue'
import { ask } from '../../shell/ask'
import { useCrumbs } from '../../shell/crumbs'
import { vFirstFocus } from '../../shell/firstFocus'
import DayField from '../../components/DayField.vue'
import ErrorNote from '../../components/ErrorNote.vue'
import { useEntry } from '../../composables/useEntry'
import GoodsLineFields from '../goods/GoodsLineFields.vue'
import { goodsLine, isBlankLine, quantityOf, type GoodsLine } from '../goods/goodsLine'
import LoadFields from './LoadFields.vue'
import OpenOrders from '../purchasing/OpenOrders.vue'
import { useOrdered } from '../purchasing/useOrdered'
import { usePrefilled } from './usePrefilled'
import SupplierOrder from '../purchasing/SupplierOrder.vue'

/** Announces a delivery, or registers one that stands at the dock. */
const { orderId = null } = defineProps<{ orderId?: string | null }>()
const emit = defineEmits<{ saved: [expected: ExpectedDelivery] }>()
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Expected', to: '/run/expected' }, { words: 'New' }])

const supplierId = ref<string | null>(null)
const orderNumber = ref('')
const expectedOn = ref('')
const load = ref<LoadFacts>({ ...noLoad })
const lines = ref<GoodsLine[]>([goodsLine()])
const isHere = ref(false)
const { orders, more, fill, choose, hints } = useOrdered({ supplierId, orderNumber, lines })
const { given, isWaiting } = usePrefilled({ orderId }, { fromOrder: fill })
const { saver, errors, leave, submit } = useEntry({
  endpoint: run.announce,
  bodyOf: () => ({
    supplierId: supplierId.value ?? '',
    orderNumber: orderNumber.value,
    expectedOn: expectedOn.value === '' ? null : expectedOn.value,
    load: load.value,
    lines: lines.value.map((line) => ({ partId: line.partId ?? '', quantity: quantityOf(line), supplierLot: line.supplierLot })),
    isHere: isHere.value,
  }),
  isBlank: () => supplierId.value === null && orderNumber.value === '' && lines.value.every(isBlankLine),
  words: 'this delivery',
  saved: (made) => emit('saved', made),
})
async function send(): Promise<void> {
  if (await submit()) return
  if (saver.failure.value?.code !== 'already_announced') return
  const answer = await ask({
    title: 'Do they come twice?',
    text: `${saver.failure.value?.message} If these come in addition, they are announced as a delivery of their own.`,
    yes: 'Yes, in addition',
    no: 'No, look again',
  })
  if (answer !== null) await submit({ isAnother: true })
}
</script>

<style scoped>
.form {
  padding: 20px 28px 40px;
  max-width: 860px;
}
</style>
