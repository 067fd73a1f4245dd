<template>
  <div class="stack">
    <div class="row top">
      <v-text-field v-model="rule.name" label="Name" class="wide" data-field="rule-name" />
      <PickOne
        v-model="rule.toPlaceId"
        :endpoint="define.places.list"
        :filter="(row: Place) => movesFrom(row.purpose)"
        :initial="rule.toPlaceId ? { id: rule.toPlaceId, title: rule.toPlaceName } : null"
        label="They go to"
        field="rule-to"
        @chosen="toPlace"
      />
    </div>
    <div class="row top">
      <PickOne
        v-model="rule.partId"
        :endpoint="define.parts.list"
        :initial="rule.partId ? { id: rule.partId, title: rule.partCode ?? '' } : null"
        :is-disabled="rule.familyId !== null"
        label="Part (empty: every one)"
        is-clearable
        field="rule-part"
        @chosen="((rule.partCode = $event?.code ?? null), (rule.partFamilyId = $event?.familyId ?? null))"
      />
      <PickOne
        v-model="rule.familyId"
        :endpoint="define.families.list"
        :initial="rule.familyId ? { id: rule.familyId, title: rule.familyName ?? '' } : null"
        :is-disabled="rule.partId !== null"
        label="Family (empty: every one)"
        is-clearable
        field="rule-family"
        @chosen="rule.familyName = $event?.name ?? null"
      />
      <PickOne
        v-model="rule.supplierId"
        :endpoint="define.partners.list"
        :filter="(row: Partner) => row.kind === 'supplier'"
        :initial="rule.supplierId ? { id: rule.supplierId, title: rule.supplierName ?? '' } : null"
        label="Supplier (empty: every one)"
        is-clearable
        field="rule-supplier"
        @chosen="rule.supplierName = $event?.name ?? null"
      />
    </div>
    <div class="row top">
      <v-select v-model="rule.standing" :items="standingItems" label="Status" data-field="rule-standing" />
      <v-select v-model="rule.moment" :items="momentItems" label="When" data-field="rule-moment" />
      <PickOne
        v-model="rule.fromPlaceId"
        :endpoint="define.places.list"
        :filter="(row: Place) => movesFrom(row.purpose)"
        :initial="rule.fromPlaceId ? { id: rule.fromPlaceId, title: rule.fromPlaceName ?? '' } : null"
        label="From (empty: anywhere)"
        is-clearable
        field="rule-from"
        @chosen="rule.fromPlaceName = $event?.name ?? null"
      />
    </div>
  </div>
</template>

<script setup lang="ts">
import { movesFrom, putAwayMoments, putAwayMomentWords, standingWords } from '@nemawashi/core'
import { type Partner, type Place, define } from '@nemawashi/contract'
import PickOne from '../../components/PickOne.vue'
import type { RuleDraft } from './placeRules'

/** What one rule of the list says: for which pieces, when, from where, and where they go. */
const rule = defineModel<RuleDraft>({ required: true })
const standingItems = [
  { value: null, title: 'any' },
  ...(['released', 'onHold', 'quarantined', 'inRework', 'rejected'] as const).map((value) => ({ value, title: standingWords[value] })),
]
const momentItems = putAwayMoments.map((value) => ({ value, title: putAwayMomentWords[value] }))
function toPlace(row: Place | null): void {
  rule.value.toPlaceName = row?.name ?? ''
  if (row) rule.value.toPurpose = row.purpose
}
</script>

<style scoped>
.row > * {
  flex: 1;
}
</style>
