<template>
  <nav class="tabs" :aria-label="label">
    <router-link v-for="tab in tabs" :key="tab.words" :to="tab.to" :class="{ on: tab.isOn }" :aria-current="tab.isOn ? 'page' : undefined">{{
      tab.words
    }}</router-link>
  </nav>
</template>

<script setup lang="ts">
import type { RouteLocationRaw } from 'vue-router'

/** Ways to narrow a list down, as links above it: each has an address of its own. */
defineProps<{ label: string; tabs: readonly { readonly words: string; readonly to: RouteLocationRaw; readonly isOn: boolean }[] }>()
</script>

<style scoped>
.tabs {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  padding: 10px 16px 0;
}
a {
  display: inline-block;
  color: var(--soft);
  text-decoration: none;
  padding-bottom: 6px;
  border-bottom: 2px solid transparent;
}
/* Words of states are small in sentences and begin large where they stand alone. */
a::first-letter {
  text-transform: uppercase;
}
a.on {
  color: var(--indigo);
  font-weight: 600;
  border-bottom-color: var(--indigo);
}
</style>
