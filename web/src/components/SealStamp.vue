<template>
  <div
    class="seal"
    :style="{ width: `${size}px`, height: `${size}px` }"
    role="img"
    :aria-label="`sealed by ${initials}: ${meaning}, ${dayOf(signedAt)}`"
  >
    <b :style="{ fontSize: `${size * 0.25}px`, lineHeight: 1.05 }">{{ initials }}</b>
    <small :style="{ fontSize: `${Math.max(9, size * 0.135)}px` }">{{ meaning }}</small>
    <small :style="{ fontSize: `${Math.max(9, size * 0.125)}px` }">{{ dayOf(signedAt) }}</small>
  </div>
</template>

<script setup lang="ts">
import { dayOf } from '../format/format'

/** A signed decision: the signer's initials, what it means and the day, in a round red stamp. The same on paper. */
const { initials, meaning, signedAt, size = 72 } = defineProps<{ initials: string; meaning: string; signedAt: string; size?: number }>()
</script>

<style scoped>
.seal {
  border: 2px solid var(--seal);
  border-radius: 50%;
  color: var(--seal);
  display: grid;
  place-content: center;
  text-align: center;
  transform: rotate(-7deg);
  flex: none;
}
small {
  font-weight: 600;
  line-height: 1.15;
}
</style>
