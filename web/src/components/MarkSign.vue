<template>
  <svg class="mark" :class="mark" :width="size" :height="size" viewBox="0 0 16 16" role="img" :aria-label="words[mark]">
    <circle v-if="mark === 'conforming'" cx="8" cy="8" r="5.5" />
    <path v-else-if="mark === 'marginal'" d="M8 2.5 14 13H2z" />
    <path v-else-if="mark === 'nonconforming'" d="M3 3l10 10M13 3L3 13" />
    <path v-else d="M4 8h8" />
  </svg>
</template>

<script setup lang="ts">
import type { Mark } from '@nemawashi/core'

/** A mark as people write it on a check sheet: a shape first, a colour second. */
const { mark, size = 16 } = defineProps<{ mark: Mark; size?: number }>()
const words: Record<Mark, string> = { conforming: 'conforming', marginal: 'marginal', nonconforming: 'nonconforming', notJudged: 'not judged' }
</script>

<style scoped>
.mark {
  fill: none;
  stroke: currentColor;
  stroke-width: 2;
  vertical-align: -3px;
  flex: none;
}
.notJudged {
  color: var(--notjudged);
}
</style>
