<template>
  <SheetSplit list-words="Deliveries" left="minmax(360px, 36%)">
    <template #nav><RunNav current="/run" /></template>
    <template #list>
      <DataList
        ref="list"
        name="deliveries"
        :endpoint="run.listDeliveries"
        :columns="columns"
        title="Deliveries"
        :selected-id="id"
        empty-text="Nothing has arrived yet. Enter the first delivery."
        :to="(row: DeliveryRow) => ({ path: `/run/${row.id}`, query: route.query })"
      >
        <template #head
          ><v-btn v-if="mayReceive" color="primary" size="small" data-test="new" @click="router.push('/run/new')">New delivery</v-btn></template
        >
        <template #openInspections="{ row }"
          ><span :class="row.openInspections ? 'hold' : 'conforming'">{{
            row.openInspections ? `${row.openInspections} open` : 'free'
          }}</span></template
        >
      </DataList>
    </template>
    <DeliveryForm
      v-if="id === 'new' && mayReceive"
      :key="`${String(route.query['expected'])} ${String(route.query['order'])}`"
      :expected-id="word(route.query['expected'])"
      :order-id="word(route.query['order'])"
      @saved="saved"
    />
    <DeliverySheet v-else-if="id" :id="id" :key="id" :may-put-away="mayReceive" @changed="list?.reload()" />
    <EmptyState v-else title="Deliveries" text="Choose one to see where its pieces stand and what holds them, or enter what has just arrived." />
  </SheetSplit>
</template>

<script setup lang="ts">
import { type Delivery, type DeliveryRow, run } from '@nemawashi/contract'
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
import DeliveryForm from './DeliveryForm.vue'
import DeliverySheet from './DeliverySheet.vue'
import RunNav from '../RunNav.vue'

useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Deliveries' }])
const route = useRoute()
const router = useRouter()
const session = useSession()
const mayReceive = session.may(run.receiveDelivery)
const list = ref<{ reload: () => Promise<void> }>()
const word = (value: unknown) => (typeof value === 'string' && value !== '' ? value : null)
const id = computed(() => word(route.params['id']))
const columns: ListColumn[] = [
  { key: 'code', title: 'Delivery', isHidden: true },
  { key: 'partCodes', title: 'Parts' },
  { key: 'supplierName', title: 'Supplier' },
  { key: 'orderNumber', title: 'Order', isMono: true, isHidden: true },
  { key: 'receivedAt', title: 'Received', format: (value: string) => momentOf(value) },
  { key: 'openInspections', title: 'Gate' },
  { key: 'onHold', title: 'On hold', isNumber: true, isHidden: true },
]
async function saved(delivery: Delivery): Promise<void> {
  await list.value?.reload()
  await router.replace(`/run/${delivery.id}`)
}
useKeys([{ key: 'N', words: 'new delivery', run: () => void router.push('/run/new') }])
</script>
