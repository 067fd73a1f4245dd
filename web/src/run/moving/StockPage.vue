<template>
  <div class="stock">
    <RunNav current="/run/stock" />
    <TabLinks label="Which status" :tabs="links" />
    <DataList
      :key="`${standing ?? 'all'} ${day ?? ''}`"
      :name="`stock ${standing ?? 'all'}`"
      :endpoint="run.listStock"
      :columns="columns"
      is-main
      :title="day ? `Stock at the end of ${dayWords(day)}` : 'Stock'"
      :query="asked"
      empty-text="Nothing is there. Pieces come with a delivery, or are made with an order."
      :to="(row: StockRow) => `/trace/${row.lotId}`"
    >
      <template #head
        ><DayField v-model="asStoodOn" label="As it stood at the end of" :max="today" field="stock-day" /><button
          v-if="day"
          class="now"
          @click="day = null"
        >
          now
        </button></template
      >
      <template #standing="{ row }"
        ><span :class="row.standing === 'onHold' ? 'hold' : ''"
          >{{ standingWords[row.standing] }}{{ row.finer ? `: ${row.finer}` : '' }}</span
        ></template
      >
      <template #holdDays="{ row }"
        ><span v-if="freeOn(row)" :class="freeOn(row)! < (day ?? today) ? 'marginal' : ''"
          >{{ freeOn(row)! < (day ?? today) ? '△ ' : '' }}{{ dayWords(freeOn(row)!) }}</span
        ></template
      >
      <template #looksLike="{ row }"
        ><span v-if="row.looksLike" class="marginal">△ look again: {{ row.looksLike }}</span></template
      >
    </DataList>
  </div>
</template>

<script setup lang="ts">
import { dayBeside, standings, standingWords, stockUnitOf, type Standing } from '@nemawashi/core'
import { Day, type StockRow, run } from '@nemawashi/contract'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCrumbs } from '../../shell/crumbs'
import { plantDay, startOfPlantDay } from '../../shell/plantTime'
import DataList from '../../components/DataList.vue'
import DayField from '../../components/DayField.vue'
import { dayWords, momentOf } from '../../format/format'
import type { ListColumn } from '../../components/listColumn'
import TabLinks from '../../components/TabLinks.vue'
import { useDayFilter } from '../../composables/useDayFilter'
import RunNav from '../RunNav.vue'

/** What is where, and what may be done with it: every lot with its full number, by container, place and standing. */
const route = useRoute()
const router = useRouter()
const standing = computed<Standing | null>(() => standings.find((entry) => entry === route.query['standing']) ?? null)
const tabs: readonly { words: string; standing: Standing | null }[] = [
  { words: 'all', standing: null },
  ...(['released', 'onHold', 'quarantined', 'shipped', 'used', 'scrapped', 'returned'] as const).map((entry) => ({
    words: standingWords[entry],
    standing: entry,
  })),
]
const today = plantDay(new Date())
/** The day on which what is on hold is planned to be free. */
const freeOn = ({ since, heldSince, holdDays }: StockRow) => (holdDays === null ? null : dayBeside(plantDay(heldSince ?? since), holdDays))
/** A past day of the plant: the stock as it stood when it ended. */
const day = computed<string | null>({
  get: () => {
    const asDay = Day.safeParse(route.query['day'])
    return asDay.success && asDay.data < today ? asDay.data : null
  },
  set: (to) => void router.replace({ query: { ...route.query, day: to === null || to >= today ? undefined : to } }),
})
const asStoodOn = useDayFilter(day)
const endOf = (day: string) => new Date(Date.parse(startOfPlantDay(dayBeside(day, 1))) - 1).toISOString()
const asked = computed(() => ({ ...(standing.value ? { standing: standing.value } : {}), ...(day.value ? { at: endOf(day.value) } : {}) }))
const links = computed(() =>
  tabs.map((tab) => ({
    words: tab.words,
    to: { path: '/run/stock', query: { ...(tab.standing ? { standing: tab.standing } : {}), ...(day.value ? { day: day.value } : {}) } },
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
  { key: 'standing', title: 'Status' },
  { key: 'quantity', title: 'Quantity', isNumber: true, isQuantity: true },
  { key: 'unit', title: 'Unit', format: (value: string) => stockUnitOf(value).symbol },
  { key: 'since', title: 'Since', format: (value: string) => momentOf(value) },
  { key: 'holdDays', title: 'Planned free' },
  { key: 'looksLike', title: 'Look-alike' },
]
</script>

<style scoped>
/* Its label is longer than a day. */
:deep(.day) {
  min-width: 244px;
}
.stock {
  height: 100%;
  display: flex;
  flex-direction: column;
  background: var(--sheet);
}
.stock > .list {
  flex: 1;
}
.now {
  border: 0;
  background: none;
  color: var(--indigo);
  font: 600 13px var(--words);
  cursor: pointer;
}
:deep(thead th) {
  background: var(--sheet);
}
</style>
