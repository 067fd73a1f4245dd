<template>
  <div class="queue">
    <TabLinks label="Which inspections" :tabs="links" />
    <DataList
      :key="chosen.key"
      :name="`inspections ${chosen.key}`"
      :endpoint="record.listInspections"
      :columns="columns"
      is-main
      :title="chosen.title"
      :query="chosen.query"
      :empty-text="chosen.empty"
      :to="(row: InspectionRow) => `/record/${row.id}`"
    >
      <template #answered="{ row }">
        <span class="progress" :title="`${row['answered']} of ${row['asked']} answers`"><span :style="{ width: `${share(row)}%` }" /></span>
        <span class="m small"> {{ row['answered'] }}/{{ row['asked'] }}</span>
      </template>
      <template #isGate="{ row }"
        ><span :class="row['holds'] ? 'hold' : 'soft'">{{ row['holds'] ? 'pieces on hold' : row['isGate'] ? 'gate' : 'no gate' }}</span></template
      >
      <template #sampleMost="{ row }">{{ sampleOf(row) }}</template>
      <template #verdict="{ row }">
        <template v-if="row['verdict']"
          ><MarkSign :mark="verdictMark(row['verdict'] as string)" /> {{ verdictWords[row['verdict'] as string] }}</template
        >
        <span v-else class="soft">{{ stateWords[row['state'] as string] }}</span>
      </template>
    </DataList>
  </div>
</template>

<script setup lang="ts">
import { endpoints, type InspectionRow } from '@nemawashi/contract'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { useCrumbs } from '../frame/crumbs'
import { plantDay, startOfPlantDay } from '../frame/plantTime'
import DataList from '../pieces/DataList.vue'
import type { ListColumn } from '../pieces/listColumn'
import { momentOf, sampleWords, stateWords, verdictMark, verdictWords } from '../pieces/format'
import MarkSign from '../pieces/MarkSign.vue'
import TabLinks from '../pieces/TabLinks.vue'

/** The queue of the bench: to do, started, done today; and everything there ever was. */
const { record } = endpoints
const route = useRoute()
const dayStart = startOfPlantDay(plantDay(new Date()))
const tabs = [
  { key: 'todo', words: 'To do', title: 'To do', query: { state: 'toDo' }, empty: 'Nothing is waiting for the bench.' },
  {
    key: 'late',
    words: 'Late',
    title: 'Open and late',
    query: { state: 'open', dueBefore: new Date().toISOString(), sort: 'dueAt' },
    empty: 'Nothing is late.',
  },
  { key: 'started', words: 'Started', title: 'Started', query: { state: 'started' }, empty: 'Nothing has been started and left.' },
  {
    key: 'done',
    words: 'Done today',
    title: 'Done today',
    query: { finishedSince: dayStart },
    empty: 'Nothing was finished today yet.',
  },
  {
    key: 'deciding',
    words: 'Waiting for a decision',
    title: 'Waiting for a decision',
    query: { state: 'finished' },
    empty: 'Nothing waits for a decision.',
  },
  { key: 'all', words: 'All', title: 'All inspections', query: {}, empty: 'Inspections open when something comes to a control point.' },
] as const
const chosen = computed(() => tabs.find((tab) => tab.key === route.query['tab']) ?? tabs[0])
const links = computed(() => tabs.map((tab) => ({ words: tab.words, to: { path: '/record', query: { tab: tab.key } }, isOn: tab === chosen.value })))
useCrumbs(() => [{ words: 'Record', to: '/record' }, { words: chosen.value.words }])
const columns: ListColumn[] = [
  { key: 'code', title: 'Inspection' },
  { key: 'planName', title: 'Plan' },
  { key: 'partCode', title: 'Part' },
  { key: 'partName', title: 'Name', isHidden: true },
  { key: 'operationName', title: 'Operation' },
  { key: 'lotCode', title: 'Lot', isMono: true },
  { key: 'responsible', title: 'Responsible', isHidden: true },
  { key: 'dueAt', title: 'Due', format: (value: string | null) => (value === null ? '–' : momentOf(value)) },
  { key: 'supplierName', title: 'Supplier', isHidden: true },
  { key: 'lotSize', title: 'Lot size', isNumber: true, isHidden: true },
  { key: 'sampleMost', title: 'Sample size n' },
  { key: 'answered', title: 'Answered' },
  { key: 'isGate', title: 'Gate' },
  { key: 'verdict', title: 'Finding' },
  { key: 'openedAt', title: 'Opened', format: (value: string) => momentOf(value) },
]
const share = (row: { [key: string]: unknown }) => (Number(row['asked']) === 0 ? 0 : (100 * Number(row['answered'])) / Number(row['asked']))
const sampleOf = (row: object) => sampleWords(row as InspectionRow)
</script>

<style scoped>
.queue {
  height: 100%;
  display: flex;
  flex-direction: column;
  background: var(--sheet);
}
.queue > .list {
  flex: 1;
}
.progress {
  display: inline-block;
  width: 70px;
  height: 8px;
  border: 1px solid var(--rule);
  background: var(--paper);
}
.progress span {
  display: block;
  height: 100%;
  background: var(--indigo);
}
:deep(thead th) {
  background: var(--sheet);
}
</style>
