<template>
  <v-text-field
    v-model="text"
    class="day"
    :label="label"
    :error-messages="errors"
    :disabled="isDisabled"
    :hint="hint"
    :persistent-hint="hint !== ''"
    :data-field="field"
    placeholder="3 Dec"
    hide-details="auto"
    autocomplete="off"
    @change="settle"
    @focus="isTyping = true"
    @blur="left"
  >
    <template #append-inner>
      <input
        ref="native"
        class="native"
        type="date"
        tabindex="-1"
        aria-hidden="true"
        :value="day ?? ''"
        :min="min ?? undefined"
        :max="max ?? undefined"
        :disabled="isDisabled"
        @change="model = native?.value ?? ''"
      />
      <button type="button" class="open" tabindex="-1" :disabled="isDisabled" :aria-label="`Calendar: ${label}`" @click="native?.showPicker()">
        <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
          <path d="M2 3.5h12v10.5h-12zM2 6.5h12M5 1.5v3M11 1.5v3" fill="none" stroke="currentColor" stroke-width="1.4" />
        </svg>
      </button>
    </template>
  </v-text-field>
</template>

<script setup lang="ts">
import { dayInWords, dayTyped } from '@nemawashi/core'
import { computed, ref, watch } from 'vue'
import { plantDay } from '../shell/plantTime'

/**
 * A calendar day of the plant, typed in any usual way or taken from the calendar, and shown as days are everywhere else, whatever the browser's
 * own habit is. What is not understood stays as it was typed, so that the form says what is wrong with it and nothing typed is lost.
 */
const model = defineModel<string>({ required: true })
const {
  label,
  errorMessages = '',
  isDisabled = false,
  hint = '',
  min = null,
  max = null,
  field,
} = defineProps<{
  label: string
  errorMessages?: string | undefined
  isDisabled?: boolean
  hint?: string
  min?: string | null
  max?: string | null
  field: string
}>()
const native = ref<HTMLInputElement>()
const isTyping = ref(false)
const isDay = (text: string) => /^\d{4}-\d\d-\d\d$/.test(text)
const day = computed(() => (isDay(model.value) ? model.value : null))
const shown = () => (day.value === null ? model.value : dayInWords(day.value))
const typed = ref(shown())
watch(model, (to) => {
  if (!isTyping.value || meant(typed.value) !== to) typed.value = shown()
})
const meant = (text: string) => (text.trim() === '' ? '' : (dayTyped(text, plantDay(new Date())) ?? text.trim()))
const text = computed({
  get: () => typed.value,
  set: (to: string) => {
    typed.value = to
    const now = meant(to)
    if (now === '' || isDay(now)) model.value = now
  },
})
const isOdd = computed(() => model.value !== '' && day.value === null)
const errors = computed(() =>
  isOdd.value
    ? [`${model.value} is not a day: write 3 Dec 2026 or 2026-12-03`]
    : errorMessages !== ''
      ? [errorMessages]
      : day.value !== null && min !== null && day.value < min
        ? [`not before ${dayInWords(min)}`]
        : day.value !== null && max !== null && day.value > max
          ? [`not after ${dayInWords(max)}`]
          : [],
)

function settle(): void {
  model.value = meant(typed.value)
}
function left(): void {
  isTyping.value = false
  settle()
  typed.value = shown()
}
</script>

<style scoped>
.day {
  min-width: 150px;
  max-width: 210px;
}
.native {
  width: 1px;
  height: 1px;
  opacity: 0;
  position: absolute;
  right: 12px;
  bottom: 0;
  border: 0;
  padding: 0;
}
.open {
  display: inline-flex;
  border: 0;
  background: none;
  color: var(--soft);
  padding: 4px;
  cursor: pointer;
}
</style>
