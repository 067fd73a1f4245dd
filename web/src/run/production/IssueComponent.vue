<template>
  <form class="row top" data-test="issue" @submit.prevent="issue">
    <PickOne
      v-model="chosen"
      class="grow"
      :endpoint="run.listPickable"
      :title-of="pickableWords"
      label="Issue a component: a lot, released, in a store"
      field="component"
      :error="saver.failure.value?.message"
      @chosen="row = $event"
    />
    <v-text-field
      v-model="quantity"
      class="number"
      :label="row ? `Quantity, ${stockUnitOf(row.unit).symbol}` : 'Quantity'"
      inputmode="decimal"
      data-field="issued"
    />
    <v-btn type="submit" variant="outlined" :disabled="!row || !quantity" :loading="saver.isBusy.value">Issue it</v-btn>
  </form>
</template>

<script setup lang="ts">
import { pickableWords } from '../goods/pickableWords'
import { stockUnitOf } from '@nemawashi/core'
import { typedQuantity } from '../../format/format'
import { type Pickable, type ProductionOrder, run } from '@nemawashi/contract'
import { ref } from 'vue'
import { call } from '../../shell/api'
import PickOne from '../../components/PickOne.vue'
import { useSaver } from '../../composables/useSaver'

/** Issues pieces of a lot in a store to an order. */
const { order } = defineProps<{ order: ProductionOrder }>()
const emit = defineEmits<{ issued: [order: ProductionOrder] }>()
const saver = useSaver()
const chosen = ref<string | null>(null)
const row = ref<Pickable | null>(null)
const quantity = ref('')

async function issue(): Promise<void> {
  const from = row.value
  if (!from) return
  await saver.save(async () => {
    const { lotId, containerId, placeId } = from
    const body = { version: order.version, lotId, containerId, placeId, quantity: typedQuantity(quantity.value, from.unit) }
    emit('issued', await call(run.issueComponent, { params: { id: order.id }, body }))
    chosen.value = row.value = null
    quantity.value = ''
  })
}
</script>

<style scoped>
.number {
  max-width: 130px;
}
</style>
