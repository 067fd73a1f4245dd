<template>
  <div class="split" :style="{ gridTemplateColumns: `${left} minmax(0, 1fr)` }">
    <section class="left" :aria-label="listWords"><slot name="list" /></section>
    <section class="right" :aria-label="sheetWords"><slot /></section>
  </div>
</template>

<script setup lang="ts">
/** Lists at the left, the chosen thing at the right, so that stepping through a list never loses the place. */
const {
  left = 'minmax(340px, 34%)',
  listWords = 'List',
  sheetWords = 'Sheet',
} = defineProps<{ left?: string; listWords?: string; sheetWords?: string }>()
</script>

<style scoped>
.split {
  display: grid;
  height: 100%;
}
.left {
  border-right: 1px solid var(--rule);
  min-height: 0;
  overflow: hidden;
  display: flex;
  flex-direction: column;
}
.right {
  background: var(--sheet);
  overflow: auto;
  min-height: 0;
}
</style>
