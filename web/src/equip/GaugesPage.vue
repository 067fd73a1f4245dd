<template>
  <SheetSplit list-words="Register of gauges" left="minmax(430px, 42%)">
    <template #nav><EquipNav /></template>
    <template #list>
      <DataList
        ref="list"
        name="gauges"
        :endpoint="equip.listGauges"
        :columns="columns"
        title="Gauges"
        :query="{ due: due ?? undefined, state: due === null ? undefined : 'inUse' }"
        :selected-id="id"
        empty-text="The register names what is measured with: its range, its resolution, and when it is due for calibration."
        :to="(row: GaugeRow) => ({ path: `/equip/gauges/${row.id}`, query: route.query })"
      >
        <template #head
          ><v-btn v-if="mayEdit" color="primary" variant="outlined" size="small" data-test="new" @click="begin">New gauge</v-btn></template
        >
        <template #narrow>
          <div class="narrow"><v-select v-model="due" :items="dueChoices" label="Calibration" clearable data-field="due" /></div>
        </template>
        <template #dueOn="{ row }"
          ><span :class="row.state === 'inUse' && isOverdue(row) ? 'nonconforming' : ''">{{ dueOf(row) }}</span></template
        >
        <template #state="{ row }"
          ><span :class="row.state === 'locked' ? 'marginal' : ''">{{ gaugeStateWords[row.state] }}</span></template
        >
      </DataList>
    </template>
    <GaugeForm v-if="id" :id="id" :key="id" @saved="list?.reload()" />
    <EmptyState v-else title="What is measured with" :text="`Choose a gauge from the list${mayEdit ? ', or put one into the register' : ''}.`" />
  </SheetSplit>
</template>

<script setup lang="ts">
import { equip, type dueStates, type GaugeRow } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCrumbs } from '../shell/crumbs'
import { useKeys } from '../shell/keys'
import { useSession } from '../shell/session'
import DataList from '../components/DataList.vue'
import EmptyState from '../components/EmptyState.vue'
import type { ListColumn } from '../components/listColumn'
import SheetSplit from '../components/SheetSplit.vue'
import { momentOf } from '../format/format'
import EquipNav from './EquipNav.vue'
import GaugeForm from './GaugeForm.vue'
import { dueOf, gaugeStateWords, isOverdue, rangeWords } from './gaugeWords'

/** The register of gauges: what each measures, whether it is good, and what would be in doubt with it. */
const route = useRoute()
const router = useRouter()
const mayEdit = useSession().may(equip.createGauge)
useCrumbs(() => [{ words: 'Equip', to: '/equip' }, { words: 'Gauges' }])
const list = ref<{ reload: () => Promise<void> }>()
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))

type Due = (typeof dueStates)[number]
const dueChoices: { value: Due; title: string }[] = [
  { value: 'overdue', title: 'overdue, or never calibrated' },
  { value: 'soon', title: 'due within 30 days' },
  { value: 'due', title: 'overdue, or due within 30 days' },
  { value: 'good', title: 'good for longer, or needs none' },
]
/** Kept in the address, so that it is a link. */
const due = computed<Due | null>({
  get: () => dueChoices.find(({ value }) => value === route.query['due'])?.value ?? null,
  set: (value) => {
    const { due: _, ...query } = route.query
    void router.replace({ path: route.path, query: value === null ? query : { ...query, due: value } })
  },
})
const columns: ListColumn[] = [
  { key: 'code', title: 'Code', isMono: true },
  { key: 'name', title: 'Name' },
  { key: 'kind', title: 'Kind', isHidden: true },
  { key: 'lower', title: 'Range', isHidden: true, format: (_: unknown, row: GaugeRow) => rangeWords(row) },
  { key: 'dueOn', title: 'Calibration due' },
  { key: 'state', title: 'Status' },
  { key: 'serialNumber', title: 'Serial number', isHidden: true },
  { key: 'usedAt', title: 'Last used', isHidden: true, format: (value: string | null) => (value === null ? 'never' : momentOf(value)) },
]
const begin = () => router.push({ path: '/equip/gauges/new', query: route.query })
useKeys([{ key: 'N', words: 'new gauge', run: () => void begin() }])
</script>

<style scoped>
.narrow {
  padding: 0 16px 8px;
}
</style>
