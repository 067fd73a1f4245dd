<template>
  <section class="stack" aria-label="What it measured">
    <h2 class="minor">What it measured</h2>
    <p class="soft small">
      If it turns out to be bad, this is in doubt<template v-if="gauge.calibratedOn"
        >: what it measured since it was last known to be good, {{ dayWords(gauge.calibratedOn) }}</template
      >.
    </p>
    <v-checkbox
      v-if="gauge.calibratedOn"
      v-model="isSinceKnownGood"
      :label="`Only since ${dayWords(gauge.calibratedOn)}`"
      density="compact"
      data-test="since-good"
    />
    <div class="uses">
      <DataList
        name="gauge uses"
        :endpoint="equip.listGaugeUses"
        :columns="columns"
        :query="{ gaugeId: gauge.id, since: isSinceKnownGood ? since : undefined }"
        empty-text="It has measured nothing yet."
        :to="(row: GaugeUseRow) => `/record/${row.inspectionId}`"
      />
    </div>
  </section>
</template>

<script setup lang="ts">
import { equip, type Gauge, type GaugeUseRow } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import DataList from '../components/DataList.vue'
import type { ListColumn } from '../components/listColumn'
import { dayWords, momentOf } from '../format/format'
import { startOfPlantDay } from '../shell/plantTime'

/** The doubt list of a gauge: each inspection in which it was chosen, with how many values it gave and why it was used where something spoke against it. */
const { gauge } = defineProps<{ gauge: Gauge }>()
const isSinceKnownGood = ref(false)
const since = computed(() => (gauge.calibratedOn === null ? undefined : startOfPlantDay(gauge.calibratedOn)))
const columns: ListColumn[] = [
  { key: 'code', title: 'Inspection', isMono: true },
  { key: 'characteristic', title: 'Characteristic' },
  { key: 'lotCode', title: 'Lot', isMono: true },
  { key: 'partName', title: 'Part', isHidden: true },
  { key: 'values', title: 'Values', isNumber: true },
  { key: 'at', title: 'From', format: (value: string) => momentOf(value) },
  { key: 'byName', title: 'By', isHidden: true },
  { key: 'reason', title: 'Used although, because' },
]
</script>

<style scoped>
.stack > p {
  margin: 0;
}
.uses {
  border: 1px solid var(--rule);
  height: 340px;
}
</style>
