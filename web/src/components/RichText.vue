<template>
  <!-- eslint-disable-next-line vue/no-v-html -- made from text by htmlOf, which lets no HTML through -->
  <div class="rich" v-html="htmlOf(text)" />
</template>

<script setup lang="ts">
import { htmlOf } from '../format/richText'

/** Words with strong and emphasised parts, lists and steps. */
defineProps<{ text: string }>()
</script>

<style scoped>
.rich :deep(p),
.rich :deep(ul),
.rich :deep(ol),
.rich :deep(h1),
.rich :deep(h2),
.rich :deep(h3) {
  margin: 0 0 4px;
}
.rich :deep(h1),
.rich :deep(h2),
.rich :deep(h3) {
  font: 600 1em/1.4 var(--words);
}
.rich :deep(ul),
.rich :deep(ol) {
  padding-left: 1.4em;
}
</style>
