<template>
  <form class="form stack" @submit.prevent="submit()" @focusout="leave">
    <h1>What has arrived?</h1>
    <ErrorNote :failure="saver.note.value" />
    <div class="row top">
      <PickOne
        v-model="supplierId"
        class="grow"
        :endpoint="define.partners.list"
        label="Supplier"
        :filter="isSupplier"
        :error="errors['supplierId']"
        field="supplierId"
      />
      <v-text-field
        v-model="orderNumber"
        label="Order number"
        style="max-width: 200px"
        :error-messages="errors['orderNumber']"
        data-field="orderNumber"
      />
    </div>
    <fieldset>
      <legend>How it came <span class="small">(what is known)</span></legend>
      <div class="row top load">
        <v-text-field
          v-for="{ name, label } in loadFields"
          :key="name"
          v-model="load[name]"
          :label="label"
          :error-messages="errors[`load.${name}`]"
          :data-field="name"
        />
      </div>
      <LineAsks v-if="preview && preview.load.length > 0" of="load" :asked="preview.load" />
    </fieldset>
    <fieldset v-for="(line, i) in lines" :key="line.key" :data-line="i">
      <legend>{{ lines.length > 1 ? `Line ${i + 1}` : 'Goods' }}</legend>
      <div class="row top">
        <PickOne
          v-model="line.partId"
          class="grow"
          :endpoint="define.parts.list"
          label="Part"
          :error="errors[`lines.${i}.partId`]"
          field="partId"
          @chosen="line.unit = String($event?.['unit'] ?? '')"
        />
        <v-text-field
          v-model="line.supplierLot"
          label="Supplier's lot"
          style="max-width: 180px"
          :error-messages="errors[`lines.${i}.supplierLot`]"
          data-field="supplierLot"
        />
        <v-text-field
          v-model="line.quantity"
          :label="line.unit ? `Quantity, ${line.unit}` : 'Quantity'"
          inputmode="numeric"
          class="mono"
          style="max-width: 140px"
          :error-messages="errors[`lines.${i}.quantity`]"
          data-field="quantity"
        />
      </div>
      <v-text-field
        v-model="line.containers"
        label="Containers: how much is in each, e.g. 120 120 96 (empty: loose)"
        class="mono"
        :error-messages="errors[`lines.${i}.containers`]"
        :hint="containerWords(line)"
        persistent-hint
        data-field="containers"
      />
      <LineAsks v-if="previewOf(line)" of="line" :asked="previewOf(line)!.asked" :place-name="previewOf(line)!.placeName" />
      <v-btn v-if="lines.length > 1" variant="text" size="small" @click="lines.splice(i, 1)">Take this line out</v-btn>
    </fieldset>
    <div class="row">
      <v-btn type="submit" color="primary" :loading="saver.isBusy.value">Book it in</v-btn>
      <v-btn variant="text" @click="addLine">Add a line</v-btn>
    </div>
    <p class="soft small">
      Its inspections open by themselves. Where a gate asks for it, the pieces go on hold, and the next screen says where to take them.
    </p>
  </form>
</template>

<script setup lang="ts">
import { endpoints, type Delivery, type LoadFacts, type Partner } from '@nemawashi/contract'
import { ref } from 'vue'
import { call, newKey } from '../frame/api'
import { ask } from '../frame/ask'
import { useUnsaved } from '../frame/unsaved'
import { useCrumbs } from '../frame/crumbs'
import ErrorNote from '../pieces/ErrorNote.vue'
import PickOne from '../pieces/PickOne.vue'
import { useSaver } from '../pieces/useSaver'
import { useTyped } from '../pieces/useTyped'
import { parseContainers } from './containers'
import LineAsks from './LineAsks.vue'
import { useDeliveryPreview } from './useDeliveryPreview'

/** Enters a delivery, as it stands on the delivery note. */
const emit = defineEmits<{ saved: [delivery: Delivery] }>()
const { define, run } = endpoints
const saver = useSaver()
const isSupplier = (row: Partner) => row.kind === 'supplier' && row.isActive
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'New delivery' }])

interface Line {
  key: number
  partId: string | null
  supplierLot: string
  quantity: string
  containers: string
  unit: string
}
let nextKey = 0
const blank = (): Line => ({ key: nextKey++, partId: null, supplierLot: '', quantity: '', containers: '', unit: '' })
const supplierId = ref<string | null>(null)
const orderNumber = ref('')
const load = ref<LoadFacts>({ carrier: '', vehicle: '', driver: '', seal: '', loadNumber: '' })
const loadFields: readonly { name: keyof LoadFacts; label: string }[] = [
  { name: 'carrier', label: 'Carrier' },
  { name: 'vehicle', label: 'Vehicle' },
  { name: 'driver', label: 'Driver' },
  { name: 'seal', label: 'Seal' },
  { name: 'loadNumber', label: 'Load number' },
]
const lines = ref<Line[]>([blank()])
const key = ref(newKey())

let isSaved = false
const isBlank = () =>
  supplierId.value === null &&
  orderNumber.value === '' &&
  Object.values(load.value).every((words) => words === '') &&
  lines.value.every(({ partId, supplierLot, quantity }) => !partId && !supplierLot && !quantity)
useUnsaved(
  () => !isSaved && !isBlank(),
  () => 'this delivery',
)

function containerWords(line: Line): string {
  const amounts = parseContainers(line.containers)
  if (amounts.length === 0) return ''
  const together = amounts.reduce((sum, amount) => sum + amount, 0)
  return `${amounts.length} containers, together ${together}${line.quantity && together !== Number(line.quantity) ? `: not the ${line.quantity} of the note` : ''}`
}
function addLine(): void {
  lines.value.push(blank())
}
const bodyOf = () => ({
  supplierId: supplierId.value ?? '',
  orderNumber: orderNumber.value,
  load: load.value,
  lines: lines.value.map((line) => ({
    partId: line.partId ?? '',
    supplierLot: line.supplierLot,
    quantity: quantityOf(line),
    containers: parseContainers(line.containers).map((quantity) => ({ label: null, quantity })),
  })),
})
const quantityOf = ({ quantity }: Line) => (quantity.trim() === '' ? NaN : Number(quantity.replaceAll(/\s/g, '')))
const { preview, previewOf } = useDeliveryPreview(() => ({
  supplierId: supplierId.value,
  lines: lines.value.map((line) => ({ key: line.key, partId: line.partId, quantity: quantityOf(line) })),
}))
const { errors, leave } = useTyped(saver, () => run.receiveDelivery.body, bodyOf)
async function submit(isAnother = false): Promise<void> {
  const body = bodyOf()
  // A refused request leaves nothing behind; the corrected one is another request.
  const done = await saver.save(async () => {
    const delivery = await call(run.receiveDelivery, { body: { ...body, isAnother } }, { key: key.value })
    isSaved = true
    emit('saved', delivery)
  })
  if (done) return
  const code = saver.failure.value?.code
  if (code !== 'unreachable') key.value = newKey()
  if (code !== 'already_received') return
  const answer = await ask({
    title: 'Has it come once more?',
    text: `${saver.failure.value?.message} If this is another delivery of the same lot, it is booked in as a lot of its own.`,
    yes: 'Yes, another delivery',
    no: 'No, look again',
  })
  if (answer !== null) await submit(true)
}
</script>

<style scoped>
.load > * {
  flex: 1 1 120px;
}
.form {
  padding: 20px 28px 40px;
  max-width: 860px;
}
fieldset {
  border: 1px solid var(--rule);
  padding: 8px 14px 14px;
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
