<template>
  <section v-if="waiting.length > 0" class="sent small" aria-label="Sent by instruments" aria-live="polite" data-test="sent-waiting">
    <b>{{ waiting.length === 1 ? 'A value was sent and not taken' : `${waiting.length} values were sent and not taken` }}</b>
    <ul>
      <li v-for="(value, i) in waiting.slice(0, 5)" :key="value.id" class="row">
        <span
          ><b class="m">{{ value.value }} {{ value.unit }}</b> from {{ value.code }}: {{ waitingWords(value.reason) }}</span
        >
        <button v-if="i === 0" type="button" class="link" data-test="take-sent" @click="emit('take')">
          Take it for piece {{ piece }} <kbd>Shift T</kbd>
        </button>
        <button type="button" class="link" :data-test="`leave-sent-${i}`" @click="emit('leave', value.id)">Leave it</button>
      </li>
    </ul>
    <span v-if="waiting.length > 5" class="soft">and {{ waiting.length - 5 }} more after these</span>
  </section>
</template>

<script setup lang="ts">
import { waitingWords } from '@nemawashi/core'
import type { WaitingValue } from './useInstruments'

/** What instruments sent and what waits for a person: taken for the open piece, in the order in which it came, or left. */
defineProps<{ waiting: readonly WaitingValue[]; piece: number }>()
const emit = defineEmits<{ take: []; leave: [id: string] }>()
</script>

<style scoped>
.sent {
  border-left: 3px solid var(--indigo);
  padding: 4px 0 4px 12px;
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.sent ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.sent li {
  gap: 4px 14px;
  flex-wrap: wrap;
}
</style>
