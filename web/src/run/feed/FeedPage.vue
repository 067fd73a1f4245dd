<template>
  <SheetSplit list-words="Feed events" left="minmax(430px, 44%)">
    <template #nav><RunNav current="/run/feed" /></template>
    <template #list>
      <TabLinks label="Which events" :tabs="links" />
      <DataList
        v-if="state === 'told'"
        key="told"
        name="notices"
        :endpoint="run.listNotices"
        :columns="noticeColumns"
        title="What was told"
        :to="() => route.fullPath"
        empty-text="Nothing was told yet. Whom the plant tells is said when the server is started (NEMAWASHI_WEBHOOK)."
      />
      <DataList
        v-else
        ref="list"
        key="events"
        name="feed"
        :endpoint="run.listFeedEvents"
        :columns="columns"
        title="Order feed"
        :query="{ state: state ?? undefined }"
        :selected-id="id"
        :to="(row: FeedRow) => ({ path: `/run/feed/${row.id}`, query: route.query })"
        empty-text="No other system has told anything. An administrator gives it a key, under People."
      >
        <template #state="{ row }"
          ><span :class="tones[row.state]">{{ stateWords[row.state] }}</span></template
        >
      </DataList>
    </template>
    <FeedEventSheet v-if="id" :id="id" :key="id" @changed="list?.reload()" />
    <EmptyState
      v-else
      title="Order feed"
      text="Another system tells of deliveries, orders, confirmations and dispatches. What cannot be taken is kept aside: choose one to see what is wrong with it, mend it and play it again."
    />
  </SheetSplit>
</template>

<script setup lang="ts">
import { type FeedKind, type FeedRow, type FeedState, run } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { useCrumbs } from '../../shell/crumbs'
import DataList from '../../components/DataList.vue'
import EmptyState from '../../components/EmptyState.vue'
import { momentOf } from '../../format/format'
import type { ListColumn } from '../../components/listColumn'
import SheetSplit from '../../components/SheetSplit.vue'
import TabLinks from '../../components/TabLinks.vue'
import FeedEventSheet from './FeedEventSheet.vue'
import { feedKindWords } from './feedWords'
import RunNav from '../RunNav.vue'
import { useStateTabs } from '../../composables/useStateTabs'

/** What went both ways between the plant and another system: what it told, what is kept aside of it, and what it was told. */
const route = useRoute()
const list = ref<{ reload: () => Promise<void> }>()
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))
useCrumbs(() => [{ words: 'Run', to: '/run' }, { words: 'Order feed' }])

const { state, links } = useStateTabs<FeedState | 'told'>('/run/feed', [
  { words: 'all', state: null },
  { words: 'kept aside', state: 'aside' },
  { words: 'left out', state: 'dismissed' },
  { words: 'told to it', state: 'told' },
])
const stateWords: Readonly<Record<FeedState, string>> = { taken: 'taken', aside: 'kept aside', dismissed: 'left out' }
const tones: Readonly<Record<FeedState, string>> = { taken: 'conforming', aside: 'nonconforming', dismissed: 'soft' }
const columns: ListColumn[] = [
  { key: 'key', title: 'Event', isMono: true },
  { key: 'kind', title: 'What', format: (value: FeedKind) => feedKindWords[value] },
  { key: 'state', title: 'State' },
  { key: 'subjectCode', title: 'Came of it' },
  { key: 'receivedAt', title: 'Received', format: momentOf },
]
const noticeColumns: ListColumn[] = [
  { key: 'about', title: 'About', isMono: true },
  { key: 'kind', title: 'What', format: (value: string) => (value === 'standing' ? 'status' : 'invoice may be paid') },
  { key: 'lastAnswer', title: 'Answer' },
  { key: 'tries', title: 'Tries', isNumber: true },
  { key: 'deliveredAt', title: 'Delivered', format: (value: string | null) => (value === null ? 'not yet' : momentOf(value)) },
]
</script>
