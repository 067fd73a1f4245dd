<template>
  <SheetSplit list-words="Dispatches" left="minmax(420px, 35%)">
    <template #nav><RunNav current="/run/dispatches" /></template>
    <template #list>
      <TabLinks label="Which dispatches" :tabs="links" />
      <DataList
        ref="list"
        name="dispatches"
        :endpoint="run.listDispatches"
        :query="{ state: state ?? undefined }"
        :columns="columns"
        title="Dispatches"
        :selected-id="id"
        :empty-text="state === null ? 'Nothing has been picked yet. Pick the first dispatch, or plan one.' : 'There is none.'"
        :to="(row: DispatchRow) => ({ path: `/run/dispatches/${row.id}`, query: route.query })"
      >
        <template #head
          ><v-btn v-if="mayPick" color="primary" size="small" data-test="new" @click="router.push('/run/dispatches/new')">New dispatch</v-btn>
          <v-btn v-if="mayPick" variant="text" size="small" data-test="plan" @click="router.push('/run/dispatches/plan')">Plan one</v-btn></template
        >
        <template #state="{ row }"
          ><span :class="dispatchState(row).tone">{{ dispatchState(row).short }}</span></template
        >
        <template #returned="{ row }"
          ><span :class="row.returned ? 'nonconforming' : 'soft'">{{ row.returned || '–' }}</span></template
        >
      </DataList>
    </template>
    <DispatchForm v-if="id === 'new' && mayPick" @saved="saved" />
    <PlanDispatchForm v-else-if="id === 'plan' && mayPick" @saved="saved" />
    <DispatchSheet v-else-if="id" :id="id" :key="id" @changed="list?.reload()" />
    <EmptyState v-else title="Dispatches" text="Choose one to see what it waits for and what came back, plan what is to leave, or pick it at once." />
  </SheetSplit>
</template>

<script setup lang="ts">
import { type Dispatch, type DispatchRow, run } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCrumbs } from '../../shell/crumbs'
import { useKeys } from '../../shell/keys'
import { useSession } from '../../shell/session'
import DataList from '../../components/DataList.vue'
import type { ListColumn } from '../../components/listColumn'
import EmptyState from '../../components/EmptyState.vue'
import { dispatchState } from '../../format/dispatchState'
import { dayWords, momentOf } from '../../format/format'
import SheetSplit from '../../components/SheetSplit.vue'
import TabLinks from '../../components/TabLinks.vue'
import DispatchForm from './DispatchForm.vue'
import DispatchSheet from './DispatchSheet.vue'
import PlanDispatchForm from './PlanDispatchForm.vue'
import RunNav from '../RunNav.vue'
import { useStateTabs } from '../../composables/useStateTabs'

useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Dispatches' }])
const route = useRoute()
const router = useRouter()
const { state, links } = useStateTabs('/run/dispatches', [
  { words: 'all', state: null },
  { words: 'to be picked', state: 'planned' },
  { words: 'at the door', state: 'picked' },
  { words: 'left', state: 'sent' },
])
const mayPick = useSession().may(run.pickDispatch)
const list = ref<{ reload: () => Promise<void> }>()
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))
const columns: ListColumn[] = [
  { key: 'code', title: 'Dispatch', isMono: true },
  { key: 'customerName', title: 'Customer' },
  { key: 'pieces', title: 'Quantity', isNumber: true },
  { key: 'state', title: 'State' },
  { key: 'returned', title: 'Back', isNumber: true },
  { key: 'orderNumber', title: 'Order', isMono: true, isHidden: true },
  { key: 'leavesOn', title: 'Leaves', format: (value: string | null) => (value === null ? '–' : dayWords(value)), isHidden: true },
  { key: 'pickedAt', title: 'Picked', format: (value: string | null) => (value === null ? '–' : momentOf(value)), isHidden: true },
]
async function saved(dispatch: Dispatch): Promise<void> {
  await list.value?.reload()
  await router.replace({ path: `/run/dispatches/${dispatch.id}`, query: route.query })
}
useKeys([
  { key: 'N', words: 'new dispatch', run: () => void router.push('/run/dispatches/new') },
  { key: 'P', words: 'plan a dispatch', run: () => void router.push('/run/dispatches/plan') },
])
</script>
