<template>
  <SheetSplit list-words="Lots" left="minmax(320px, 30%)">
    <template #list>
      <DataList
        name="lots"
        :endpoint="trace.listLots"
        :columns="columns"
        title="Lots"
        :selected-id="id"
        empty-text="Lots appear here when deliveries are booked in."
        :to="(row: LotRow) => ({ path: `/trace/${row.id}`, query: route.query })"
      />
    </template>
    <PassportSheet v-if="id" :id="id" :key="id" />
    <EmptyState v-else title="Passports" text="Choose a lot to see everything that ever happened to it, from arrival to the last piece." />
  </SheetSplit>
</template>

<script setup lang="ts">
import { type LotRow, trace } from '@nemawashi/contract'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { useCrumbs } from '../shell/crumbs'
import DataList from '../components/DataList.vue'
import type { ListColumn } from '../components/listColumn'
import EmptyState from '../components/EmptyState.vue'
import { momentOf } from '../format/format'
import SheetSplit from '../components/SheetSplit.vue'
import PassportSheet from './PassportSheet.vue'

useCrumbs(() => [{ words: 'Trace', to: '/trace' }, { words: 'Lots' }])
const route = useRoute()
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))
const columns: ListColumn[] = [
  { key: 'code', title: 'Lot', isMono: true },
  { key: 'partCode', title: 'Part' },
  { key: 'supplierName', title: 'Supplier', isHidden: true },
  { key: 'supplierLot', title: "Supplier's lot", isMono: true, isHidden: true },
  { key: 'quantity', title: 'Quantity', isNumber: true, isQuantity: true, isHidden: true },
  { key: 'receivedAt', title: 'There since', format: (value: string) => momentOf(value) },
]
</script>
