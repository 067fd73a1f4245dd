<template>
  <div v-if="inspection && line" class="bench">
    <BenchLines v-model:direction="direction" :lines="lines" :finding="finding" :current="at.line" @line="toLine" />

    <section class="centre" aria-label="Reading">
      <BenchHead
        :inspection="inspection"
        :line="line"
        :units="unitsOfEntry"
        :piece="at.piece"
        :asked="asked"
        :cells="cells"
        :may-adapt="mayAdapt"
        @adapted="adapted"
        @closed="focusEntry"
      />
      <BenchGauge
        ref="gaugeRow"
        :inspection-id="id"
        :line="line"
        :use="gauge"
        :is-missing="isWantingGauge(line)"
        :is-open="isOpen"
        :listening="listening"
        @listen="listenAgain"
        @chosen="chosen"
        @closed="entry?.focus()"
        @key="move"
      />
      <BenchEntry
        v-if="isOpen"
        ref="entry"
        v-model="typed"
        v-model:unit="entryUnit"
        :line="line"
        :units="unitsOfEntry"
        :piece="at.piece"
        :current="current"
        :live-mark="liveMark"
        :doubt="doubt"
        :message="message"
        @enter="enter"
        @answer="answer"
        @key="move"
        @paste="paste"
        @confirm="confirm"
        @deny="deny"
      />
      <BenchSent :waiting="waiting" :piece="at.piece" @take="takeWaiting" @leave="leaveWaiting" />
      <p v-if="isOpen && blanks.length > 1" class="rest">
        <v-btn variant="text" size="small" data-test="rest-conforms" @click="askRest"
          >{{ blanks.length === line.sampleSize ? 'All' : 'The other' }} {{ blanks.length }} pieces conform …</v-btn
        >
      </p>
      <BenchEvidence
        ref="evidenceRow"
        :inspection-id="id"
        :line="line"
        :piece="evidencePiece"
        :evidence="inspection.evidence.filter((entry) => entry.lineId === line?.id)"
        :may-record="mayRecord && ['toDo', 'started', 'finished'].includes(inspection.state)"
        @changed="said"
        @closed="focusEntry"
      />
      <LinePictures v-if="line.kind === 'measured'" :inspection-id="id" :code="inspection.code" :line="line" :kept="kept" :live="live" />
      <BenchGrid :lines="lines" :cells="cells" :at="at" :refused="refused" @go="goTo" />
    </section>

    <BenchSide
      v-model:inspected-by="inspectedById"
      :inspection="inspection"
      :finding="finding"
      :certain="certain"
      :failure="failure"
      :refused="refused"
      :unsent="unsent"
      :is-unreachable="isUnreachable"
      :of-others="ofOthers"
      :is-kept="isKept"
      :is-open="isOpen"
      :may-record="mayRecord"
      :is-busy="isBusy"
      :has-nonconforming="hasNonconforming"
      @held="heldMade"
      @finish="finish()"
      @reopen="reopen"
      @cancel="cancel"
      @take-out="takeOut"
      @assigned="assigned"
    />
    <SkipDialog v-model="isSkipping" :skipped="skipped" @finish="finish" />
  </div>
  <EmptyState v-else title="Inspection" :text="failure?.message ?? 'Loading …'" />
</template>

<script setup lang="ts">
import { type Assignment, type Evidence, type GaugeUse, type Inspection, record } from '@nemawashi/contract'
import { lookedAt } from '../../format/format'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { ask } from '../../shell/ask'
import { useCrumbs } from '../../shell/crumbs'
import { useKeys } from '../../shell/keys'
import { toggleNight } from '../../shell/night'
import { notify } from '../../shell/notify'
import { useSession } from '../../shell/session'
import EmptyState from '../../components/EmptyState.vue'
import LinePictures from '../charts/LinePictures.vue'
import BenchEntry from '../entry/BenchEntry.vue'
import BenchEvidence from '../entry/BenchEvidence.vue'
import BenchGauge from '../entry/BenchGauge.vue'
import BenchSent from '../entry/BenchSent.vue'
import BenchGrid from './BenchGrid.vue'
import BenchHead from './BenchHead.vue'
import BenchLines from './BenchLines.vue'
import BenchSide from './BenchSide.vue'
import SkipDialog from './SkipDialog.vue'
import { benchOutbox } from './benchOutbox'
import { cellKey } from '../entry/cells'
import { mayRecord as isRecorder } from '../../composables/mayRecord'
import { useBench } from './useBench'
import { useBenchInstruments } from './useBenchInstruments'
import { useBenchMoves } from './useBenchMoves'
import { useBenchSteps } from './useBenchSteps'
import { useFinish } from './useFinish'

/** The bench: one big place for the next value, the limits in sight, an answer at once. */
const { id } = defineProps<{ id: string }>()
const bench = useBench(id)
const {
  inspection,
  failure,
  message,
  doubt,
  at,
  direction,
  typed,
  lines,
  line,
  isOpen: isUnfinished,
  refused,
  unsent,
  isUnreachable,
  ofOthers,
  isKept,
  cells,
  finding,
  certain,
  gauge,
  isWantingGauge,
  inspectedById,
  current,
  liveMark,
  entryUnit,
  unitsOfEntry,
  asked,
  begin,
  load,
  enter,
  confirm,
  deny,
  answer,
  paste,
  blanks,
  restConforms,
} = bench
const session = useSession()
const isAtBench = computed(() => isRecorder(inspection.value, session.person))
/** What another has taken is taken over first. */
const mayRecord = computed(() => {
  const holder = inspection.value?.assignment.claimedBy ?? null
  return isAtBench.value && (holder === null || holder === session.person?.id)
})
const isOpen = computed(() => isUnfinished.value && mayRecord.value)
/** An engineer may change what an adaptable control point asks; that of a staged plan or one by variables stands. */
const mayAdapt = computed(
  () => isUnfinished.value && session.may(record.adaptLine).value && inspection.value?.need === 'adaptable' && lines.value.length > 0,
)
function assigned(assignment: Assignment): void {
  if (inspection.value) inspection.value = { ...inspection.value, assignment }
  focusEntry()
}
function adapted(changed: Inspection): void {
  inspection.value = changed
  goTo(firstOpen() ?? { line: 0, piece: 1 })
  notify('The sample is changed; the reason is kept.')
}
const entry = ref<InstanceType<typeof BenchEntry>>()
useCrumbs(() => [
  { words: 'Record', to: '/record' },
  { words: inspection.value?.planName ?? '…' },
  {
    words: inspection.value ? `${inspection.value.code}, ${inspection.value.subjectKind === 'load' ? '' : 'lot '}${lookedAt(inspection.value)}` : '…',
  },
])
/** The answers of the line that are kept; none where they are summed up in one. */
const kept = computed(() => {
  const question = line.value
  if (!question || question.details.recording === 'summary') return []
  return Array.from({ length: question.sampleSize }, (_, i) => cells.value.get(cellKey(question.id, i + 1))).flatMap((cell) =>
    cell?.value != null ? [{ value: cell.value, mark: cell.mark }] : [],
  )
})
/** What is being typed, where it can stand beside them. */
const live = computed(() =>
  liveMark.value && entryUnit.value === line.value?.unit ? { value: typed.value.replace(',', '.'), mark: liveMark.value } : null,
)
const gaugeRow = ref<InstanceType<typeof BenchGauge>>()
/** To the next key: the gauge where the line wants one first, otherwise the answer. */
const focusEntry = () => void nextTick(() => (line.value && isWantingGauge(line.value) && gaugeRow.value?.focus()) || entry.value?.focus())
const { goTo, firstOpen, toLine, move } = useBenchMoves(bench, focusEntry)
/** What was pressed in the side has gone: the next key is an answer again. */
async function heldMade(): Promise<void> {
  await load()
  focusEntry()
}
async function takeOut(id: string): Promise<void> {
  await benchOutbox.takeOut(id)
  focusEntry()
}
const evidenceRow = ref<InstanceType<typeof BenchEvidence>>()
function said(evidence: Evidence[]): void {
  if (inspection.value) inspection.value = { ...inspection.value, evidence }
}
const hasNonconforming = computed(() => [...cells.value.values()].some(({ mark }) => mark === 'nonconforming'))
/** What more is said of: the piece that was just found nonconforming, while the next one has no answer yet. */
const evidencePiece = computed(() => {
  const { piece } = at.value
  if (current.value?.value != null || piece === 1 || !line.value) return piece
  return cells.value.get(cellKey(line.value.id, piece - 1))?.mark === 'nonconforming' ? piece - 1 : piece
})
const { waiting, listening, takeWaiting, leaveWaiting, listenAgain } = useBenchInstruments(id, bench, isOpen, focusEntry)
function chosen(gauges: GaugeUse[]): void {
  if (inspection.value) inspection.value = { ...inspection.value, gauges }
  message.value = ''
  focusEntry()
}
onMounted(async () => {
  await begin()
  await nextTick()
  focusEntry()
})
watch(at, focusEntry, { deep: true })

async function askRest(): Promise<void> {
  const answer = await ask({
    title: `Do ${blanks.value.length} pieces conform?`,
    text: `Each piece of ${line.value?.name} without an answer is recorded as conforming, judged by you. Say so only when you have looked at every one.`,
    yes: 'They conform',
  })
  if (answer !== null) restConforms()
  focusEntry()
}
const { isBusy, isSkipping, skipped, finish } = useFinish(id, {
  ...{ inspection, failure, message, unsent, load, done: focusEntry },
  toFirstBlank() {
    const open = firstOpen()
    if (open) goTo(open)
  },
})
const { reopen, cancel } = useBenchSteps(id, inspection, failure, focusEntry)
useKeys([
  { key: 'Ctrl+Enter', words: 'finish: judge the lot', run: () => void finish(), inFields: true },
  { key: 'Shift+G', words: 'say with which gauge', run: () => gaugeRow.value?.choose(), inFields: true },
  { key: 'Shift+T', words: 'take what an instrument sent for the open piece', run: takeWaiting, inFields: true },
  { key: 'Shift+E', words: 'fault, remark or picture of a piece', run: () => evidenceRow.value?.begin(), inFields: true },
  { key: 'Shift+D', words: 'dark sheet on and off', run: toggleNight, inFields: true },
  { key: 'Enter', words: 'keep the value, next cell' },
  { key: 'O, X', words: 'conforming, nonconforming' },
  { key: '↑, ↓', words: 'piece before, piece after' },
  { key: 'PgUp, PgDn', words: 'line before, line after' },
  { key: 'Delete', words: 'withdraw the answer of this cell' },
  { key: 'Y, N', words: 'that is what I measured, or change it' },
])
</script>

<style scoped>
.centre {
  background: var(--sheet);
  padding: 18px 24px 8px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  min-height: 0;
  overflow: auto;
}
.centre > * {
  flex: none;
}
.centre > :deep(.grid) {
  flex: 1 0 150px;
}
.rest {
  margin: -6px 0;
}
.bench {
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr) 290px;
  height: 100%;
  background: var(--paper);
}
@media (max-width: 1023px) {
  .bench {
    display: flex;
    flex-direction: column;
    height: auto;
  }
  /* The next piece first, then what else is asked, then what it says so far. */
  .centre {
    order: -1;
  }
}
@media (max-width: 700px) {
  .centre {
    padding: 14px;
  }
  /* However many pieces there are, what it says so far and the end of it are a thumb away. */
  .centre :deep(.grid) {
    max-height: 38vh;
    overflow: auto;
  }
}
</style>
