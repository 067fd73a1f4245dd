<template>
  <form v-first-focus class="form stack" @submit.prevent="submit()" @focusout="leave">
    <h1>What is to leave?</h1>
    <ErrorNote :failure="saver.note.value" />
    <CustomerOrder v-model:customer-id="customerId" v-model:order-number="orderNumber" :errors="errors" />
    <PickFields v-model="picks" :errors="errors" is-unplanned />
    <div class="row">
      <v-btn type="submit" color="primary" :loading="saver.isBusy.value" :disabled="!picks.every(isChosen)">Pick it</v-btn>
      <v-btn variant="text" @click="picks.push(blankPick())">Add a lot</v-btn>
    </div>
    <p class="soft small">
      Only pieces that are released can be picked. What is checked before it leaves opens by itself, with what would have been asked before picking; a
      gate keeps it at the door.
    </p>
  </form>
</template>

<script setup lang="ts">
import { type Dispatch, run } from '@nemawashi/contract'
import { ref } from 'vue'
import { vFirstFocus } from '../../shell/firstFocus'
import ErrorNote from '../../components/ErrorNote.vue'
import { useEntry } from '../../composables/useEntry'
import CustomerOrder from './CustomerOrder.vue'
import PickFields from './PickFields.vue'
import { blankPick, isChosen, pickBodies, type Pick } from './picks'

/** Picks released pieces for a customer. */
const emit = defineEmits<{ saved: [dispatch: Dispatch] }>()
const customerId = ref<string | null>(null)
const orderNumber = ref('')
const picks = ref<Pick[]>([blankPick()])
const bodyOf = () => ({
  customerId: customerId.value ?? '',
  orderNumber: orderNumber.value,
  picks: pickBodies(picks.value),
})
const { saver, errors, leave, submit } = useEntry({
  endpoint: run.pickDispatch,
  bodyOf,
  isBlank: () => customerId.value === null && orderNumber.value === '' && picks.value.every(({ id }) => id === null),
  words: 'the new dispatch',
  saved: (dispatch) => emit('saved', dispatch),
})
</script>

<style scoped>
.form {
  padding: 20px 28px 40px;
  max-width: 820px;
}
</style>
