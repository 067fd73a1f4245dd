<template>
  <div class="entry">
    <template v-if="line.kind === 'measured'">
      <input
        ref="field"
        v-model="typed"
        class="big m"
        inputmode="decimal"
        autocomplete="off"
        :aria-label="`${line.name}, piece ${piece}, ${line.unit}`"
        :placeholder="current?.value ?? ''"
        @beforeinput="onlyNumbers"
        @keydown.enter.exact.prevent="emit('enter')"
        @keydown="emit('key', $event)"
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
      :aria-label="`${line.name}, piece ${piece}: O conforming, X nonconforming`"
      @keydown="judgeByKey"
      @paste="onPaste"
    >
      <button type="button" tabindex="-1" :class="{ on: current?.value === 'O' }" @click="emit('answer', 'O')">
        <MarkSign mark="conforming" :size="30" /><kbd>O</kbd>
      </button>
      <button type="button" tabindex="-1" :class="{ on: current?.value === 'X' }" @click="emit('answer', 'X')">
        <MarkSign mark="nonconforming" :size="30" /><kbd>X</kbd>
      </button>
      <p>{{ line.acceptableState }}</p>
    </div>
    <div class="beside" aria-live="assertive">
      <div v-if="doubt" ref="doubtBox" class="doubt" role="alertdialog" aria-label="Is that what you measured?" tabindex="-1" @keydown="answerDoubt">
        <b>Is that what you measured?</b>
        <span v-for="entry in doubt.values.slice(0, 4)" :key="entry.piece" class="m"
          >{{ doubt.values.length > 1 ? `piece ${entry.piece}: ` : '' }}{{ entry.value }} {{ doubt.line.unit }}</span
        >
        <span v-if="doubt.values.length > 4">and {{ doubt.values.length - 4 }} more</span>
        <span>Limits {{ limitsWords(doubt.line) }}</span>
        <span class="row"
          ><v-btn size="small" color="error" data-test="doubt-yes" @click="emit('confirm')">Yes, I measured that (Y)</v-btn
          ><v-btn size="small" variant="outlined" data-test="doubt-no" @click="emit('deny')">No, change it (N)</v-btn></span
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
</template>

<script setup lang="ts">
import type { InspectionLine } from '@nemawashi/contract'
import type { Mark } from '@nemawashi/core'
import { nextTick, ref, watch } from 'vue'
import { limitsWords } from '../pieces/format'
import MarkSign from '../pieces/MarkSign.vue'
import { mayBecomeNumber, type Answer } from './cells'
import type { Doubt } from './useBench'

/** The one big place for the next value, or for O and X; beside it the mark while it is typed, what is wrong, or the question. */
const { doubt } = defineProps<{
  line: InspectionLine
  piece: number
  current: Answer | null
  liveMark: Mark | null
  doubt: Doubt | null
  message: string
}>()
const typed = defineModel<string>({ required: true })
const emit = defineEmits<{ enter: []; answer: [value: 'O' | 'X']; key: [event: KeyboardEvent]; paste: [text: string]; confirm: []; deny: [] }>()
const field = ref<HTMLElement>()
const doubtBox = ref<HTMLElement>()

/** Puts the cursor where the next key belongs: into the field, or to the question while there is one. */
function focus(): void {
  void nextTick(() => (doubt ? doubtBox : field).value?.focus())
}
defineExpose({ focus })
watch(() => doubt, focus)

/** Letters never enter a number cell. */
function onlyNumbers(event: Event): void {
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
function judgeByKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const key = event.key.toUpperCase()
  if (key === 'O' || key === 'X') emit('answer', key)
  else if (event.key === 'Enter') emit('enter')
  else return emit('key', event)
  event.preventDefault()
}
/** Enter does nothing here: an instrument that sends its next value must not confirm the last one. */
function answerDoubt(event: KeyboardEvent): void {
  const key = event.key.toUpperCase()
  if (key === 'Y') emit('confirm')
  else if (key === 'N' || key === 'ESCAPE') emit('deny')
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
</style>
