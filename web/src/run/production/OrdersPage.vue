<template>
  <SheetSplit list-words="Production orders" left="minmax(360px, 32%)">
    <template #nav><RunNav current="/run/orders" /></template>
    <template #list>
      <TabLinks label="Which orders" :tabs="links" />
      <DataList
        ref="list"
        name="orders"
        :endpoint="run.listOrders"
        :query="{ state: state ?? undefined }"
        :columns="columns"
        title="Production orders"
        :selected-id="id"
        :empty-text="state === null ? 'Nothing is planned yet. Plan the first order.' : 'There is none.'"
        :to="(row: ProductionOrderRow) => ({ path: `/run/orders/${row.id}`, query: route.query })"
      >
        <template #head
          ><v-btn v-if="mayPlan" color="primary" size="small" data-test="new" @click="router.push('/run/orders/new')">New order</v-btn></template
        >
        <template #stepName="{ row }">{{ row.state === 'released' ? row.stepName || 'to finish' : row.state }}</template>
        <template #openChecks="{ row }"
          ><span v-if="row.failedChecks" class="nonconforming">✕ {{ row.failedChecks }} failed</span
          ><span v-else :class="row.openChecks ? 'hold' : 'soft'">{{ row.openChecks ? `${row.openChecks} open` : '–' }}</span></template
        >
      </DataList>
    </template>
    <OrderForm v-if="id === 'new' && mayPlan" @saved="saved" />
    <OrderSheet v-else-if="id" :id="id" :key="id" @changed="list?.reload()" />
    <EmptyState v-else title="Production orders" text="Choose one to see its next step, what is checked there, and whether it can go on." />
  </SheetSplit>
</template>

<script setup lang="ts">
import { type ProductionOrder, type ProductionOrderRow, run } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCrumbs } from '../../shell/crumbs'
import { useKeys } from '../../shell/keys'
import { useSession } from '../../shell/session'
import DataList from '../../components/DataList.vue'
import type { ListColumn } from '../../components/listColumn'
import EmptyState from '../../components/EmptyState.vue'
import { momentOf } from '../../format/format'
import SheetSplit from '../../components/SheetSplit.vue'
import TabLinks from '../../components/TabLinks.vue'
import OrderForm from './OrderForm.vue'
import OrderSheet from './OrderSheet.vue'
import RunNav from '../RunNav.vue'
import { useStateTabs } from '../../composables/useStateTabs'

useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Production orders' }])
const route = useRoute()
const router = useRouter()
const session = useSession()
const { state, links } = useStateTabs('/run/orders', [
  { words: 'all', state: null },
  { words: 'planned', state: 'planned' },
  { words: 'on the line', state: 'released' },
  { words: 'finished', state: 'finished' },
])
const mayPlan = session.may(run.createOrder)
const list = ref<{ reload: () => Promise<void> }>()
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))
const columns: ListColumn[] = [
  { key: 'code', title: 'Order', isMono: true },
  { key: 'partCode', title: 'Part' },
  { key: 'quantity', title: 'Quantity', isNumber: true, isQuantity: true },
  { key: 'stepName', title: 'Step' },
  { key: 'openChecks', title: 'Checks' },
  { key: 'lotCode', title: 'Lot', isMono: true, isHidden: true },
  { key: 'orderNumber', title: 'For order', isMono: true, isHidden: true },
  { key: 'createdAt', title: 'Planned', format: (value: string) => momentOf(value), isHidden: true },
]
async function saved(order: ProductionOrder): Promise<void> {
  await list.value?.reload()
  await router.replace({ path: `/run/orders/${order.id}`, query: route.query })
}
useKeys([{ key: 'N', words: 'new production order', run: () => void router.push('/run/orders/new') }])
</script>
