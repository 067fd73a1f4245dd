<template>
  <SheetSplit list-words="Expected deliveries" left="minmax(400px, 40%)">
    <template #nav><RunNav current="/run/expected" /></template>
    <template #list>
      <TabLinks label="Which deliveries" :tabs="links" />
      <DataList
        ref="list"
        name="expected"
        :endpoint="run.listExpected"
        :query="query"
        :columns="columns"
        title="Expected"
        :selected-id="id"
        :empty-text="isAll ? 'Nothing was announced yet. Announce the first delivery.' : 'Nothing is to come.'"
        :to="(row: ExpectedRow) => ({ path: `/run/expected/${row.id}`, query: route.query })"
      >
        <template #head>
          <v-btn v-if="mayAct" color="primary" size="small" data-test="new" @click="router.push('/run/expected/new')">Announce</v-btn>
        </template>
        <template #state="{ row }"
          ><span :class="row.openInspections ? 'hold' : 'soft'"
            >{{ expectedStateWords[row.state] }}{{ row.openInspections ? `, ${row.openInspections} open` : '' }}</span
          ></template
        >
        <template #expectedOn="{ row }"
          ><span :class="isLate(row) ? 'nonconforming' : ''"
            >{{ row.expectedOn ? dayWords(row.expectedOn) : '–' }}{{ isLate(row) ? ', late' : '' }}</span
          ></template
        >
      </DataList>
    </template>
    <ExpectedForm v-if="id === 'new' && mayAct" :key="String(route.query['order'])" :order-id="word(route.query['order'])" @saved="saved" />
    <ExpectedSheet v-else-if="id" :id="id" :key="id" @changed="list?.reload()" />
    <EmptyState v-else title="Expected deliveries" text="Choose one to register it at the dock or book it in, or announce what is to come." />
  </SheetSplit>
</template>

<script setup lang="ts">
import { expectedStateWords } from '@nemawashi/core'
import { type ExpectedDelivery, type ExpectedRow, run } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCrumbs } from '../../shell/crumbs'
import { useKeys } from '../../shell/keys'
import { useSession } from '../../shell/session'
import DataList from '../../components/DataList.vue'
import EmptyState from '../../components/EmptyState.vue'
import { dayWords, isPast } from '../../format/format'
import type { ListColumn } from '../../components/listColumn'
import SheetSplit from '../../components/SheetSplit.vue'
import TabLinks from '../../components/TabLinks.vue'
import ExpectedForm from './ExpectedForm.vue'
import ExpectedSheet from './ExpectedSheet.vue'
import RunNav from '../RunNav.vue'

useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Expected' }])
const route = useRoute()
const router = useRouter()
const mayAct = useSession().may(run.announce)
const list = ref<{ reload: () => Promise<void> }>()
const word = (value: unknown) => (typeof value === 'string' && value !== '' ? value : null)
const id = computed(() => word(route.params['id']))
const isAll = computed(() => route.query['show'] === 'all')
const links = computed(() => [
  { words: 'to come', to: { path: '/run/expected' }, isOn: !isAll.value },
  { words: 'all', to: { path: '/run/expected', query: { show: 'all' } }, isOn: isAll.value },
])
const query = computed(() => (isAll.value ? {} : { state: 'toCome' }))
const columns: ListColumn[] = [
  { key: 'code', title: 'Delivery', isMono: true },
  { key: 'supplierName', title: 'Supplier' },
  { key: 'expectedOn', title: 'Expected' },
  { key: 'state', title: 'State' },
  { key: 'partCodes', title: 'Parts', isHidden: true },
  { key: 'orderNumber', title: 'Order', isMono: true, isHidden: true },
]
const isLate = ({ state, expectedOn }: ExpectedRow) => state === 'announced' && expectedOn !== null && isPast(expectedOn)
async function saved(expected: ExpectedDelivery): Promise<void> {
  await list.value?.reload()
  await router.replace(`/run/expected/${expected.id}`)
}
useKeys([{ key: 'N', words: 'announce a delivery', run: () => void router.push('/run/expected/new') }])
</script>
