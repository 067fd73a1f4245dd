<template>
  <SheetSplit list-words="Held lots" left="minmax(430px, 37%)">
    <template #nav><ContainNav current="/contain" /></template>
    <template #list>
      <DataList
        ref="list"
        name="held"
        :endpoint="contain.listHeld"
        :columns="columns"
        :title="ageTitle"
        :query="age"
        :selected-id="lotId ?? inspection?.lotId ?? null"
        empty-text="Nothing is held."
        :to="
          (row: HeldRow) => ({
            path: row.waitsFor === 'decisionAnew' || !row.inspectionId ? `/contain/lot/${row.lotId}` : `/contain/${row.inspectionId}`,
            query: { ...route.query, lot: row.waitsFor === 'decisionAnew' ? undefined : row.lotId },
          })
        "
      >
        <template #waitsFor="{ row }"
          ><span :class="waitingWords[row.waitsFor]?.tone">{{ waitingWords[row.waitsFor]?.words }}</span></template
        >
      </DataList>
    </template>
    <LotDecisions v-if="lotId" :id="lotId" :key="lotId" @decided="list?.reload()" />
    <div v-else-if="inspection" class="sheet stack">
      <div class="row top">
        <div class="grow">
          <h1>
            {{ upperFirst(inspection.lotCode) }}{{ inspection.unitLabel ? `, ${inspection.unitLabel}` : '' }}
            <span v-if="inspection.partCode" class="soft"
              >{{ inspection.subjectKind === 'load' && inspection.lotId ? '· held with its load ·' : '·' }} {{ inspection.partCode }}
              {{ inspection.partName }}</span
            >
          </h1>
          <p class="soft">
            {{ inspection.planName }}, <router-link :to="`/record/${inspection.id}`">{{ inspection.code }}</router-link> ·
            <OriginLine :origin="inspection" />
            <template v-if="inspection.lotId"> · <router-link :to="`/trace/${inspection.lotId}`">passport</router-link></template>
          </p>
        </div>
      </div>
      <QuantityBar v-if="inspection.lotId" :balances="inspection.balances" :unit="inspection.unit" :arrived="arrived" />
      <ReasoningLine
        v-if="inspection.state === 'finished' || inspection.state === 'decided'"
        :verdict="inspection.finding.verdict"
        :reasoning="describeFinding(inspection.finding)"
        is-large
      />
      <p v-else class="hold">
        {{ inspection.state === 'toDo' ? 'Nothing is recorded yet.' : 'The bench is not finished.' }} There is no finding to decide on.
        <router-link :to="`/record/${inspection.id}`">To the bench</router-link>
      </p>
      <div v-for="(line, i) in inspection.lines" :key="line.id" class="line">
        <ReasoningLine :verdict="inspection.finding.lines[i]?.verdict ?? 'notJudged'" :reasoning="lineWords(i)" class="grow" />
        <ToleranceStrip v-if="hasValues(line)" :limits="{ ...line, ...line.details }" :readings="readingsOf(line.id)" :width="220" :height="18" />
        <span class="soft small limits">{{ acceptsOf(line) }}</span>
        <p v-if="line.details.adviceOnFailure && inspection.finding.lines[i]?.verdict === 'notAcceptable'" class="advice" data-test="line-advice">
          {{ line.details.adviceOnFailure }}
        </p>
      </div>
      <details v-if="inspection.readings.length > 0 || documentIds.length > 0">
        <summary class="small">Readings{{ documentIds.length > 0 ? ' and documents' : '' }}</summary>
        <ReadingsTable :inspection="inspection" />
        <DocumentShelf v-if="documentIds.length > 0" :key="inspection.id" :ids="documentIds" />
      </details>
      <p v-if="inspection.state === 'finished' && inspection.subjectKind === 'load' && leftToDecide.length > 0" data-test="load-lots">
        A load is decided lot by lot; still to decide:
        <template v-for="(lot, i) in leftToDecide" :key="lot.id"
          >{{ i > 0 ? ', ' : ''
          }}<router-link :to="{ path: `/contain/${inspection.id}`, query: { ...route.query, lot: lot.id } }">{{ lot.code }}</router-link></template
        >.
      </p>
      <p v-if="isWithoutGoods" data-test="without-goods">
        {{ loadHolds(inspection) }} <router-link :to="`/record/${inspection.id}`">To the bench</router-link>
      </p>
      <DecisionForm
        v-if="inspection.state === 'finished' && inspection.lotId && !inspection.decision"
        :key="`${inspection.id} ${inspection.lotId}`"
        :inspection="inspection"
        @decided="decided"
        @stale="load"
      />
      <p v-if="inspection.state === 'cancelled'" class="soft">Cancelled by {{ inspection.cancelledByName }}: {{ inspection.cancelReason }}</p>
      <DecisionTable v-for="decision in decisions" :key="decision.id" :decision="decision" :unit="inspection.unit" />
      <p v-if="inspection.decision" class="soft">
        <router-link :to="`/contain/lot/${inspection.lotId}`" data-test="to-lot">Decide anew on this lot</router-link> ·
        <a :href="`/api/v1/inspections/${inspection.id}/report.pdf`" target="_blank">Report, PDF</a> ·
        <a :href="`/api/v1/inspections/${inspection.id}/report.csv`" download>CSV</a> ·
        <a :href="`/api/v1/inspections/${inspection.id}/report.json`" download>JSON</a>
      </p>
    </div>
    <EmptyState
      v-else
      title="What is held"
      :text="failure?.message ?? (id ? 'Loading …' : 'Choose a lot to see what was found and to decide on it. The longest held stands on top.')"
    />
  </SheetSplit>
</template>

<script setup lang="ts">
import { describeFinding, describeLine, sealWords, stockUnitOf } from '@nemawashi/core'
import { type HeldRow, acceptsOf, contain, hasValues, record, upperFirst } from '@nemawashi/contract'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { useCrumbs } from '../shell/crumbs'
import { notify } from '../shell/notify'
import { useThing } from '../shell/queries'
import DataList from '../components/DataList.vue'
import type { ListColumn } from '../components/listColumn'
import EmptyState from '../components/EmptyState.vue'
import DocumentShelf from '../components/DocumentShelf.vue'
import { since } from '../format/format'
import { loadHolds } from '../format/loadHolds'
import OriginLine from '../components/OriginLine.vue'
import QuantityBar from '../components/QuantityBar.vue'
import ReadingsTable from '../components/ReadingsTable.vue'
import ReasoningLine from '../components/ReasoningLine.vue'
import SheetSplit from '../components/SheetSplit.vue'
import ToleranceStrip from '../components/ToleranceStrip.vue'
import ContainNav from './ContainNav.vue'
import DecisionForm from './DecisionForm.vue'
import DecisionTable from './DecisionTable.vue'
import LotDecisions from './LotDecisions.vue'

const route = useRoute()
/** How long they are held, where a count of the first page was followed: it is part of the address. */
const days = (name: string) => (/^\d{1,4}$/.test(String(route.query[name] ?? '')) ? String(route.query[name]) : undefined)
const age = computed(() => ({ fromDays: days('fromDays'), untilDays: days('untilDays') }))
const ageTitle = computed(() => {
  const { fromDays, untilDays } = age.value
  if (fromDays === undefined && untilDays === undefined) return 'Held now'
  return untilDays === undefined ? `Held ${fromDays} days and longer` : `Held ${fromDays ?? 0} to ${untilDays} days`
})
const list = ref<{ reload: () => Promise<void> }>()
const param = (name: string) => computed(() => (typeof route.params[name] === 'string' && route.params[name] !== '' ? route.params[name] : null))
const id = param('id')
const lotId = param('lotId')
const ofLot = computed(() => (typeof route.query['lot'] === 'string' ? route.query['lot'] : null))
const {
  data: inspection,
  failure,
  reload: load,
} = useThing(record.getInspection, () =>
  id.value === null ? null : { params: { id: id.value }, query: ofLot.value === null ? {} : { lotId: ofLot.value } },
)
/** Drawings and the like of what was looked at, each once. */
const documentIds = computed(() => [...new Set((inspection.value?.lines ?? []).flatMap(({ details }) => details.documentIds))])
/** Lots of the load that wait for a decision beside this one. */
const leftToDecide = computed(() => (inspection.value?.toDecide ?? []).filter((lot) => lot.id !== inspection.value?.lotId))
/** A load that has brought nothing yet, or that leaves: there is nothing to decide on. */
const isWithoutGoods = computed(() => {
  const current = inspection.value
  return current?.state === 'finished' && current.subjectKind === 'load' && current.lotId === null && leftToDecide.value.length === 0
})
/** The decision on this inspection, and what was decided anew on its lot. */
const decisions = computed(() =>
  (inspection.value?.decisions ?? []).filter((decision) => decision.inspectionId === id.value || decision.followsId !== null),
)
/** What came, where it is told apart from what is sampled: of a part that is counted whole. */
const arrived = computed(() => {
  const current = inspection.value
  return current && current.subjectKind !== 'load' && stockUnitOf(current.unit).places === 0 ? current.lotSize : undefined
})
const waitingWords: Readonly<Record<string, { words: string; tone: string }>> = {
  decisionNotAcceptable: { words: 'decision: not acceptable', tone: 'nonconforming' },
  decisionAcceptable: { words: 'decision: acceptable', tone: 'hold' },
  benchStarted: { words: 'the bench: started', tone: 'soft' },
  bench: { words: 'the bench', tone: 'soft' },
  decisionAnew: { words: 'quarantined', tone: 'hold' },
}
useCrumbs(() => [
  { words: 'Contain', to: '/contain' },
  ...(inspection.value
    ? [{ words: inspection.value.lotId ? `Lot ${inspection.value.lotCode}` : upperFirst(inspection.value.lotCode) }]
    : [{ words: 'Held' }]),
])
const columns: ListColumn[] = [
  { key: 'lotCode', title: 'Lot', isMono: true },
  { key: 'partCode', title: 'Part' },
  { key: 'supplierName', title: 'Supplier', isHidden: true },
  { key: 'waitsFor', title: 'Waits for' },
  { key: 'onHold', title: 'On hold', isNumber: true, isQuantity: true, isHidden: true },
  { key: 'quarantined', title: 'Quarantined', isNumber: true, isQuantity: true, isHidden: true },
  { key: 'heldSince', title: 'Held for', isNumber: true, format: (value: string) => since(value) },
]
function lineWords(i: number): string {
  const found = inspection.value?.finding.lines[i]
  return found ? `${found.name}: ${describeLine(found)}` : ''
}
const readingsOf = (lineId: string) =>
  (inspection.value?.readings ?? []).flatMap((reading) =>
    reading.lineId === lineId && reading.value !== null ? [{ value: reading.value, mark: reading.mark }] : [],
  )
async function decided(): Promise<void> {
  await load()
  await list.value?.reload()
  const meaning = inspection.value?.decision?.meaning
  notify(`Decided and sealed: ${meaning ? sealWords[meaning] : ''}.`)
}
</script>

<style scoped>
.sheet {
  padding: 20px 28px 40px;
}
.sheet p {
  margin: 0;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  padding-bottom: 7px;
}
.line > .grow {
  flex-basis: 0;
  min-width: 220px;
}
.limits {
  width: 170px;
}
.line > .advice {
  flex-basis: 100%;
  padding-left: 24px;
}
summary {
  cursor: pointer;
  color: var(--indigo);
}
@media (max-width: 700px) {
  .line > .grow {
    flex-basis: 100%;
  }
}
</style>
