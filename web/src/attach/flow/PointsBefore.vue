<template>
  <details v-if="points.length > 0" class="before" data-test="points-before">
    <summary>What hung here before ({{ points.length }})</summary>
    <section v-for="point in points" :key="point.id">
      <p>
        {{ point.planName }} <span class="soft m small">{{ point.code }}</span> at {{ point.operationName }}
        <span class="soft small">{{ point.state === 'retired' ? 'retired' : `ended with ${dayWords(point.validUntil ?? '')}` }}</span>
      </p>
      <PointPast :point-id="point.id" />
    </section>
  </details>
</template>

<script setup lang="ts">
import type { Flow } from '@nemawashi/contract'
import { dayWords } from '../../format/format'
import PointPast from '../points/PointPast.vue'

/** Control points of the part that are in force no more: retired, or ended with their day. They stay readable. */
defineProps<{ points: Flow['before'] }>()
</script>

<style scoped>
.before {
  border-top: 1px solid var(--rule);
  margin-top: 18px;
  padding-top: 14px;
}
summary {
  padding: 4px 0;
  cursor: pointer;
  color: var(--soft);
}
p {
  margin: 12px 0 2px;
}
</style>
