<template>
  <div class="queue">
    <RecordNav current="/record" />
    <TabLinks label="Which inspections" :tabs="links" />
    <div class="both">
      <QueueFacets v-if="chosen.facets" :key="chosen.key" :state="chosen.facets" />
      <DataList
        :key="chosen.key"
        ref="list"
        :name="`inspections ${chosen.key}`"
        :endpoint="record.listInspections"
        :columns="columns"
        is-main
        :title="onlyLate ? 'Recorded late' : onlyNotAcceptable ? `${chosen.title}, not acceptable` : chosen.title"
        :query="asked"
        :first-sort="isOpenTab ? 'dueAt' : undefined"
        :empty-text="chosen.empty"
        :to="(row: InspectionRow) => `/record/${row.id}`"
      >
        <template #code="{ row }"
          >{{ row.code }}<span class="plan small">{{ row.planName }}</span></template
        >
        <template #answered="{ row }">
          <span class="progress" :title="`${row.answered} of ${row.asked} answers`"><span :style="{ width: `${share(row)}%` }" /></span>
          <span class="m small"> {{ row.answered }}/{{ row.asked }}</span>
        </template>
        <template #isGate="{ row }"
          ><span :class="row.holds ? 'hold' : 'soft'">{{ row.holds ? 'pieces on hold' : row.isGate ? 'gate' : 'no gate' }}</span></template
        >
        <template #sampleMost="{ row }">{{ sampleWords(row) }}</template>
        <template #lotCode="{ row }"
          >{{ lookedAt(row)
          }}<span v-if="row.ofLot > 1" class="soft small of" :title="`inspection ${row.number} of ${row.ofLot} of it`"
            >{{ row.number }}/{{ row.ofLot }}</span
          ></template
        >
        <template #dueAt="{ row }"
          ><span :class="lateOf(row) ? 'nonconforming' : ''">{{
            row.dueAt === null ? '–' : [momentOf(row.dueAt), lateOf(row)].filter(Boolean).join(', ')
          }}</span></template
        >
        <template #assignedName="{ row }"
          ><b v-if="row.holderName">{{ row.holderName }} has it</b
          ><template v-else-if="row.assignedName">{{ row.assignedName }}{{ row.day ? `, ${dayWords(row.day)}` : '' }}</template></template
        >
        <template #verdict="{ row }">
          <template v-if="row.verdict"
            ><MarkSign :mark="verdictMark(row.verdict)" /> {{ verdictWords[row.verdict]
            }}<span v-if="lateOf(row)" class="nonconforming small" :title="lateOf(row)"> · late</span></template
          >
          <span v-else class="soft">{{ stateWords[row.state] }}</span>
        </template>
      </DataList>
    </div>
  </div>
</template>

<script setup lang="ts">
import { lateWords } from '@nemawashi/core'
import { type InspectionRow, minutesLateOf, record } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { useCrumbs } from '../../shell/crumbs'
import { plantDay, startOfPlantDay } from '../../shell/plantTime'
import { useFresh } from '../../shell/useFresh'
import DataList from '../../components/DataList.vue'
import type { ListColumn } from '../../components/listColumn'
import { dayWords, lookedAt, momentOf, sampleWords, stateWords, verdictMark, verdictWords, whole } from '../../format/format'
import MarkSign from '../../components/MarkSign.vue'
import TabLinks from '../../components/TabLinks.vue'
import { isLate } from '../../format/isLate'
import { narrowingOf } from './narrowing'
import QueueFacets from './QueueFacets.vue'
import RecordNav from '../RecordNav.vue'

/** The queue of the bench over all operations: to do, started, done today, and everything there ever was; narrowed down by links. */
const route = useRoute()
const dayStart = startOfPlantDay(plantDay(new Date()))
const tabs = [
  { key: 'todo', words: 'To do', title: 'To do', query: { state: 'toDo' }, facets: 'toDo', empty: 'Nothing is waiting for the bench.' },
  { key: 'open', words: 'Open', title: 'To do and started', query: { state: 'open' }, facets: 'open', empty: 'Nothing is open.' },
  {
    key: 'late',
    words: 'Late',
    title: 'Open and late',
    query: { state: 'open', due: 'late' },
    facets: null,
    empty: 'Nothing is late.',
  },
  { key: 'started', words: 'Started', title: 'Started', query: { state: 'started' }, facets: 'started', empty: 'Nothing has been started and left.' },
  {
    key: 'done',
    words: 'Done today',
    title: 'Done today',
    query: { finishedSince: dayStart },
    facets: null,
    empty: 'Nothing was finished today yet.',
  },
  {
    key: 'deciding',
    words: 'Waiting for a decision',
    title: 'Waiting for a decision',
    query: { state: 'deciding' },
    facets: 'deciding',
    empty: 'Nothing waits for a decision.',
  },
  {
    key: 'load',
    words: 'Load not acceptable',
    title: 'Loads that are not acceptable',
    query: { state: 'withoutGoods' },
    facets: null,
    empty: 'No load is held up by what was found. One is mended and recorded anew, or decided once its goods are here.',
  },
  { key: 'all', words: 'All', title: 'All inspections', query: {}, facets: null, empty: 'Inspections open when something comes to a control point.' },
] as const
const chosen = computed(() => tabs.find((tab) => tab.key === route.query['tab']) ?? tabs[0])
/** What the tab says, and how the address narrows it down. */
const onlyNotAcceptable = computed(() => route.query['verdict'] === 'notAcceptable')
/** Finished after it was due: it stays so. */
const onlyLate = computed(() => route.query['recorded'] === 'late')
const lateOf = (row: InspectionRow) => (row.finishedAt === null ? (isOpenTab.value && isLate(row) ? 'late' : '') : lateWords(minutesLateOf(row)))
const list = ref<{ refresh(): unknown } | null>(null)
useFresh(() => list.value?.refresh())
const asked = computed(() => ({
  ...narrowingOf(route.query),
  ...(onlyNotAcceptable.value ? { verdict: 'notAcceptable' } : {}),
  ...(onlyLate.value ? { recorded: 'late' } : {}),
  ...chosen.value.query,
}))
const links = computed(() => [
  ...tabs.map((tab) => ({ words: tab.words, to: { path: '/record', query: { tab: tab.key } }, isOn: tab === chosen.value && !onlyLate.value })),
  ...(chosen.value.key === 'all'
    ? [{ words: 'Recorded late', to: { path: '/record', query: { tab: 'all', recorded: 'late' } }, isOn: onlyLate.value }]
    : []),
])
useCrumbs(() => [{ words: 'Record', to: '/record' }, { words: chosen.value.words }])
/** What is open comes by when it is due, the late ones first. */
const isOpenTab = computed(() => ['todo', 'open', 'late', 'started'].includes(chosen.value.key))
/** What is open is not found yet, and what is closed is planned for nobody. */
const columns = computed<ListColumn[]>(() => {
  const isOpen = isOpenTab.value
  return [
    { key: 'code', title: 'Inspection' },
    { key: 'planName', title: 'Plan', isWide: true },
    { key: 'partCode', title: 'Part' },
    { key: 'partName', title: 'Name', isHidden: true },
    { key: 'operationName', title: 'Operation' },
    { key: 'lotCode', title: 'Lot', isWide: true, isMono: true },
    { key: 'responsible', title: 'Responsible', isWide: true, isHidden: true },
    { key: 'assignedName', title: 'For', isWide: true, isHidden: !isOpen },
    {
      key: 'minutes',
      title: 'Min',
      isWide: true,
      isNumber: true,
      isHidden: !isOpen,
      format: (value: number | null) => (value === null ? '–' : whole(value)),
    },
    { key: 'dueAt', title: 'Due', isHidden: !isOpen },
    { key: 'supplierName', title: 'Supplier', isWide: true, isHidden: true },
    { key: 'lotSize', title: 'Lot size', isWide: true, isNumber: true, isHidden: true },
    { key: 'sampleMost', title: 'Sample size n', isWide: true },
    // Of what nobody has begun nothing is answered.
    { key: 'answered', title: 'Answered', isWide: true, isHidden: chosen.value.key === 'todo' },
    { key: 'isGate', title: 'Gate', isWide: true, isHidden: isOpen },
    { key: 'verdict', title: 'Finding', isHidden: isOpen },
    { key: 'openedAt', title: 'Opened', isHidden: isOpen, format: (value: string) => momentOf(value) },
  ]
})
const share = ({ asked, answered }: InspectionRow) => (asked === 0 ? 0 : (100 * answered) / asked)
</script>

<style scoped>
.plan {
  display: none;
  color: var(--soft);
  font-weight: 400;
}
@media (max-width: 640px) {
  .plan {
    display: block;
    white-space: normal;
    max-width: 130px;
  }
}
.queue {
  height: 100%;
  display: flex;
  flex-direction: column;
  background: var(--sheet);
}
.both {
  display: flex;
  flex: 1;
  min-height: 0;
}
.both > .list {
  flex: 1;
  min-width: 0;
}
.of {
  margin-left: 6px;
}
.progress {
  display: inline-block;
  width: 44px;
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
