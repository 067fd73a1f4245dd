<template>
  <div class="whole">
    <slot name="nav" />
    <div ref="split" class="split" :class="{ 'prints-list': print === 'list', folded: isFolded }" :style="{ gridTemplateColumns: columns }">
      <section class="left" :aria-label="listWords">
        <button
          v-if="folds && isChosen"
          type="button"
          class="fold"
          :aria-expanded="!isFolded"
          :title="isFolded ? `Show the list: ${listWords}` : 'Fold the list away'"
          data-test="fold"
          @click="isShown = !isShown"
        >
          <span aria-hidden="true">{{ isFolded ? '›' : '‹' }}</span> <span class="words">{{ listWords }}</span>
        </button>
        <div v-show="!isFolded" class="list">
          <PageBoundary><slot name="list" /></PageBoundary>
        </div>
      </section>
      <section ref="sheet" class="right" :aria-label="sheetWords">
        <PageBoundary><slot /></PageBoundary>
      </section>
    </div>
  </div>
</template>

<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import PageBoundary from './PageBoundary.vue'

/**
 * The pages of the area across, lists at the left, the chosen thing at the right, so that stepping through a list never loses the place. As long
 * as nothing is chosen the list has the width. Where the chosen thing needs it (`folds`), its list folds away to a strip.
 */
const {
  left = 'minmax(340px, 34%)',
  listWords = 'List',
  sheetWords = 'Sheet',
  print = 'sheet',
  folds = false,
} = defineProps<{ left?: string; listWords?: string; sheetWords?: string; print?: 'sheet' | 'list'; folds?: boolean }>()
const split = ref<HTMLElement>()
const sheet = ref<HTMLElement>()
const route = useRoute()
/** Pages without a choice in their address show both from the start. */
const isChosen = computed(() => route?.params['id'] !== '' || (route.params['lotId'] ?? '') !== '')
const isShown = ref(false)
const isFolded = computed(() => folds && isChosen.value && !isShown.value)
const columns = computed(() => {
  if (isFolded.value) return '40px minmax(0, 1fr)'
  return isChosen.value ? `${left} minmax(0, 1fr)` : 'minmax(0, 1fr) minmax(250px, 24%)'
})
/** Stacked, the chosen thing comes into sight; the list is above it. */
watch(
  () => [route?.params['id'], route?.params['lotId']].join(),
  async (chosen) => {
    isShown.value = false
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
.list {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.fold {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 36px;
  padding: 6px 14px;
  border: 0;
  background: none;
  color: var(--indigo);
  font: inherit;
  cursor: pointer;
}
.folded > .left > .fold {
  flex: 1;
  flex-direction: column;
  padding: 14px 0;
}
.folded > .left > .fold > .words {
  writing-mode: vertical-rl;
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
  .folded > .left {
    height: auto;
  }
  .folded > .left > .fold {
    flex-direction: row;
    padding: 6px 14px;
  }
  .folded > .left > .fold > .words {
    writing-mode: horizontal-tb;
  }
  .right {
    overflow: visible;
    /* As high as the page before anything stands in it: it comes to the top, and no strip of the list stays above it. */
    min-height: 100%;
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
