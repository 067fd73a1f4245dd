<template>
  <div v-if="inspection && line" class="bench">
    <section class="lines" aria-label="Lines of the plan">
      <h3>Lines of the plan</h3>
      <button
        v-for="(entry, i) in lines"
        :key="entry.id"
        type="button"
        class="line"
        :class="{ on: i === at.line }"
        :aria-pressed="i === at.line"
        @click="toLine(i)"
      >
        <MarkSign :mark="verdictMark(finding.lines[i]?.verdict ?? null)" />
        <span class="grow"
          ><b>{{ entry.name }}</b
          ><br /><span class="soft small"
            >{{ finding.lines[i]?.inspected }} of {{ entry.sampleSize }}{{ entry.isDecisive ? ' · decisive' : ''
            }}{{ entry.isRequired ? '' : ' · not required' }}</span
          ></span
        >
        <span class="soft small">{{ entry.kind === 'judged' ? 'O / X' : entry.unit }}</span>
      </button>
      <div class="keys small soft">
        <p><kbd>Enter</kbd> next · <kbd>↑</kbd><kbd>↓</kbd> piece · <kbd>PgUp</kbd><kbd>PgDn</kbd> line</p>
        <p><kbd>O</kbd> conforming · <kbd>X</kbd> not · <kbd>Del</kbd> withdraw</p>
        <label><input v-model="direction" type="radio" value="down" /> down a line</label>
        <label><input v-model="direction" type="radio" value="across" /> across a piece</label>
      </div>
    </section>

    <section class="centre" aria-label="Reading">
      <header>
        <h1>
          {{ line.name }} <span class="soft">· piece {{ at.piece }} of {{ line.sampleSize }}</span>
        </h1>
        <p class="soft">{{ line.instruction || line.method }}</p>
      </header>
      <div v-if="isOpen" class="entry">
        <template v-if="line.kind === 'measured'">
          <input
            ref="field"
            v-model="typed"
            class="big m"
            inputmode="decimal"
            autocomplete="off"
            :aria-label="`${line.name}, piece ${at.piece}, ${line.unit}`"
            :placeholder="current?.value ?? ''"
            @beforeinput="onlyNumbers"
            @keydown.enter.exact.prevent="enter"
            @keydown="move"
            @paste="onPaste"
          />
          <span class="m unit">{{ line.unit }}</span>
        </template>
        <div
          v-else
          ref="field"
          class="judge"
          tabindex="0"
          role="group"
          :aria-label="`${line.name}, piece ${at.piece}: O conforming, X nonconforming`"
          @keydown="judgeByKey"
          @paste="onPaste"
        >
          <button type="button" tabindex="-1" :class="{ on: current?.value === 'O' }" @click="answerBy('O')">
            <MarkSign mark="conforming" :size="30" /><kbd>O</kbd>
          </button>
          <button type="button" tabindex="-1" :class="{ on: current?.value === 'X' }" @click="answerBy('X')">
            <MarkSign mark="nonconforming" :size="30" /><kbd>X</kbd>
          </button>
          <p>{{ line.acceptableState }}</p>
        </div>
        <div class="beside" aria-live="assertive">
          <div
            v-if="doubt"
            ref="doubtBox"
            class="doubt"
            role="alertdialog"
            aria-label="Is that what you measured?"
            tabindex="-1"
            @keydown="answerDoubt"
          >
            <b>Is that what you measured?</b>
            <span v-for="entry in doubt.values.slice(0, 4)" :key="entry.piece" class="m"
              >{{ doubt.values.length > 1 ? `piece ${entry.piece}: ` : '' }}{{ entry.value }} {{ doubt.line.unit }}</span
            >
            <span v-if="doubt.values.length > 4">and {{ doubt.values.length - 4 }} more</span>
            <span>Limits {{ limitsWords(doubt.line) }}</span>
            <span class="row"
              ><v-btn size="small" color="error" data-test="doubt-yes" @click="yes">Yes, I measured that (Y)</v-btn
              ><v-btn size="small" variant="outlined" data-test="doubt-no" @click="no">No, change it (N)</v-btn></span
            >
          </div>
          <p v-else-if="message" class="nonconforming" role="alert">{{ message }}</p>
          <p v-else-if="liveMark" :class="liveMark" data-test="live-mark">
            <MarkSign :mark="liveMark" :size="30" /> {{ liveMark === 'conforming' ? 'inside the limits' : 'outside the limits' }}
          </p>
          <p v-else-if="current && current.value !== null" class="soft">
            <MarkSign :mark="current.mark" /> holds {{ current.value }}; a new value corrects it, both are kept
          </p>
        </div>
      </div>
      <ToleranceStrip v-if="line.kind === 'measured'" class="long" :limits="line" :readings="stripReadings" :width="480" :height="28" has-numbers />
      <BenchGrid :lines="lines" :cells="cells" :at="at" @go="goTo" />
    </section>

    <section class="side" aria-label="Finding">
      <h3>{{ isOpen ? 'Finding so far' : 'Finding' }}</h3>
      <ReasoningLine :verdict="finding.verdict" :reasoning="finding.reasoning" data-test="finding" />
      <ReasoningLine
        v-for="entry in finding.lines"
        :key="entry.name"
        class="small"
        :verdict="entry.verdict"
        :reasoning="`${entry.name}: ${entry.reasoning}`"
      />
      <hr />
      <h3>Held for this inspection</h3>
      <QuantityBar :balances="inspection.balances" :unit="inspection.unit" />
      <p class="small">
        Lot <router-link class="m" :to="`/trace/${inspection.lotId}`">{{ inspection.lotCode }}</router-link> · {{ inspection.supplierName }}
        <span class="m">{{ inspection.supplierLot }}</span>. {{ inspection.isGate && inspection.state !== 'decided' ? 'Gate: put-away waits.' : '' }}
      </p>
      <hr />
      <ErrorNote :failure="failure" />
      <div v-for="reading in refused" :key="reading.id" class="refused small" role="alert">
        <b>Not stored: {{ reading.value ?? 'withdrawal' }}, piece {{ reading.piece }}.</b> {{ reading.refusal }}
        <button type="button" @click="benchOutbox.takeOut(reading.id)">Take it out</button>
      </div>
      <p class="small" :class="isUnreachable ? 'marginal' : 'soft'" data-test="outbox" aria-live="polite">
        {{
          isUnreachable
            ? `No connection: ${unsent} kept here, sent by itself later.`
            : unsent > 0
              ? `${unsent} on the way …`
              : 'Everything typed is stored.'
        }}
      </p>
      <div class="foot">
        <template v-if="isOpen && mayRecord">
          <v-btn variant="outlined" color="primary" to="/record">Leave it</v-btn>
          <v-btn color="primary" :loading="isBusy" data-test="finish" @click="finish">Finish <kbd>Ctrl ⏎</kbd></v-btn>
        </template>
        <template v-else-if="inspection.state === 'finished'">
          <v-btn v-if="mayRecord" variant="outlined" color="primary" data-test="reopen" @click="isReopening = true">Reopen</v-btn>
          <v-btn color="primary" :to="`/contain/${inspection.id}`" data-test="to-decision">To the decision</v-btn>
        </template>
        <template v-else-if="inspection.decision">
          <SealStamp :initials="inspection.decision.initials" :meaning="inspection.decision.meaning" :signed-at="inspection.decision.signedAt" />
        </template>
        <a v-if="!isOpen" :href="`/api/inspections/${inspection.id}/report.pdf`" target="_blank" data-test="report">Report, PDF</a>
      </div>
    </section>
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
import { endpoints } from '@nemawashi/contract'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { asFailure, call } from '../frame/api'
import { useCrumbs } from '../frame/crumbs'
import { useKeys } from '../frame/keys'
import { isNight } from '../frame/night'
import { notify } from '../frame/notify'
import { useSession } from '../frame/session'
import EmptyState from '../pieces/EmptyState.vue'
import ErrorNote from '../pieces/ErrorNote.vue'
import { limitsWords, verdictMark } from '../pieces/format'
import MarkSign from '../pieces/MarkSign.vue'
import QuantityBar from '../pieces/QuantityBar.vue'
import ReasoningLine from '../pieces/ReasoningLine.vue'
import SealStamp from '../pieces/SealStamp.vue'
import ToleranceStrip from '../pieces/ToleranceStrip.vue'
import BenchGrid from './BenchGrid.vue'
import { benchOutbox } from './benchOutbox'
import { cellKey, mayBecomeNumber, nextOpen, type CellPlace } from './cells'
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
const field = ref<HTMLElement>()
const doubtBox = ref<HTMLElement>()
const isBusy = ref(false)
const isReopening = ref(false)
const reason = ref('')
useCrumbs(() => [
  { words: 'Record', to: '/record' },
  { words: inspection.value?.planName ?? '…' },
  { words: inspection.value ? `${inspection.value.code}, lot ${inspection.value.lotCode}` : '…' },
])
const stripReadings = computed(() => {
  const of = line.value
  if (!of) return []
  const kept = Array.from({ length: of.sampleSize }, (_, i) => cells.value.get(cellKey(of.id, i + 1))).flatMap((cell) =>
    cell?.value != null ? [{ value: cell.value, mark: cell.mark }] : [],
  )
  return liveMark.value ? [...kept, { value: typed.value.replace(',', '.'), mark: liveMark.value }] : kept
})

const focusField = () => void nextTick(() => field.value?.focus())
onMounted(async () => {
  await begin()
  focusField()
})
watch(at, focusField, { deep: true })
watch(doubt, (value) => void nextTick(() => (value ? doubtBox.value?.focus() : field.value?.focus())))

function goTo(place: CellPlace): void {
  go(place)
  focusField()
}
function toLine(i: number): void {
  const to = lines.value[i]
  if (to)
    goTo(
      nextOpen([to], cells.value, { line: 0, piece: 0 }, 'down')
        ? { line: i, piece: nextOpen([to], cells.value, { line: 0, piece: 0 }, 'down')?.piece ?? 1 }
        : { line: i, piece: 1 },
    )
}
function onlyNumbers(event: Event): void {
  const { data } = event as InputEvent
  const input = event.target as HTMLInputElement
  if (data === null) return
  const next = input.value.slice(0, input.selectionStart ?? 0) + data + input.value.slice(input.selectionEnd ?? 0)
  if (!mayBecomeNumber(next)) event.preventDefault()
}
function onPaste(event: ClipboardEvent): void {
  event.preventDefault()
  paste(event.clipboardData?.getData('text') ?? '')
}
function move(event: KeyboardEvent): void {
  const to = line.value
  if (!to || doubt.value) return
  const piece = at.value.piece + (event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0)
  const next = at.value.line + (event.key === 'PageDown' ? 1 : event.key === 'PageUp' ? -1 : 0)
  if (event.key === 'Delete' && typed.value === '') withdraw()
  else if (piece !== at.value.piece && piece >= 1 && piece <= to.sampleSize) go({ ...at.value, piece })
  else if (next !== at.value.line && lines.value[next]) toLine(next)
  else return
  event.preventDefault()
}
function judgeByKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const key = event.key.toUpperCase()
  if (key === 'O' || key === 'X') {
    event.preventDefault()
    answerBy(key)
  } else if (event.key === 'Enter') {
    event.preventDefault()
    typed.value = ''
    enter()
  } else move(event)
}
function answerBy(value: 'O' | 'X'): void {
  answer(value)
  focusField()
}
function answerDoubt(event: KeyboardEvent): void {
  const key = event.key.toUpperCase()
  if (key === 'Y') yes()
  else if (key === 'N' || key === 'ESCAPE') no()
  else return
  event.preventDefault()
}
function yes(): void {
  confirm()
  focusField()
}
function no(): void {
  deny()
  focusField()
}

async function finish(): Promise<void> {
  if (isBusy.value || !inspection.value) return
  isBusy.value = true
  failure.value = null
  try {
    await benchOutbox.flush()
    if (unsent.value > 0) return void (message.value = `${unsent.value} readings are not stored yet; the inspection can be finished when they are.`)
    inspection.value = await call(endpoints.record.finishInspection, { params: { id }, body: { version: inspection.value.version } })
    localStorage.removeItem(`draft ${id}`)
    notify(`${inspection.value.code} is finished: ${inspection.value.finding.verdict === 'acceptable' ? 'acceptable' : 'not acceptable'}.`)
  } catch (error) {
    failure.value = asFailure(error)
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
    focusField()
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
.bench {
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr) 290px;
  height: 100%;
  background: var(--paper);
}
.lines {
  border-right: 1px solid var(--rule);
  overflow: auto;
  padding-top: 14px;
}
.lines h3 {
  padding: 0 16px 8px;
}
.line {
  display: flex;
  gap: 10px;
  align-items: center;
  width: 100%;
  border: 0;
  border-top: 1px solid var(--rule);
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  padding: 8px 14px 8px 12px;
  border-left: 4px solid transparent;
  cursor: pointer;
}
.line.on {
  background: var(--sheet);
  border-left-color: var(--indigo);
}
.keys {
  border-top: 1px solid var(--rule);
  padding: 12px 16px;
}
.keys p {
  margin: 0 0 8px;
}
.keys label {
  margin-right: 10px;
}
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
.entry {
  display: flex;
  gap: 14px;
  align-items: center;
  min-height: 76px;
}
.big {
  width: 210px;
  height: 72px;
  flex: none;
  border: 2px solid var(--indigo);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  font-size: 42px;
  text-align: right;
  padding: 0 14px;
}
.big::placeholder {
  color: var(--soft);
  opacity: 0.55;
}
.unit {
  font-size: 20px;
  color: var(--soft);
}
.judge {
  display: flex;
  gap: 10px;
  align-items: center;
}
.judge button {
  width: 76px;
  height: 72px;
  display: grid;
  place-items: center;
  border: 2px solid var(--rule);
  border-radius: 4px;
  background: var(--sheet);
  cursor: pointer;
}
.judge button.on {
  border-color: var(--indigo);
}
.judge p {
  max-width: 240px;
  margin: 0;
}
.judge .conforming {
  color: var(--conforming);
}
.judge .nonconforming {
  color: var(--nonconforming);
}
.beside {
  position: relative;
  flex: 1;
}
.beside p {
  margin: 0;
}
.doubt {
  position: absolute;
  top: 50%;
  transform: translateY(-50%);
  z-index: 5;
  width: max-content;
  max-width: 100%;
  display: flex;
  flex-direction: column;
  gap: 2px;
  border: 2px solid var(--nonconforming);
  background: var(--nonconforming-wash);
  padding: 8px 12px;
}
.long {
  margin: 4px 0 22px;
  max-width: 100%;
  flex: none;
}
.side {
  border-left: 1px solid var(--rule);
  padding: 14px 18px;
  overflow: auto;
  display: flex;
  flex-direction: column;
  gap: 9px;
}
.side p {
  margin: 0;
}
hr {
  border: 0;
  border-top: 1px solid var(--rule);
  width: 100%;
  margin: 4px 0;
}
.refused {
  border-left: 4px solid var(--nonconforming);
  padding-left: 10px;
}
.refused button {
  color: var(--indigo);
  background: none;
  border: 0;
  font-weight: 600;
  cursor: pointer;
}
.foot {
  margin-top: auto;
  padding-top: 12px;
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
}
.foot kbd {
  margin-left: 8px;
  background: transparent;
  color: inherit;
}
@media (max-width: 1023px) {
  .bench {
    grid-template-columns: 1fr;
    height: auto;
  }
  .lines {
    border-right: 0;
  }
  .keys {
    display: none;
  }
}
</style>
