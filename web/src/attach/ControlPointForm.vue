<template>
  <form class="point stack" @submit.prevent="emit('save')">
    <div class="row">
      <h2 class="grow">{{ point ? `Control point ${point.code}` : 'Attach a plan' }}</h2>
      <v-btn variant="text" @click="emit('close')">Close</v-btn>
    </div>
    <PickOne
      v-model="draft.planId"
      :endpoint="define.listPlans"
      label="Plan (released)"
      :query="{ state: 'released' }"
      :initial="point ? { id: point.planId, title: `${point.planCode} · ${point.planName}` } : null"
      :error="errors['planId']"
      :is-disabled="isFixed"
      field="planId"
    />
    <v-radio-group v-model="reach" inline label="For" :disabled="isFixed">
      <v-radio value="part" :label="`this part, ${part.code}`" />
      <v-radio value="family" label="its whole family" :disabled="part.familyId === null" />
    </v-radio-group>
    <div class="row top">
      <PickOne
        v-model="draft.supplierId"
        class="grow"
        :endpoint="define.partners.list"
        label="Supplier (empty: every one)"
        is-clearable
        :filter="isSupplier"
        :initial="point?.supplierId ? { id: point.supplierId, title: point.supplierName ?? '' } : null"
        :is-disabled="isFixed"
        field="supplierId"
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
    <v-checkbox v-model="draft.isGate" label="Gate: nothing of the lot is put away before the decision" :disabled="isFixed" data-field="isGate" />
    <v-radio-group v-if="!draft.isGate" v-model="draft.onFailure" inline label="When it fails" :disabled="isFixed" data-field="onFailure">
      <v-radio value="hold" label="hold what is still there" />
      <v-radio value="note" label="only note it" />
    </v-radio-group>
    <p class="soft small">{{ reachWords }}</p>
    <div v-if="!isFixed" class="row">
      <v-btn type="submit" color="primary" :loading="isBusy" :disabled="!draft.planId">{{ point ? 'Save' : 'Attach' }}</v-btn>
      <v-btn v-if="point" variant="text" data-test="retire" @click="emit('retire')">Retire</v-btn>
    </div>
  </form>
</template>

<script setup lang="ts">
import type { OnFailure } from '@nemawashi/core'
import { endpoints, type FlowPoint, type Part, type Partner, type Place } from '@nemawashi/contract'
import { computed } from 'vue'
import PickOne from '../pieces/PickOne.vue'

/** What a control point says: which plan, for which part or family, from whom, and whether it is a gate. */
export interface PointDraft {
  operationId: string
  planId: string | null
  partId: string | null
  familyId: string | null
  supplierId: string | null
  holdPlaceId: string | null
  isGate: boolean
  onFailure: OnFailure
}
const draft = defineModel<PointDraft>({ required: true })
const { part } = defineProps<{ point: FlowPoint | null; part: Part; isFixed: boolean; errors: Record<string, string>; isBusy: boolean }>()
const emit = defineEmits<{ save: []; retire: []; close: [] }>()
const { define } = endpoints

const isSupplier = (row: Partner) => row.kind === 'supplier'
const isBay = (row: Place) => row.purpose === 'inspection'
const reach = computed({
  get: () => (draft.value.partId === null ? 'family' : 'part'),
  set: (value) => {
    draft.value.partId = value === 'part' ? part.id : null
    draft.value.familyId = value === 'part' ? null : part.familyId
  },
})
const reachWords = computed(
  () =>
    `Where several could ask the same plan, the narrower goes first: part from a supplier, part, family from a supplier, family. This one is set for ${reach.value === 'part' ? 'this part' : 'the family'}${draft.value.supplierId ? ' from one supplier' : ''}.`,
)
</script>

<style scoped>
.point {
  border-top: 1px solid var(--rule);
  padding-top: 16px;
  max-width: 720px;
}
</style>
