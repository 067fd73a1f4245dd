<template>
  <p class="reasoning" :class="verdictMark(verdict)">
    <MarkSign :mark="verdictMark(verdict)" :size="isLarge ? 22 : 16" /><span :class="{ large: isLarge }">{{ reasoning }}</span>
  </p>
</template>

<script setup lang="ts">
import { verdictMark } from '../format/format'
import MarkSign from './MarkSign.vue'

/** A verdict with its arithmetic in one sentence. */
defineProps<{ verdict: string; reasoning: string; isLarge?: boolean }>()
</script>

<style scoped>
.reasoning {
  display: flex;
  gap: 8px;
  align-items: flex-start;
  margin: 0;
}
.reasoning.notJudged {
  color: var(--soft);
}
.large {
  font: 600 16px/22px var(--words);
}
</style>
