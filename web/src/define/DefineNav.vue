<template>
  <nav class="kinds" aria-label="What to define">
    <router-link
      v-for="{ path, words } in kinds"
      :key="path"
      :to="`/define/${path}`"
      :class="{ on: path === current }"
      :aria-current="path === current ? 'page' : undefined"
      >{{ words }}</router-link
    >
  </nav>
</template>

<script setup lang="ts">
/** What can be defined, as a line of links above the list. */
defineProps<{ current: string }>()
const kinds = [
  { path: 'characteristics', words: 'Characteristics' },
  { path: 'plans', words: 'Plans' },
  { path: 'parts', words: 'Parts' },
  { path: 'families', words: 'Families' },
  { path: 'partners', words: 'Partners' },
  { path: 'places', words: 'Places' },
  { path: 'operations', words: 'Operations' },
]
</script>

<style scoped>
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  padding: 12px 16px 4px;
  border-bottom: 1px solid var(--rule);
}
a {
  color: var(--soft);
  text-decoration: none;
  padding: 2px 0 5px;
  border-bottom: 2px solid transparent;
}
a:hover {
  color: var(--ink);
}
a.on {
  color: var(--indigo);
  font-weight: 600;
  border-bottom-color: var(--indigo);
}
</style>
