<template>
  <td
    :class="{ here: isHere, unasked: !isAsked, waiting: answer?.status === 'waiting' }"
    :data-cell="isAsked ? line.id : undefined"
    :aria-current="isHere ? 'true' : undefined"
  >
    <span v-if="isAsked" class="cell">
      <span v-if="line.kind === 'measured' && line.details.recording === 'pieces'" class="m value">{{ answer?.value ?? '·' }}</span>
      <span v-else-if="line.kind !== 'judged'" class="m words" :title="answerWords(answer?.value ?? '')">{{
        answerWords(answer?.value ?? '·')
      }}</span>
      <MarkSign :mark="answer?.mark ?? 'notJudged'" />
      <ToleranceStrip
        v-if="line.kind === 'measured' && line.details.recording === 'pieces' && answer?.value"
        :limits="{ ...line, ...line.details }"
        :readings="[{ value: answer.value, mark: answer.mark }]"
        :width="84"
      />
      <span v-if="refused !== null" class="nonconforming small" title="Not stored: see beside the pieces">{{ answerWords(refused) }} not stored</span>
      <span v-if="answer && answer.corrections > 0" class="soft small" :title="`${answer.corrections} earlier kept`">corrected</span>
    </span>
  </td>
</template>

<script setup lang="ts">
import type { InspectionLine } from '@nemawashi/contract'
import { answerWords } from '@nemawashi/core'
import MarkSign from '../../components/MarkSign.vue'
import ToleranceStrip from '../../components/ToleranceStrip.vue'
import type { Answer } from '../entry/cells'

/** One cell of the bench: the reading, its mark and where it lies, and beside it one that was typed there and could not be stored. */
defineProps<{ line: InspectionLine; answer: Answer | null; refused: string | null; isAsked: boolean; isHere: boolean }>()
</script>

<style scoped>
td {
  height: 36px;
  padding: 0 10px;
  border-bottom: 1px solid color-mix(in srgb, var(--rule) 60%, transparent);
  cursor: pointer;
}
.cell {
  display: flex;
  align-items: center;
  gap: 8px;
}
.value {
  min-width: 7ch;
  text-align: right;
}
.words {
  max-width: 24ch;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.here {
  outline: 2px solid var(--indigo);
  outline-offset: -2px;
}
.unasked {
  background: color-mix(in srgb, var(--rule) 25%, transparent);
  cursor: default;
}
.waiting .value {
  font-style: italic;
}
</style>
