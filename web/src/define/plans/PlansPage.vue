<template>
  <SheetSplit list-words="Inspection plans" left="minmax(350px, 29%)">
    <template #nav><DefineNav current="plans" /></template>
    <template #list>
      <TabLinks label="Which plans" :tabs="links" />
      <DataList
        ref="list"
        name="plans"
        :endpoint="define.listPlans"
        :columns="columns"
        title="Plans"
        :selected-id="id"
        :query="{ state: state ?? undefined }"
        :empty-text="state === null ? 'A plan is an ordered list of questions, each with its sampling. Add the first one.' : 'There is none.'"
        :to="(row: PlanRow) => ({ path: `/define/plans/${row.id}`, query: route.query })"
      >
        <template #head
          ><PlanExchange @imported="list?.reload()" /><v-btn
            v-if="isEngineer"
            color="primary"
            variant="outlined"
            size="small"
            data-test="new"
            @click="router.push('/define/plans/new')"
            >New plan</v-btn
          ></template
        >
        <template #state="{ row }"
          ><span :class="row.state === 'draft' ? 'marginal' : 'soft'">{{ row.state }}</span></template
        >
      </DataList>
    </template>
    <PlanForm v-if="id" :id="id" :key="id" @saved="saved" />
    <EmptyState
      v-else
      title="Inspection plans"
      text="Choose one from the list, or make a new one: lines in order, each with its sampling and what that lets through."
    />
  </SheetSplit>
</template>

<script setup lang="ts">
import { type PlanRow, define } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCrumbs } from '../../shell/crumbs'
import { useKeys } from '../../shell/keys'
import { useSession } from '../../shell/session'
import DataList from '../../components/DataList.vue'
import type { ListColumn } from '../../components/listColumn'
import EmptyState from '../../components/EmptyState.vue'
import SheetSplit from '../../components/SheetSplit.vue'
import TabLinks from '../../components/TabLinks.vue'
import { useStateTabs } from '../../composables/useStateTabs'
import DefineNav from '../DefineNav.vue'
import PlanExchange from './PlanExchange.vue'
import PlanForm from './PlanForm.vue'

useCrumbs(() => [{ words: 'Define', to: '/define' }, { words: 'Plans' }])
const route = useRoute()
const router = useRouter()
const { state, links } = useStateTabs('/define/plans', [
  { words: 'all', state: null },
  { words: 'drafts', state: 'draft' },
  { words: 'released', state: 'released' },
])
const { isEngineer } = useSession()
const list = ref<{ reload: () => Promise<void> }>()
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))
const columns: ListColumn[] = [
  { key: 'code', title: 'Code' },
  { key: 'name', title: 'Name' },
  { key: 'lines', title: 'Lines', isNumber: true, isHidden: true },
  { key: 'revision', title: 'Rev.', isNumber: true, isHidden: true },
  { key: 'state', title: 'State' },
]
async function saved(savedId: string): Promise<void> {
  if (id.value !== savedId) await router.replace(`/define/plans/${savedId}`)
  await list.value?.reload()
}
useKeys([{ key: 'N', words: 'new plan', run: () => void router.push('/define/plans/new') }])
</script>
