<template>
  <div v-if="plans.length > 0" class="shelf">
    <span class="soft small">Drag a plan on to a stop, or press <kbd>A</kbd>:</span>
    <span
      v-for="plan in plans"
      :key="plan.id"
      class="plan"
      draggable="true"
      :title="plan.name"
      @dragstart="$event.dataTransfer?.setData('text/plan', plan.id)"
      >{{ plan.code }}</span
    >
    <span v-if="total > plans.length" class="soft small">and {{ total - plans.length }} more with A</span>
  </div>
</template>

<script setup lang="ts">
import { type PlanRow, define } from '@nemawashi/contract'
import { onMounted, ref } from 'vue'
import { call } from '../../shell/api'

/** Released plans, to be dragged on to a stop. The keyboard's way is A. */
const plans = ref<PlanRow[]>([])
const total = ref(0)
onMounted(async () => {
  const page = await call(define.listPlans, { query: { state: 'released', limit: 14 } }).catch(() => ({ rows: [], total: 0 }))
  plans.value = page.rows as PlanRow[]
  total.value = page.total
})
</script>

<style scoped>
.shelf {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
  border-top: 1px solid var(--rule);
  padding: 10px 0;
}
.plan {
  border: 1px solid var(--rule);
  border-left: 4px solid var(--indigo);
  border-radius: 4px;
  background: var(--paper);
  padding: 2px 8px;
  cursor: grab;
  font-size: 13px;
}
</style>
