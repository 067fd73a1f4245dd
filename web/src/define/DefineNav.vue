<template>
  <nav class="kinds" aria-label="What to define">
    <p v-for="(group, i) in groups" :key="i" :class="{ minor: i > 0 }">
      <span class="sr-only">{{ i === 0 ? 'What is inspected' : "The plant's own lists" }}</span>
      <router-link
        v-for="{ path, words } in group"
        :key="path"
        :to="`/define/${path}`"
        :class="{ on: path === current }"
        :aria-current="path === current ? 'page' : undefined"
        >{{ words }}</router-link
      >
    </p>
  </nav>
</template>

<script setup lang="ts">
/** What can be defined, in two groups above the list: what is inspected, and the plant's own lists that it rests on. */
defineProps<{ current: string }>()
const groups = [
  [
    { path: 'characteristics', words: 'Characteristics' },
    { path: 'plans', words: 'Plans' },
    { path: 'sampling', words: 'Sampling' },
    { path: 'import', words: 'Import' },
  ],
  [
    { path: 'parts', words: 'Parts' },
    { path: 'families', words: 'Families' },
    { path: 'partners', words: 'Partners' },
    { path: 'places', words: 'Places' },
    { path: 'operations', words: 'Operations' },
    { path: 'answer-lists', words: 'Answer lists' },
    { path: 'fault-codes', words: 'Fault codes' },
    { path: 'count-units', words: 'Count units' },
    { path: 'classes', words: 'Classes' },
    { path: 'reasons', words: 'Reasons' },
  ],
]
</script>

<style scoped>
.kinds {
  padding: 10px 16px 6px;
  border-bottom: 1px solid var(--rule);
}
p {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  margin: 0;
}
.minor {
  font-size: 12.5px;
  line-height: 17px;
}
a {
  color: var(--soft);
  text-decoration: none;
  padding: 2px 0 3px;
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
