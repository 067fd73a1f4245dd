<template>
  <SheetSplit list-words="Dispatches" left="minmax(360px, 32%)">
    <template #list>
      <RunNav current="/run/dispatches" />
      <DataList
        ref="list"
        name="dispatches"
        :endpoint="run.listDispatches"
        :columns="columns"
        title="Dispatches"
        :selected-id="id"
        empty-text="Nothing has been picked yet. Pick the first dispatch."
        :to="(row: DispatchRow) => ({ path: `/run/dispatches/${row.id}`, query: route.query })"
      >
        <template #head
          ><v-btn v-if="mayPick" color="primary" size="small" data-test="new" @click="router.push('/run/dispatches/new')"
            >New dispatch</v-btn
          ></template
        >
        <template #state="{ row }"
          ><span :class="row['state'] === 'picked' && row['openChecks'] ? 'hold' : 'soft'">{{
            row['state'] === 'picked' && row['openChecks'] ? `${row['openChecks']} open` : dispatchWords[row['state'] as DispatchRow['state']]
          }}</span></template
        >
        <template #returned="{ row }"
          ><span :class="row['returned'] ? 'nonconforming' : 'soft'">{{ row['returned'] || '–' }}</span></template
        >
      </DataList>
    </template>
    <DispatchForm v-if="id === 'new' && mayPick" @saved="saved" />
    <DispatchSheet v-else-if="id" :id="id" :key="id" @changed="list?.reload()" />
    <EmptyState v-else title="Dispatches" text="Choose one to see what it waits for and what came back, or pick what is to leave." />
  </SheetSplit>
</template>

<script setup lang="ts">
import { endpoints, type Dispatch, type DispatchRow } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCrumbs } from '../frame/crumbs'
import { useKeys } from '../frame/keys'
import { useSession } from '../frame/session'
import DataList from '../pieces/DataList.vue'
import type { ListColumn } from '../pieces/listColumn'
import EmptyState from '../pieces/EmptyState.vue'
import { dispatchWords, momentOf } from '../pieces/format'
import SheetSplit from '../pieces/SheetSplit.vue'
import DispatchForm from './DispatchForm.vue'
import DispatchSheet from './DispatchSheet.vue'
import RunNav from './RunNav.vue'

const { run } = endpoints
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Dispatches' }])
const route = useRoute()
const router = useRouter()
const mayPick = useSession().may(run.pickDispatch)
const list = ref<{ reload: () => Promise<void> }>()
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))
const columns: ListColumn[] = [
  { key: 'code', title: 'Dispatch', isMono: true },
  { key: 'customerName', title: 'Customer' },
  { key: 'pieces', title: 'Pieces', isNumber: true },
  { key: 'state', title: 'State' },
  { key: 'returned', title: 'Back', isNumber: true },
  { key: 'orderNumber', title: 'Order', isMono: true, isHidden: true },
  { key: 'pickedAt', title: 'Picked', format: (value: string) => momentOf(value), isHidden: true },
]
async function saved(dispatch: Dispatch): Promise<void> {
  await list.value?.reload()
  await router.replace(`/run/dispatches/${dispatch.id}`)
}
useKeys([{ key: 'N', words: 'new dispatch', run: () => void router.push('/run/dispatches/new') }])
</script>
