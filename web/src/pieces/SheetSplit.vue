<template>
  <div class="whole">
    <slot name="nav" />
    <div ref="split" class="split" :class="{ 'prints-list': print === 'list' }" :style="{ gridTemplateColumns: `${left} minmax(0, 1fr)` }">
      <section class="left" :aria-label="listWords"><slot name="list" /></section>
      <section ref="sheet" class="right" :aria-label="sheetWords"><slot /></section>
    </div>
  </div>
</template>

<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'
import { useRoute } from 'vue-router'

/** The pages of the area across, lists at the left, the chosen thing at the right, so that stepping through a list never loses the place. */
const {
  left = 'minmax(340px, 34%)',
  listWords = 'List',
  sheetWords = 'Sheet',
  print = 'sheet',
} = defineProps<{ left?: string; listWords?: string; sheetWords?: string; print?: 'sheet' | 'list' }>()
const split = ref<HTMLElement>()
const sheet = ref<HTMLElement>()
const route = useRoute()
/** Stacked, the chosen thing comes into sight; the list is above it. */
watch(
  () => [route?.params['id'], route?.params['lotId']].join(),
  async (chosen) => {
    await nextTick()
    if (chosen.length > 1 && split.value && getComputedStyle(split.value).display === 'block') sheet.value?.scrollIntoView()
  },
  { immediate: true, flush: 'post' },
)
</script>

<style scoped>
.whole {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.split {
  display: grid;
  grid-template-rows: minmax(0, 1fr);
  flex: 1;
  min-height: 0;
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
/* Too narrow for both: one after the other. */
@media (max-width: 900px) {
  .split {
    display: block;
    overflow: auto;
  }
  .left {
    border-right: 0;
    border-bottom: 1px solid var(--rule);
    height: 56vh;
  }
  .right {
    overflow: visible;
    min-height: 60vh;
    scroll-margin-top: 0;
  }
}
@media print {
  .whole,
  .split {
    display: block;
    height: auto;
  }
  .left,
  .right {
    overflow: visible;
  }
  .split:not(.prints-list) > .left,
  .prints-list > .right {
    display: none;
  }
}
</style>
