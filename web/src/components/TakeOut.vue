<template>
  <button type="button" :aria-label="`Take ${name} out`">✕</button>
</template>

<script setup lang="ts">
/** The small cross that takes one thing out of a list. */
defineProps<{ name: string }>()
</script>

<style scoped>
button {
  border: 0;
  background: none;
  color: var(--indigo);
  padding: 0 8px;
  cursor: pointer;
}
button:disabled {
  color: var(--rule);
}
</style>
