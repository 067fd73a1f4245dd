<template>
  <SheetSplit list-words="Held lots" left="minmax(430px, 37%)">
    <template #list>
      <DataList
        ref="list"
        name="held"
        :endpoint="contain.listHeld"
        :columns="columns"
        title="Held now"
        :selected-id="inspection?.lotId ?? null"
        empty-text="Nothing is held."
        :to="(row: HeldRow) => (row.inspectionId ? { path: `/contain/${row.inspectionId}`, query: route.query } : `/trace/${row.lotId}`)"
      >
        <template #waitsFor="{ row }"
          ><span
            :class="
              String(row['waitsFor']).includes('not acceptable')
                ? 'nonconforming'
                : String(row['waitsFor']).startsWith('a decision')
                  ? 'hold'
                  : 'soft'
            "
            >{{ row['waitsFor'] }}</span
          ></template
        >
      </DataList>
    </template>
    <div v-if="inspection" class="sheet stack">
      <div class="row top">
        <div class="grow">
          <h1>
            {{ inspection.lotCode }} <span class="soft">· {{ inspection.partCode }} {{ inspection.partName }}</span>
          </h1>
          <p class="soft">
            {{ inspection.planName }}, <router-link :to="`/record/${inspection.id}`">{{ inspection.code }}</router-link> ·
            {{ inspection.supplierName }}, their lot <span class="m">{{ inspection.supplierLot }}</span> ·
            <router-link :to="`/trace/${inspection.lotId}`">passport</router-link>
          </p>
        </div>
        <SealStamp
          v-if="inspection.decision"
          :initials="inspection.decision.initials"
          :meaning="inspection.decision.meaning"
          :signed-at="inspection.decision.signedAt"
          :size="84"
        />
      </div>
      <QuantityBar :balances="inspection.balances" :unit="inspection.unit" :arrived="inspection.lotSize" />
      <ReasoningLine
        v-if="inspection.state === 'finished' || inspection.state === 'decided'"
        :verdict="inspection.finding.verdict"
        :reasoning="inspection.finding.reasoning"
        is-large
      />
      <p v-else class="hold">
        {{ inspection.state === 'toDo' ? 'Nothing is recorded yet.' : 'The bench is not finished.' }} There is no finding to decide on.
        <router-link :to="`/record/${inspection.id}`">To the bench</router-link>
      </p>
      <div v-for="(line, i) in inspection.lines" :key="line.id" class="line">
        <ReasoningLine
          :verdict="inspection.finding.lines[i]?.verdict ?? 'notJudged'"
          :reasoning="`${line.name}: ${inspection.finding.lines[i]?.reasoning ?? ''}`"
          class="grow"
        />
        <ToleranceStrip v-if="hasValues(line)" :limits="{ ...line, ...line.details }" :readings="readingsOf(line.id)" :width="220" :height="18" />
        <span class="soft small limits">{{ acceptsOf(line) }}</span>
      </div>
      <DecisionForm v-if="inspection.state === 'finished'" :key="inspection.id" :inspection="inspection" @decided="decided" @stale="load" />
      <table v-if="inspection.decision" class="plain" aria-label="The decision">
        <thead>
          <tr>
            <th>container</th>
            <th class="right">quantity</th>
            <th>decided</th>
            <th>reason</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, i) in inspection.decision.rows" :key="i">
            <td class="m">{{ row.containerLabel ?? 'loose' }}</td>
            <td class="right m">{{ whole(row.quantity) }}</td>
            <td>{{ dispositionWords[row.disposition] }}</td>
            <td class="soft">{{ row.reason }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="inspection.decision" class="soft">
        Signed {{ momentOf(inspection.decision.signedAt) }} by {{ inspection.decision.signedByName }} ·
        <a :href="`/api/inspections/${inspection.id}/report.pdf`" target="_blank">Report, PDF</a> ·
        <a :href="`/api/inspections/${inspection.id}/report.csv`" download>CSV</a> ·
        <a :href="`/api/inspections/${inspection.id}/report.json`" download>JSON</a>
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
import { dispositionWords } from '@nemawashi/core'
import { acceptsOf, endpoints, hasValues, type HeldRow, type Inspection } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { asFailure, call, type Failure } from '../frame/api'
import { useCrumbs } from '../frame/crumbs'
import { notify } from '../frame/notify'
import DataList from '../pieces/DataList.vue'
import type { ListColumn } from '../pieces/listColumn'
import EmptyState from '../pieces/EmptyState.vue'
import { momentOf, since, whole } from '../pieces/format'
import QuantityBar from '../pieces/QuantityBar.vue'
import ReasoningLine from '../pieces/ReasoningLine.vue'
import SealStamp from '../pieces/SealStamp.vue'
import SheetSplit from '../pieces/SheetSplit.vue'
import ToleranceStrip from '../pieces/ToleranceStrip.vue'
import DecisionForm from './DecisionForm.vue'

const { contain, record } = endpoints
const route = useRoute()
const list = ref<{ reload: () => Promise<void> }>()
const inspection = ref<Inspection | null>(null)
const failure = ref<Failure | null>(null)
const id = computed(() => (typeof route.params['id'] === 'string' && route.params['id'] !== '' ? route.params['id'] : null))
useCrumbs(() => [{ words: 'Contain', to: '/contain' }, ...(inspection.value ? [{ words: `Lot ${inspection.value.lotCode}` }] : [{ words: 'Held' }])])
const columns: ListColumn[] = [
  { key: 'lotCode', title: 'Lot', isMono: true },
  { key: 'partCode', title: 'Part' },
  { key: 'supplierName', title: 'Supplier', isHidden: true },
  { key: 'waitsFor', title: 'Waits for' },
  { key: 'onHold', title: 'On hold', isNumber: true, isHidden: true },
  { key: 'quarantined', title: 'Quarantined', isNumber: true, isHidden: true },
  { key: 'heldSince', title: 'Held for', isNumber: true, format: (value: string) => since(value) },
]
async function load(): Promise<void> {
  const wanted = id.value
  failure.value = null
  if (!wanted) return void (inspection.value = null)
  try {
    const loaded = await call(record.getInspection, { params: { id: wanted } })
    if (id.value === wanted) inspection.value = loaded
  } catch (error) {
    failure.value = asFailure(error)
    inspection.value = null
  }
}
watch(id, load, { immediate: true })
const readingsOf = (lineId: string) =>
  (inspection.value?.readings ?? []).flatMap((reading) =>
    reading.lineId === lineId && reading.value !== null ? [{ value: reading.value, mark: reading.mark }] : [],
  )
async function decided(): Promise<void> {
  await load()
  await list.value?.reload()
  notify(`Decided and sealed: ${inspection.value?.decision?.meaning ?? ''}.`)
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
  gap: 14px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  padding-bottom: 7px;
}
.limits {
  width: 170px;
}
</style>
