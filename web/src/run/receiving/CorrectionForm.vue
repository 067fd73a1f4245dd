<template>
  <form class="correction stack" data-test="correction" @submit.prevent="look">
    <h2>Put right what was entered wrongly</h2>
    <p class="soft small">What was entered first stays to be read: in the ledger, on the passport and in the audit trail.</p>
    <div class="row top">
      <v-select v-model="field" class="field" :items="fields" label="What" data-field="correctedField" />
      <v-select v-if="isOfLot && delivery.lots.length > 1" v-model="lotId" class="field" :items="lots" label="Lot" data-field="correctedLot" />
      <v-select
        v-if="field === 'quantity' && containers.length > 0"
        v-model="containerId"
        class="field"
        :items="containers"
        label="Container"
        data-field="correctedContainer"
      />
      <PickOne
        v-if="field === 'supplier'"
        v-model="supplierId"
        class="field grow"
        :endpoint="define.partners.list"
        label="Supplier"
        :filter="isSupplier"
        :initial="{ id: delivery.supplierId, title: delivery.supplierName }"
        field="correctedSupplier"
      />
      <v-text-field
        v-else
        v-model="value"
        class="field grow"
        :label="valueLabels[field]"
        :hint="`entered: ${entered}`"
        persistent-hint
        data-field="correctedValue"
      />
    </div>
    <ul v-if="effects" class="small" data-test="effects">
      <li v-for="(effect, i) in effects" :key="i">
        <b class="m">{{ effect.inspectionCode ?? 'new' }}</b> {{ effect.planName }} on {{ effect.lotCode }}: {{ effectWords(effect) }}
      </li>
      <li v-if="effects.length === 0">No inspection is affected.</li>
    </ul>
    <v-text-field
      v-if="effects"
      v-model="reason"
      label="Reason"
      :error-messages="saver.fieldErrors.value['reason']"
      aria-required="true"
      data-field="correctedReason"
    />
    <ErrorNote :failure="saver.failure.value" />
    <div class="row">
      <v-btn v-if="!effects" type="submit" variant="outlined" color="primary" :loading="saver.isBusy.value" data-test="look">What would it do?</v-btn>
      <v-btn v-else color="primary" :loading="saver.isBusy.value" data-test="put-right" @click="putRight">Put it right</v-btn>
      <v-btn variant="text" @click="emit('close')">Leave it</v-btn>
    </div>
  </form>
</template>

<script setup lang="ts">
import { amount, typedQuantity } from '../../format/format'
import type { CorrectedField } from '@nemawashi/core'
import { type Correction, type CorrectionEffect, type Delivery, type Partner, define, run } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { call } from '../../shell/api'
import { notify } from '../../shell/notify'
import { useUnsaved } from '../../shell/unsaved'
import ErrorNote from '../../components/ErrorNote.vue'
import PickOne from '../../components/PickOne.vue'
import { useSaver } from '../../composables/useSaver'

/** Puts a delivery right: what, what it should have been, what that does to inspections, and why. */
const { delivery } = defineProps<{ delivery: Delivery }>()
const emit = defineEmits<{ corrected: [delivery: Delivery]; close: [] }>()
const saver = useSaver()
const fields: readonly { title: string; value: CorrectedField }[] = [
  { title: 'how many came', value: 'quantity' },
  { title: "the supplier's lot", value: 'supplierLot' },
  { title: 'the supplier', value: 'supplier' },
  { title: 'the order number', value: 'orderNumber' },
]
const field = ref<CorrectedField>('quantity')
const lotId = ref(delivery.lots[0]?.id ?? '')
const containerId = ref<string | null>(null)
const supplierId = ref<string | null>(null)
const value = ref('')
const reason = ref('')
const effects = ref<readonly CorrectionEffect[] | null>(null)
const isSupplier = (row: Partner) => row.kind === 'supplier' && row.isActive

const lot = computed(() => delivery.lots.find(({ id }) => id === lotId.value) ?? null)
const lots = computed(() => delivery.lots.map(({ id, code, partCode }) => ({ title: `${code} · ${partCode}`, value: id })))
const isOfLot = computed(() => field.value === 'quantity' || field.value === 'supplierLot')
const containers = computed(() => {
  const named = new Map((lot.value?.balances ?? []).map((balance) => [balance.containerId, balance.containerLabel] as const))
  return [...named].flatMap(([id, label]) => (id === null ? [] : [{ title: label ?? '', value: id }]))
})
const came = computed(() =>
  (lot.value?.balances ?? [])
    .filter((balance) => balance.containerId === containerId.value && balance.standing !== 'notArrived')
    .reduce((sum, { quantity }) => sum + quantity, 0),
)
const valueLabels = { quantity: 'How many came', supplierLot: "Supplier's lot", orderNumber: 'Order number', supplier: '' } as const
const entered = computed(() => {
  if (field.value === 'quantity') return amount(came.value, lot.value?.unit ?? 'piece')
  return field.value === 'supplierLot' ? (lot.value?.supplierLot ?? '') : delivery.orderNumber
})
watch([lotId, field], () => (containerId.value = containers.value[0]?.value ?? null), { immediate: true })
// What was looked at under other words says nothing of these.
watch([field, lotId, containerId, supplierId, value], () => {
  effects.value = null
  saver.clear()
})
useUnsaved(
  () => value.value !== '' || supplierId.value !== null || reason.value !== '',
  () => `the correction of ${delivery.code}`,
)

function effectWords({ effect, sampleSize, sampleNow }: CorrectionEffect): string {
  if (effect === 'opens') return 'opens, because it is asked of this supplier'
  if (effect === 'noLonger') return 'is not asked of this supplier; it stays open until somebody calls it off'
  if (effect === 'newSample') return `takes a sample of ${sampleNow ?? 0} instead of ${sampleSize ?? 0}: nobody has begun with it`
  return `keeps its sample of ${sampleSize ?? 0}, although ${sampleNow ?? 0} would be asked for now`
}
function correction(): Correction {
  switch (field.value) {
    case 'quantity':
      return {
        field: 'quantity',
        lotId: lotId.value,
        containerId: containerId.value,
        quantity: typedQuantity(value.value, lot.value?.unit ?? 'piece'),
      }
    case 'supplierLot':
      return { field: 'supplierLot', lotId: lotId.value, supplierLot: value.value }
    case 'supplier':
      return { field: 'supplier', supplierId: supplierId.value ?? '' }
    case 'orderNumber':
      return { field: 'orderNumber', orderNumber: value.value }
  }
}
const params = { id: delivery.id }
async function look(): Promise<void> {
  await saver.save(async () => {
    effects.value = (await call(run.checkCorrection, { params, body: { correction: correction() } })).effects
  })
}
async function putRight(): Promise<void> {
  await saver.save(async () => {
    const corrected = await call(run.correctDelivery, { params, body: { correction: correction(), reason: reason.value } })
    value.value = ''
    supplierId.value = null
    reason.value = ''
    notify('Put right.')
    emit('corrected', corrected)
  })
}
</script>

<style scoped>
.correction {
  border: 1px solid var(--rule);
  padding: 14px 16px;
}
.correction p,
.correction ul {
  margin: 0;
}
.field {
  flex: 1 1 180px;
}
</style>
