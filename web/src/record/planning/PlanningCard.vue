<template>
  <button
    class="card"
    :class="{ held: isHeld, late: isBehind }"
    draggable="true"
    :data-card="card.code"
    :aria-pressed="isHeld"
    @dragstart="emit('pick')"
    @dragend="emit('cancelMove')"
    @keydown="emit('key', $event)"
    @click.stop
    @dblclick="router.push(`/record/${card.id}`)"
  >
    <b>{{ card.planName }}</b><span class="sr-only"> {{ card.code }} </span>
    <span class="m small soft">{{ [minutesWords, card.partCode, card.lotCode].filter(Boolean).join(' · ') }}</span>
    <span v-if="due || holder" class="small" :class="{ nonconforming: isBehind }">{{ due }}{{ holder }}</span>
  </button>
</template>

<script setup lang="ts">
import type { PlannedInspection } from '@nemawashi/contract'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { dayWords, momentOf } from '../../format/format'
import { isLate } from '../../format/isLate'

/** One inspection on the planning board. */
const { card, isHeld, today = '' } = defineProps<{ card: PlannedInspection; isHeld: boolean; today?: string }>()
const emit = defineEmits<{ pick: []; cancelMove: []; key: [event: KeyboardEvent] }>()
const router = useRouter()
const isBehind = computed(() => isLate(card) || (card.day !== null && card.day < today))
const minutesWords = computed(() => (card.minutes === null ? '? min' : `${card.minutes} min`))
const due = computed(() =>
  card.day !== null && card.day < today
    ? `left from ${dayWords(card.day)}`
    : card.dueAt === null
      ? ''
      : `${isBehind.value ? 'late: ' : 'due '}${momentOf(card.dueAt)}`,
)
const holder = computed(() => (card.holderName === null ? '' : ` ${card.holderName} has it`))
</script>

<style scoped>
.card {
  display: block;
  width: 100%;
  text-align: left;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-left: 4px solid var(--indigo);
  border-radius: 4px;
  padding: 3px 8px 4px;
  margin: 4px 0;
  cursor: grab;
  color: var(--ink);
  font: 13px/17px var(--words);
}
.card.late {
  border-left-color: var(--nonconforming);
}
.card.held {
  background: var(--wash);
  outline: 2px solid var(--indigo);
}
.card b,
.card span:not(.sr-only) {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
