<template>
  <nav class="kinds" :aria-label="label">
    <p v-for="(group, i) in groups" :key="i" :class="{ minor: i > 0 }">
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
/** The pages of one area above its list, in groups; the first is the one that most come for. */
export interface LinkGroup {
  /** What the group is, for those who do not see that it stands apart. */
  readonly words?: string
  readonly links: readonly { readonly to: string; readonly words: string }[]
}
defineProps<{ label: string; groups: readonly LinkGroup[]; current: string }>()
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
