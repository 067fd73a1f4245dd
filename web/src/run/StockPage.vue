<template>
  <div class="stock">
    <RunNav current="/run/stock" />
    <TabLinks label="Which standing" :tabs="links" />
    <DataList
      :key="standing ?? 'all'"
      :name="`stock ${standing ?? 'all'}`"
      :endpoint="run.listStock"
      :columns="columns"
      is-main
      title="Stock"
      :query="standing ? { standing } : {}"
      empty-text="Nothing is there. Pieces come with a delivery, or are made with an order."
      :to="(row: StockRow) => `/trace/${row.lotId}`"
    >
      <template #standing="{ row }"
        ><span :class="row['standing'] === 'onHold' ? 'hold' : ''">{{ standingWords[row['standing'] as StockRow['standing']] }}</span></template
      >
      <template #looksLike="{ row }"
        ><span v-if="row['looksLike']" class="marginal">△ look again: {{ row['looksLike'] }}</span></template
      >
    </DataList>
  </div>
</template>

<script setup lang="ts">
import { standings, standingWords, type Standing } from '@nemawashi/core'
import { endpoints, type StockRow } from '@nemawashi/contract'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { useCrumbs } from '../frame/crumbs'
import DataList from '../pieces/DataList.vue'
import { momentOf } from '../pieces/format'
import type { ListColumn } from '../pieces/listColumn'
import TabLinks from '../pieces/TabLinks.vue'
import RunNav from './RunNav.vue'

/** What is where, and what may be done with it: every lot with its full number, by container, place and standing. */
const { run } = endpoints
const route = useRoute()
const standing = computed<Standing | null>(() => standings.find((entry) => entry === route.query['standing']) ?? null)
const tabs: readonly { words: string; standing: Standing | null }[] = [
  { words: 'All', standing: null },
  ...(['released', 'onHold', 'quarantined', 'shipped', 'used', 'scrapped', 'returned'] as const).map((entry) => ({
    words: standingWords[entry],
    standing: entry,
  })),
]
const links = computed(() =>
  tabs.map((tab) => ({
    words: tab.words,
    to: { path: '/run/stock', query: tab.standing ? { standing: tab.standing } : {} },
    isOn: tab.standing === standing.value,
  })),
)
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Stock' }])
const columns: ListColumn[] = [
  { key: 'partCode', title: 'Part' },
  { key: 'partName', title: 'Name', isHidden: true },
  { key: 'lotCode', title: 'Lot', isMono: true },
  { key: 'supplierLot', title: "Supplier's lot", isMono: true },
  { key: 'containerLabel', title: 'Container', isMono: true, format: (value: string | null) => value ?? 'loose' },
  { key: 'placeName', title: 'Place' },
  { key: 'standing', title: 'Standing' },
  { key: 'quantity', title: 'Quantity', isNumber: true },
  { key: 'unit', title: 'Unit' },
  { key: 'since', title: 'Since', format: (value: string) => momentOf(value) },
  { key: 'looksLike', title: 'Look-alike' },
]
</script>

<style scoped>
.stock {
  height: 100%;
  display: flex;
  flex-direction: column;
  background: var(--sheet);
}
.stock > .list {
  flex: 1;
}
</style>
