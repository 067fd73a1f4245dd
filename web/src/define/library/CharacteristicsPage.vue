<template>
  <SheetSplit list-words="Characteristics">
    <template #nav><DefineNav current="characteristics" /></template>
    <template #list>
      <DataList
        ref="list"
        name="characteristics"
        :endpoint="define.listCharacteristics"
        :columns="columns"
        title="Characteristics"
        :selected-id="id"
        :query="narrowed"
        empty-text="The library holds each property to inspect once. Add the first one."
        :to="(row: CharacteristicRow) => ({ path: `/define/characteristics/${row.id}`, query: route.query })"
      >
        <template #head
          ><v-btn v-if="isEngineer" variant="text" size="small" data-test="release-many" @click="isReleasing = true">Release drafts</v-btn
          ><v-btn
            v-if="isEngineer"
            color="primary"
            variant="outlined"
            size="small"
            data-test="new"
            @click="router.push('/define/characteristics/new')"
            >New characteristic</v-btn
          ></template
        >
        <template #narrow><LibraryFilter /></template>
        <template #upper="{ row }"
          ><ToleranceStrip v-if="row.kind === 'measured'" :limits="limitsOf(row)" /><span v-else class="soft small kind">{{
            row.acceptableState ?? short[row.kind]
          }}</span></template
        >
        <template #state="{ row }"
          ><span :class="row.state === 'draft' ? 'marginal' : row.state === 'retired' ? 'soft' : ''">{{ row.state }}</span></template
        >
      </DataList>
    </template>
    <CharacteristicForm v-if="id" :id="id" :key="id" @saved="saved" />
    <EmptyState v-else title="Characteristics" text="Choose one from the list to see its limits and revisions, or define a new one." />
    <ReleaseDialog v-model="isReleasing" @released="list?.reload()" />
  </SheetSplit>
</template>

<script setup lang="ts">
import { type CharacteristicRow, define } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCrumbs } from '../../shell/crumbs'
import { useKeys } from '../../shell/keys'
import { useSession } from '../../shell/session'
import DataList from '../../components/DataList.vue'
import type { ListColumn } from '../../components/listColumn'
import EmptyState from '../../components/EmptyState.vue'
import SheetSplit from '../../components/SheetSplit.vue'
import ToleranceStrip from '../../components/ToleranceStrip.vue'
import CharacteristicForm from './CharacteristicForm.vue'
import DefineNav from '../DefineNav.vue'
import LibraryFilter from './LibraryFilter.vue'
import ReleaseDialog from '../revisions/ReleaseDialog.vue'

useCrumbs(() => [{ words: 'Define', to: '/define' }, { words: 'Characteristics' }])
const route = useRoute()
const router = useRouter()
const { isEngineer } = useSession()
const isReleasing = ref(false)
const list = ref<{ reload: () => Promise<void> }>()
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))
const narrowed = computed(() =>
  Object.fromEntries(
    (['kind', 'state', 'familyId'] as const).flatMap((key) => {
      const value = route.query[key]
      return typeof value === 'string' ? [[key, value]] : []
    }),
  ),
)
const short: Readonly<Record<string, string>> = { coded: 'chosen from a list', counted: 'counted', noted: 'noted' }
const columns: ListColumn[] = [
  { key: 'code', title: 'Code' },
  { key: 'name', title: 'Name' },
  { key: 'upper', title: 'Limits' },
  { key: 'class', title: 'Class', isHidden: true },
  { key: 'unit', title: 'Unit', isHidden: true },
  { key: 'revision', title: 'Rev.', isNumber: true, isHidden: true },
  { key: 'state', title: 'State', isHidden: true },
]
async function saved(savedId: string): Promise<void> {
  if (id.value !== savedId) await router.replace(`/define/characteristics/${savedId}`)
  await list.value?.reload()
}
useKeys([{ key: 'N', words: 'new characteristic', run: () => void router.push('/define/characteristics/new') }])
const limitsOf = (row: object) => row as CharacteristicRow
</script>

<style scoped>
/* As wide as a strip. */
.kind {
  display: block;
  max-width: 104px;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
