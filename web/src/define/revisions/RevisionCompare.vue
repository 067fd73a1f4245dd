<template>
  <section class="compare" aria-label="Two revisions side by side">
    <div class="row">
      <h2 class="grow">Compare revision {{ left.revision }} with</h2>
      <select v-model="other" aria-label="Other revision">
        <option v-for="revision in others" :key="revision.id" :value="revision.id">revision {{ revision.revision }}, {{ revision.state }}</option>
      </select>
    </div>
    <table v-if="right" class="plain">
      <thead>
        <tr>
          <th><span class="sr-only">what</span></th>
          <th>revision {{ left.revision }}</th>
          <th>revision {{ right.revision }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.label">
          <th scope="row">{{ row.label }}</th>
          <td>{{ row.mine || '–' }}</td>
          <td>{{ row.theirs || '–' }}</td>
        </tr>
        <tr v-if="rows.length === 0">
          <td colspan="3" class="soft">Both say the same.</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<script setup lang="ts" generic="R extends { id: string; revision: number; state: string }">
import { computed, ref } from 'vue'

/** What differs between two revisions of a definition. */
const { left, revisions, wordsOf } = defineProps<{
  left: R
  revisions: readonly R[]
  wordsOf: (revision: R) => readonly { label: string; words: string }[]
}>()
const others = computed(() => revisions.filter((revision) => revision.id !== left.id))
const other = ref(others.value[0]?.id ?? '')
const right = computed(() => others.value.find((revision) => revision.id === other.value) ?? others.value[0])
const rows = computed(() => {
  const later = right.value
  if (!later) return []
  const mine = new Map(wordsOf(left).map(({ label, words }) => [label, words]))
  const theirs = new Map(wordsOf(later).map(({ label, words }) => [label, words]))
  return [...new Set([...mine.keys(), ...theirs.keys()])]
    .map((label) => ({ label, mine: mine.get(label) ?? '', theirs: theirs.get(label) ?? '' }))
    .filter((row) => row.mine !== row.theirs)
})
</script>

<style scoped>
.compare {
  border-top: 1px solid var(--rule);
  padding-top: 10px;
}
select {
  height: 30px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
}
</style>
