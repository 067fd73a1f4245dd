<template>
  <EmptyState
    v-if="broken"
    title="What belongs here cannot be shown"
    text="Something failed while it was drawn. What was stored is stored, readings that were typed at the bench are kept, and the other pages work."
  >
    <p class="small" role="alert" data-test="page-broken">{{ broken.message }}</p>
    <v-btn data-test="page-again" @click="again">Show it again</v-btn>
    <v-btn variant="text" to="/today">To Today</v-btn>
  </EmptyState>
  <!-- Made anew when it is shown again: half of what failed is no page. -->
  <div v-else :key="shown" ref="whole" class="whole"><slot /></div>
</template>

<script setup lang="ts">
import { nextTick, onErrorCaptured, ref, useTemplateRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import EmptyState from './EmptyState.vue'
import { asFailure, type Failure } from '../shell/api'
import { tellError } from '../shell/errors'

/**
 * Where a page that fails while it is made or drawn ends: with words and a way on, in the place of an empty screen. As long as something of it
 * stands, it stays: a chart that fails takes no reading with it, and is said at the foot of the page like everything that nobody caught.
 */
const broken = ref<Failure | null>(null)
const shown = ref(0)
const whole = useTemplateRef<HTMLElement>('whole')
const route = useRoute()

onErrorCaptured((error) => {
  void nextTick(() => {
    if (whole.value?.textContent?.trim() !== '') return tellError(error)
    console.error(error)
    broken.value = asFailure(error)
  })
  return false
})
watch(
  () => route.path,
  () => (broken.value = null),
)
function again(): void {
  broken.value = null
  shown.value += 1
}
</script>

<style scoped>
.whole {
  display: contents;
}
</style>
