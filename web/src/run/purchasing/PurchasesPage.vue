<template>
  <SheetSplit list-words="Purchase orders" left="minmax(360px, 36%)">
    <template #nav><RunNav current="/run/purchase-orders" /></template>
    <template #list>
      <DataList
        ref="list"
        name="purchases"
        :endpoint="run.listPurchaseOrders"
        :columns="columns"
        title="Purchase orders"
        first-sort="dueOn"
        :selected-id="id"
        empty-text="Nothing is entered yet. Enter the first order."
        :to="(row: PurchaseOrderRow) => ({ path: `/run/purchase-orders/${row.id}`, query: route.query })"
      >
        <template #head
          ><v-btn v-if="mayAct" color="primary" size="small" data-test="new" @click="router.push('/run/purchase-orders/new')"
            >New order</v-btn
          ></template
        >
        <template #received="{ row }"
          ><span :class="row.isClosed || row.received < row.ordered ? '' : 'conforming'">{{
            row.isClosed ? 'closed' : `${whole(row.received)} of ${whole(row.ordered)}`
          }}</span></template
        >
      </DataList>
    </template>
    <PurchaseForm v-if="id === 'new' && mayAct" @saved="saved" />
    <PurchaseSheet v-else-if="id" :id="id" :key="id" @changed="list?.reload()" />
    <EmptyState v-else title="Purchase orders" text="Choose one to see what came on it and what is still open, or enter what was ordered." />
  </SheetSplit>
</template>

<script setup lang="ts">
import { type PurchaseOrder, type PurchaseOrderRow, run } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCrumbs } from '../../shell/crumbs'
import { useKeys } from '../../shell/keys'
import { useSession } from '../../shell/session'
import DataList from '../../components/DataList.vue'
import EmptyState from '../../components/EmptyState.vue'
import { dayWords, momentOf, whole } from '../../format/format'
import type { ListColumn } from '../../components/listColumn'
import SheetSplit from '../../components/SheetSplit.vue'
import PurchaseForm from './PurchaseForm.vue'
import PurchaseSheet from './PurchaseSheet.vue'
import RunNav from '../RunNav.vue'

useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Purchase orders' }])
const route = useRoute()
const router = useRouter()
const mayAct = useSession().may(run.createPurchaseOrder)
const list = ref<{ reload: () => Promise<void> }>()
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))
const columns: ListColumn[] = [
  { key: 'orderNumber', title: 'Order', isMono: true },
  { key: 'supplierName', title: 'Supplier' },
  { key: 'dueOn', title: 'Due', format: (value: string | null) => (value === null ? '–' : dayWords(value)) },
  { key: 'received', title: 'Received' },
  { key: 'partCodes', title: 'Parts', isHidden: true },
  { key: 'contract', title: 'Contract', isHidden: true },
  { key: 'enteredAt', title: 'Entered', format: (value: string) => momentOf(value), isHidden: true },
]
async function saved(order: PurchaseOrder): Promise<void> {
  await list.value?.reload()
  await router.replace(`/run/purchase-orders/${order.id}`)
}
useKeys([{ key: 'N', words: 'new purchase order', run: () => void router.push('/run/purchase-orders/new') }])
</script>
