<template>
  <div v-if="inspection && line" class="bench">
    <BenchLines v-model:direction="direction" :lines="lines" :finding="finding" :current="at.line" @line="toLine" />

    <section class="centre" aria-label="Reading">
      <header>
        <h1>
          {{ line.name }} <span class="soft">· {{ placeWords }}</span>
        </h1>
        <RichText v-if="line.instruction" :text="line.instruction" class="soft told" />
        <p v-else class="soft">{{ line.method }}</p>
        <DocumentShelf v-if="line.details.documentIds.length > 0" :key="line.id" :ids="line.details.documentIds" @closed="focusEntry" />
      </header>
      <BenchEntry
        v-if="isOpen"
        ref="entry"
        v-model="typed"
        v-model:unit="entryUnit"
        :line="line"
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
      <ToleranceStrip
        v-if="line.kind === 'measured'"
        class="long"
        :limits="{ ...line, ...line.details }"
        :readings="stripReadings"
        :width="480"
        :height="28"
        has-numbers
      />
      <BenchGrid :lines="lines" :cells="cells" :at="at" @go="goTo" />
    </section>

    <BenchSide
      :inspection="inspection"
      :finding="finding"
      :failure="failure"
      :refused="refused"
      :unsent="unsent"
      :is-unreachable="isUnreachable"
      :is-open="isOpen"
      :may-record="mayRecord"
      :is-busy="isBusy"
      @finish="finish()"
      @reopen="isReopening = true"
      @take-out="benchOutbox.takeOut($event)"
    />
    <SkipDialog v-model="isSkipping" :skipped="skipped" @finish="finish" />
    <v-dialog v-model="isReopening" width="420">
      <v-card title="Back to the bench?">
        <v-card-text>
          <p class="soft">The finding is taken back. Say why; it stands in the audit chain.</p>
          <v-text-field v-model="reason" label="Reason" autofocus @keydown.enter="reopen" />
        </v-card-text>
        <v-card-actions
          ><v-btn @click="isReopening = false">Cancel</v-btn
          ><v-btn color="primary" :disabled="reason.trim().length < 3" @click="reopen">Reopen</v-btn></v-card-actions
        >
      </v-card>
    </v-dialog>
  </div>
  <EmptyState v-else title="Inspection" :text="failure?.message ?? 'Loading …'" />
</template>

<script setup lang="ts">
import { endpoints, type LineSkip } from '@nemawashi/contract'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { asFailure, call } from '../frame/api'
import { useCrumbs } from '../frame/crumbs'
import { useKeys } from '../frame/keys'
import { isNight } from '../frame/night'
import { notify } from '../frame/notify'
import { useSession } from '../frame/session'
import EmptyState from '../pieces/EmptyState.vue'
import DocumentShelf from '../pieces/DocumentShelf.vue'
import RichText from '../pieces/RichText.vue'
import ToleranceStrip from '../pieces/ToleranceStrip.vue'
import BenchEntry from './BenchEntry.vue'
import BenchGrid from './BenchGrid.vue'
import BenchLines from './BenchLines.vue'
import BenchSide from './BenchSide.vue'
import SkipDialog, { type SkippedLine } from './SkipDialog.vue'
import { benchOutbox } from './benchOutbox'
import { cellKey, nextOpen, type CellPlace } from './cells'
import { useBench } from './useBench'

/** The bench: one big place for the next value, the limits in sight, an answer at once. */
const id = String(useRoute().params['id'])
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
  cells,
  finding,
  current,
  liveMark,
  entryUnit,
  asked,
  begin,
  load,
  go,
  enter,
  confirm,
  deny,
  answer,
  withdraw,
  paste,
} = useBench(id)
const mayRecord = useSession().has('inspector', 'qualityEngineer')
const isOpen = computed(() => isUnfinished.value && mayRecord.value)
const entry = ref<InstanceType<typeof BenchEntry>>()
const isBusy = ref(false)
const isReopening = ref(false)
const isSkipping = ref(false)
const skipped = ref<SkippedLine[]>([])
const reason = ref('')
useCrumbs(() => [
  { words: 'Record', to: '/record' },
  { words: inspection.value?.planName ?? '…' },
  { words: inspection.value ? `${inspection.value.code}, lot ${inspection.value.lotCode}` : '…' },
])
const stripReadings = computed(() => {
  const of = line.value
  if (!of || of.details.recording === 'summary') return []
  const kept = Array.from({ length: of.sampleSize }, (_, i) => cells.value.get(cellKey(of.id, i + 1))).flatMap((cell) =>
    cell?.value != null ? [{ value: cell.value, mark: cell.mark }] : [],
  )
  const isOwnUnit = entryUnit.value === of.unit
  return liveMark.value && isOwnUnit ? [...kept, { value: typed.value.replace(',', '.'), mark: liveMark.value }] : kept
})

/** `piece 3 of 20`, `stage 2, piece 9 of 16`, `one summary of 50 pieces`. */
const placeWords = computed(() => {
  const of = line.value
  if (!of) return ''
  if (of.details.recording === 'summary') return `one summary of ${of.sampleSize} pieces`
  let end = 0
  const stage = of.stages && of.stages.length > 1 ? of.stages.findIndex((entryOf) => (end += entryOf.sampleSize) >= at.value.piece) + 1 : 0
  return `${stage > 0 ? `stage ${stage}, ` : ''}piece ${at.value.piece} of ${asked.value}`
})
const focusEntry = () => entry.value?.focus()
onMounted(async () => {
  await begin()
  await nextTick()
  focusEntry()
})
watch(at, focusEntry, { deep: true })

function goTo(place: CellPlace): void {
  go(place)
  focusEntry()
}
/** To the first cell of a line that is still open, or to its first piece. */
function toLine(i: number): void {
  const to = lines.value[i]
  if (to) goTo({ line: i, piece: nextOpen([to], cells.value, { line: 0, piece: 0 }, 'down')?.piece ?? 1 })
}
function move(event: KeyboardEvent): void {
  const to = line.value
  if (!to || doubt.value) return
  const piece = at.value.piece + (event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0)
  const next = at.value.line + (event.key === 'PageDown' ? 1 : event.key === 'PageUp' ? -1 : 0)
  if (event.key === 'Delete' && typed.value === '') withdraw()
  else if (piece !== at.value.piece && piece >= 1 && piece <= asked.value) go({ ...at.value, piece })
  else if (next !== at.value.line && lines.value[next]) toLine(next)
  else return
  event.preventDefault()
}

async function finish(skips: LineSkip[] = []): Promise<void> {
  if (isBusy.value || !inspection.value) return
  isBusy.value = true
  failure.value = null
  try {
    await benchOutbox.flush()
    if (unsent.value > 0) return void (message.value = `${unsent.value} readings are not stored yet; the inspection can be finished when they are.`)
    inspection.value = await call(endpoints.record.finishInspection, { params: { id }, body: { version: inspection.value.version, skips } })
    localStorage.removeItem(`draft ${id}`)
    const more = inspection.value.followUps.map(({ code }) => ` ${code} is opened for an answer.`).join('')
    notify(`${inspection.value.code} is finished: ${inspection.value.finding.verdict === 'acceptable' ? 'acceptable' : 'not acceptable'}.${more}`)
  } catch (error) {
    const failed = asFailure(error)
    if (failed.code === 'skip_reason_missing') {
      skipped.value = failed.facts['skipped'] as SkippedLine[]
      isSkipping.value = true
      return
    }
    failure.value = failed
    if (failure.value.code === 'stale_version') await load()
    const open = nextOpen(lines.value, cells.value, { line: 0, piece: 0 }, direction.value)
    if (failure.value.code === 'answers_missing' && open) goTo(open)
  } finally {
    isBusy.value = false
  }
}
async function reopen(): Promise<void> {
  if (!inspection.value || reason.value.trim().length < 3) return
  try {
    inspection.value = await call(endpoints.record.reopenInspection, {
      params: { id },
      body: { version: inspection.value.version, reason: reason.value },
    })
    isReopening.value = false
    reason.value = ''
    focusEntry()
  } catch (error) {
    failure.value = asFailure(error)
  }
}
useKeys([
  { key: 'Ctrl+Enter', words: 'finish: judge the lot', run: () => void finish(), inFields: true },
  { key: 'Shift+D', words: 'dark sheet on and off', run: () => (isNight.value = !isNight.value), inFields: true },
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
}
header p {
  margin: 2px 0 0;
}
.long {
  margin: 4px 0 22px;
  max-width: 100%;
  flex: none;
}
.bench {
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr) 290px;
  height: 100%;
  background: var(--paper);
}
@media (max-width: 1023px) {
  .bench {
    grid-template-columns: 1fr;
    height: auto;
  }
}
</style>
