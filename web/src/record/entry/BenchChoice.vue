<template>
  <div
    ref="box"
    class="choice"
    tabindex="0"
    role="group"
    :aria-label="`${label}: ${choices.map((choice) => `${choice.code} ${choice.words || markWords[choice.mark]}`).join(', ')}`"
    @keydown="byKey"
    @paste="emit('paste', $event)"
  >
    <button
      v-for="choice in choices"
      :key="choice.code"
      type="button"
      tabindex="-1"
      :class="{ on: current?.value === choice.code, worded: choice.words !== '' }"
      @click="emit('answer', choice.code)"
    >
      <MarkSign :mark="choice.mark" :size="choice.words === '' ? 30 : 18" /><span v-if="choice.words">{{ choice.words }}</span
      ><kbd>{{ choice.code }}</kbd
      ><small v-if="choice.isAskingMore">opens a further inspection</small>
    </button>
    <p v-if="words">{{ words }}</p>
  </div>
</template>

<script lang="ts">
import type { Mark } from '@nemawashi/core'

export interface Choice {
  readonly code: string
  readonly words: string
  readonly mark: Mark
  /** The answer opens a further inspection. */
  readonly isAskingMore?: boolean
}
</script>

<script setup lang="ts">
import { ref } from 'vue'
import MarkSign from '../../components/MarkSign.vue'
import type { Answer } from './cells'

/** A few answers, each with its mark and the key that gives it: O and X, a list, yes and no. */
const { choices } = defineProps<{ label: string; choices: readonly Choice[]; current: Answer | null; words: string }>()
const emit = defineEmits<{ answer: [value: string]; enter: []; key: [event: KeyboardEvent]; paste: [event: ClipboardEvent] }>()
const box = ref<HTMLElement>()
const markWords = { conforming: 'conforming', marginal: 'marginal', nonconforming: 'nonconforming', notJudged: 'not judged' } as const
defineExpose({ focus: () => box.value?.focus() })

/** The key is the answer's code, or as much of it as tells it apart. */
function byKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const key = event.key.toUpperCase()
  const meant = choices.filter((choice) => choice.code.toUpperCase().startsWith(key))
  const exact = choices.find((choice) => choice.code.toUpperCase() === key)
  if (event.key.length === 1 && (exact ?? meant.length === 1)) emit('answer', (exact ?? (meant[0] as Choice)).code)
  else if (event.key === 'Enter') emit('enter')
  else return emit('key', event)
  event.preventDefault()
}
</script>

<style scoped>
.choice {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
button {
  min-width: 76px;
  height: 72px;
  display: grid;
  place-items: center;
  border: 2px solid var(--rule);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  cursor: pointer;
}
button.worded {
  height: 64px;
  padding: 4px 12px;
  grid-template-columns: auto auto;
  gap: 0 8px;
}
button small {
  grid-column: 1 / -1;
  color: var(--soft);
}
button.worded kbd {
  grid-column: 1 / -1;
}
button.on {
  border-color: var(--indigo);
}
p {
  max-width: 240px;
  margin: 0;
}
</style>
