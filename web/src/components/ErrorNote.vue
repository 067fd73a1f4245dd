<template>
  <div v-if="failure" class="note" role="alert">
    <MarkSign mark="nonconforming" />
    <div>
      <b>{{ failure.message }}</b> <span>{{ failure.help }}</span>
      <slot />
    </div>
  </div>
</template>

<script setup lang="ts">
import type { Failure } from '../shell/api'
import MarkSign from './MarkSign.vue'

/** What went wrong, what was kept, what helps. */
defineProps<{ failure: Failure | null }>()
</script>

<style scoped>
.note {
  display: flex;
  gap: 10px;
  border-left: 4px solid var(--nonconforming);
  background: var(--nonconforming-wash);
  color: var(--ink);
  padding: 8px 12px;
}
.note .mark {
  color: var(--nonconforming);
  margin-top: 2px;
}
</style>
