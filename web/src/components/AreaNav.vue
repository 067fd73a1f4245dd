<template>
  <nav ref="nav" class="kinds" :aria-label="label">
    <p v-for="(group, i) in groups" :key="i" :class="{ further: i > 0 }">
      <span v-if="group.words" class="sr-only">{{ group.words }}</span>
      <router-link
        v-for="{ to, words } in group.links"
        :key="to"
        :to="to"
        :class="{ on: to === current }"
        :aria-current="to === current ? 'page' : undefined"
        >{{ words }}</router-link
      >
    </p>
  </nav>
</template>

<script setup lang="ts">
import { onMounted, useTemplateRef } from 'vue'

/** The pages of one area, in one line across the page, in groups; the first is the one that most come for. */
export interface LinkGroup {
  /** What the group is, for those who do not see that it stands apart. */
  readonly words?: string
  readonly links: readonly { readonly to: string; readonly words: string }[]
}
defineProps<{ label: string; groups: readonly LinkGroup[]; current: string }>()
const nav = useTemplateRef('nav')
// Where the line is longer than the page, its place is in sight.
onMounted(() => nav.value?.querySelector('.on')?.scrollIntoView?.({ block: 'nearest', inline: 'center' }))
</script>

<style scoped>
.kinds {
  /* What stands in it for a voice alone is cut off with the rest, and widens no page. */
  position: relative;
  flex: none;
  display: flex;
  flex-wrap: wrap;
  gap: 0 15px;
  padding: 8px 20px 0;
  border-bottom: 1px solid var(--rule);
  font-size: 14px;
  line-height: 20px;
}
p {
  display: flex;
  flex-wrap: wrap;
  gap: 0 15px;
  margin: 0;
}
.further {
  font-size: 13px;
}
.further::before {
  content: '';
  align-self: center;
  height: 16px;
  border-left: 1px solid var(--rule);
}
a {
  color: var(--soft);
  text-decoration: none;
  padding: 2px 0 6px;
  border-bottom: 2px solid transparent;
  white-space: nowrap;
}
a:hover {
  color: var(--ink);
}
a.on {
  color: var(--indigo);
  font-weight: 600;
  border-bottom-color: var(--indigo);
}
/* One line for a thumb to push. */
@media (max-width: 700px) {
  .kinds,
  p {
    flex-wrap: nowrap;
  }
  .kinds {
    overflow-x: auto;
    padding: 4px 12px 0;
  }
}
@media print {
  .kinds {
    display: none;
  }
}
</style>
