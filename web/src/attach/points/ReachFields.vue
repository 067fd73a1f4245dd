<template>
  <v-radio-group v-model="reach" inline label="For" :disabled="isFixed">
    <v-radio value="part" :label="`this part, ${part.code}`" />
    <v-radio value="family" label="its whole family" :disabled="part.familyId === null" />
    <v-radio value="every" label="every part that passes here" />
  </v-radio-group>
  <div class="row top">
    <PickOne
      v-if="kind === 'receiving'"
      v-model="draft.supplierId"
      class="grow"
      :endpoint="define.partners.list"
      label="Supplier (empty: every one)"
      is-clearable
      :filter="isSupplier"
      :initial="point?.supplierId ? { id: point.supplierId, title: point.supplierName ?? '' } : null"
      :is-disabled="isFixed || draft.supplierGroup !== null"
      field="supplierId"
    />
    <PickOne
      v-else
      v-model="draft.customerId"
      class="grow"
      :endpoint="define.partners.list"
      label="Customer (empty: every one)"
      is-clearable
      :filter="isCustomer"
      :initial="point?.customerId ? { id: point.customerId, title: point.customerName ?? '' } : null"
      :is-disabled="isFixed"
      field="customerId"
    />
    <PickOne
      v-model="draft.holdPlaceId"
      class="grow"
      :endpoint="define.places.list"
      label="Hold place (where the pieces wait)"
      is-clearable
      :filter="isBay"
      :initial="point?.holdPlaceId ? { id: point.holdPlaceId, title: point.holdPlaceName ?? '' } : null"
      :is-disabled="isFixed"
      field="holdPlaceId"
    />
  </div>
  <div v-if="kind === 'receiving'" class="row top">
    <v-text-field
      v-model="supplierGroup"
      class="grow"
      label="Group of suppliers (empty: every one)"
      :disabled="isFixed || draft.supplierId !== null"
      :error-messages="errors['supplierGroup']"
      data-field="supplierGroup"
    />
    <v-text-field
      v-model="contract"
      class="grow"
      label="Contract of the order (empty: every one)"
      :disabled="isFixed"
      :error-messages="errors['contract']"
      data-field="contract"
    />
  </div>
  <p class="soft small">{{ reachWords }}</p>
</template>

<script setup lang="ts">
import { levelOf, levelWords, precedenceWords, type OperationKind } from '@nemawashi/core'
import { type FlowPoint, type Part, type Partner, type Place, define } from '@nemawashi/contract'
import { computed } from 'vue'
import PickOne from '../../components/PickOne.vue'
import type { PointDraft } from './pointDraft'

/** Which goods a control point is for and whose, with where that stands in the order of precedence; and where they wait. */
const draft = defineModel<PointDraft>({ required: true })
const { part, kind } = defineProps<{
  point: FlowPoint | null
  part: Part
  kind: OperationKind
  isFixed: boolean
  errors: Record<string, string>
}>()

const isSupplier = (row: Partner) => row.kind === 'supplier'
const isCustomer = (row: Partner) => row.kind === 'customer'
const isBay = (row: Place) => row.purpose === 'inspection'
const reach = computed({
  get: () => (draft.value.partId !== null ? 'part' : draft.value.familyId !== null ? 'family' : 'every'),
  set: (value) => {
    draft.value.partId = value === 'part' ? part.id : null
    draft.value.familyId = value === 'family' ? part.familyId : null
  },
})
/** A word as its field has it: empty where there is none. */
const wordField = (field: 'supplierGroup' | 'contract') =>
  computed({ get: () => draft.value[field] ?? '', set: (value: string) => (draft.value[field] = value || null) })
const supplierGroup = wordField('supplierGroup')
const contract = wordField('contract')
const reachWords = computed(
  () =>
    `Where several could ask the same plan, the narrower goes first: ${precedenceWords}. This one is set for ${levelWords[levelOf(draft.value)]}.`,
)
</script>
