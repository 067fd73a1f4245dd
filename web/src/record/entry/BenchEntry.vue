<template>
  <div class="entry">
    <BenchSummary v-if="isSummary" ref="field" :line="line" :current="current" @answer="emit('answer', $event)" @key="emit('key', $event)" />
    <BenchChoice
      v-else-if="choices"
      ref="field"
      :label="`${line.name}, piece ${piece}`"
      :choices="choices"
      :current="current"
      :words="line.acceptableState ?? ''"
      @answer="emit('answer', $event)"
      @enter="emit('enter')"
      @key="emit('key', $event)"
      @paste="onPaste"
    />
    <BenchDocument
      v-else-if="line.details.noteType === 'document' && line.kind === 'noted'"
      ref="field"
      :label="`${line.name}, piece ${piece}`"
      @answer="emit('answer', $event)"
      @key="emit('key', $event)"
    />
    <template v-else>
      <input
        ref="field"
        v-model="typed"
        class="big m"
        :class="{ wide: !isNumber }"
        :inputmode="line.kind === 'measured' ? 'decimal' : line.kind === 'counted' ? 'numeric' : 'text'"
        autocomplete="off"
        :aria-label="`${line.name}, piece ${piece}, ${line.unit ?? noteWords}`"
        :placeholder="current?.value ?? ''"
        @beforeinput="onlyNumbers"
        @keydown.enter.exact.prevent="emit('enter')"
        @keydown="emit('key', $event)"
        @paste="onPaste"
      />
      <select v-if="units.length > 1" v-model="unit" class="m unit" aria-label="Unit of entry" tabindex="-1">
        <option v-for="symbol in units" :key="symbol">{{ symbol }}</option>
      </select>
      <span v-else class="m unit" :class="{ worded: line.unit === null }">{{ line.unit ?? noteWords }}</span>
      <span v-if="line.kind === 'counted' && line.details.faultCodes.length > 0" class="faults">
        <button
          v-for="code in line.details.faultCodes"
          :key="code"
          type="button"
          tabindex="-1"
          :aria-label="`one more ${code}`"
          @click="addFault(code)"
        >
          + {{ code }}
        </button>
      </span>
    </template>
    <div class="beside" aria-live="assertive">
      <div v-if="doubt" ref="doubtBox" class="doubt" role="alertdialog" aria-label="Is that what you measured?" tabindex="-1" @keydown="answerDoubt">
        <b>Is that what you measured?</b>
        <span v-for="entry in doubt.values.slice(0, 4)" :key="entry.piece" class="m"
          >{{ doubt.values.length > 1 ? `piece ${entry.piece}: ` : '' }}{{ entry.value }} {{ doubt.line.unit }}</span
        >
        <span v-if="doubt.values.length > 4">and {{ doubt.values.length - 4 }} more</span>
        <span>Limits {{ limitsWords(doubt.line) }}</span>
        <span class="row answers"
          ><v-btn size="small" color="error" data-test="doubt-yes" @click="emit('confirm')">Yes, I measured that (Y)</v-btn
          ><v-btn size="small" variant="outlined" data-test="doubt-no" @click="deny">No, change it (N)</v-btn></span
        >
      </div>
      <p v-else-if="message" class="nonconforming" role="alert">{{ message }}</p>
      <p v-else-if="liveMark" :class="liveMark" data-test="live-mark">
        <MarkSign :mark="liveMark" :size="30" />
        {{ { conforming: 'inside the limits', marginal: 'in the marginal band', nonconforming: 'outside the limits', notJudged: '' }[liveMark] }}
      </p>
      <p v-else-if="current && current.value !== null" class="soft">
        <MarkSign :mark="current.mark" /> holds
        <a v-if="documentIn(current.value)" :href="`/api/v1/documents/${documentIn(current.value)?.id}/content`" target="_blank" tabindex="-1">{{
          answerWords(current.value)
        }}</a><template v-else>{{ current.value }}</template
        >; a new value corrects it, both are kept
      </p>
    </div>
  </div>
</template>

<script setup lang="ts">
import type { InspectionLine } from '@nemawashi/contract'
import { answerWords, documentIn, type Mark } from '@nemawashi/core'
import { computed, nextTick, ref, watch } from 'vue'
import { limitsWords } from '../../format/format'
import MarkSign from '../../components/MarkSign.vue'
import BenchDocument from './BenchDocument.vue'
import BenchChoice, { type Choice } from './BenchChoice.vue'
import BenchSummary from './BenchSummary.vue'
import { mayBecomeNumber, type Answer } from './cells'
import type { Doubt } from './doubt'

/** The one big place for the next answer of any kind; beside it the mark while it is typed, what is wrong, or the question. */
const { doubt, line, current } = defineProps<{
  line: InspectionLine
  /** Units that the value may be typed in. */
  units: readonly string[]
  piece: number
  current: Answer | null
  liveMark: Mark | null
  doubt: Doubt | null
  message: string
}>()
const typed = defineModel<string>({ required: true })
const emit = defineEmits<{ enter: []; answer: [value: string]; key: [event: KeyboardEvent]; paste: [text: string]; confirm: []; deny: [] }>()
const unit = defineModel<string>('unit', { default: '' })
const field = ref<{ focus: () => void }>()
const doubtBox = ref<HTMLElement>()

/** Puts the cursor where the next key belongs: into the field, or to the question while there is one. */
function focus(): void {
  void nextTick(() => (doubt ? doubtBox.value : field.value)?.focus())
}
defineExpose({ focus })
watch(() => doubt, focus)

const isSummary = computed(() => line.kind === 'measured' && line.details.recording === 'summary')
const isNumber = computed(() => line.kind === 'measured' || (line.kind === 'noted' && line.details.noteType === 'number'))
const noteWords = computed(() =>
  line.kind === 'counted'
    ? (line.details.countUnit ?? '')
    : { text: 'in words', number: '', date: 'year-month-day', yesNo: '', document: 'document' }[line.details.noteType ?? 'text'],
)
/** Answers that are chosen and not typed. */
const choices = computed<readonly Choice[] | null>(() => {
  if (line.kind === 'judged')
    return [
      { code: 'O', words: '', mark: 'conforming' },
      { code: 'X', words: '', mark: 'nonconforming' },
    ]
  if (line.kind === 'coded')
    return line.details.answers.map(({ code, words, verdict, followUpPlanId }) => ({
      code,
      words,
      mark: verdict === 'neither' ? 'notJudged' : verdict,
      isAskingMore: followUpPlanId !== null,
    }))
  if (line.kind === 'noted' && line.details.noteType === 'yesNo')
    return [
      { code: 'Y', words: 'yes', mark: 'notJudged' },
      { code: 'N', words: 'no', mark: 'notJudged' },
    ]
  return null
})

/** One more nonconformity of a fault code, in the text that is being typed. */
function addFault(code: string): void {
  const parts = new Map(
    typed.value.split(',').flatMap((part) => {
      const [name = '', count = '0'] = part.trim().split(/\s+/)
      return /^[^\d]/.test(name) ? [[name, Number(count)] as const] : []
    }),
  )
  parts.set(code, (parts.get(code) ?? 0) + 1)
  typed.value = [...parts].map(([name, count]) => `${name} ${count}`).join(', ')
  focus()
}

/** Letters never enter a number cell. */
function onlyNumbers(event: Event): void {
  if (!isNumber.value) return
  const { data } = event as InputEvent
  const input = event.target as HTMLInputElement
  if (data === null) return
  const next = input.value.slice(0, input.selectionStart ?? 0) + data + input.value.slice(input.selectionEnd ?? 0)
  if (!mayBecomeNumber(next)) event.preventDefault()
}
function onPaste(event: ClipboardEvent): void {
  event.preventDefault()
  emit('paste', event.clipboardData?.getData('text') ?? '')
}
/** Back to the value, marked as a whole: what is typed next takes its place. */
function deny(): void {
  emit('deny')
  void nextTick(() => nextTick(() => (field.value instanceof HTMLInputElement ? field.value.select() : undefined)))
}
/** Enter does nothing here: an instrument that sends its next value must not confirm the last one. */
function answerDoubt(event: KeyboardEvent): void {
  const key = event.key.toUpperCase()
  if (key === 'Y') emit('confirm')
  else if (key === 'N' || key === 'ESCAPE') deny()
  else return
  event.preventDefault()
}
</script>

<style scoped>
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
.wide {
  text-align: left;
  font-size: 26px;
  width: 220px;
}
.unit.worded {
  font: 14px/18px var(--words);
  max-width: 90px;
}
select.unit {
  height: 44px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--sheet);
}
.faults {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  max-width: 220px;
}
.faults button {
  min-height: 32px;
  padding: 0 10px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--indigo);
  cursor: pointer;
}
.beside {
  position: relative;
  flex: 1;
}
.beside p {
  margin: 0;
}
.answers {
  flex-wrap: wrap;
  margin-top: 6px;
}
@media (max-width: 700px) {
  .entry {
    flex-wrap: wrap;
  }
  .beside {
    flex-basis: 100%;
    min-height: 44px;
  }
}
.doubt {
  position: absolute;
  top: 50%;
  transform: translateY(-50%);
  z-index: 5;
  width: max-content;
  min-width: 300px;
  max-width: min(420px, 100vw - 40px);
  display: flex;
  flex-direction: column;
  gap: 2px;
  border: 2px solid var(--nonconforming);
  background: var(--nonconforming-wash);
  padding: 8px 12px;
}
</style>
