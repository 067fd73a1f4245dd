<template>
  <section class="uses" aria-label="Where it is asked for">
    <h2>Where it is asked for</h2>
    <p v-if="uses.lines.length === 0" class="soft small">In no plan yet.</p>
    <ul v-else>
      <li v-for="line in uses.lines" :key="`${line.planId} ${line.planRevision}`">
        <router-link :to="`/define/plans/${line.planId}`">{{ line.planCode }} {{ line.planName }}</router-link>
        <span class="soft small"> revision {{ line.planRevision }}, {{ line.planState }} · </span>
        <span :class="line.detached ? 'marginal' : 'soft'" class="small">{{
          line.detached ? `detached: ${own(line.detached)}` : 'follows the library'
        }}</span><span v-if="line.targets > 0" class="small">, {{ count(line.targets, 'part') }} with own limits</span>
      </li>
    </ul>
    <p v-if="uses.points.length > 0" class="small">
      Control points: {{ uses.points.map((point) => `${point.code} at ${point.operationName}`).join(', ') }}
    </p>
    <p v-if="uses.parts.length > 0" class="small">
      Parts:
      <template v-for="(part, i) in uses.parts" :key="part.id"
        ><router-link :to="`/attach/${part.id}`">{{ part.code }}</router-link
        >{{ i < uses.parts.length - 1 ? ', ' : '' }}</template
      >
    </p>
  </section>
</template>

<script setup lang="ts">
import type { CharacteristicUses, DetachedLimits } from '@nemawashi/contract'
import { count, limitsWords } from '../../format/format'

/** Plans, control points and parts that a characteristic reaches; a detached line shows the limits it keeps. */
const { unit } = defineProps<{ uses: CharacteristicUses; unit: string | null }>()
const own = (detached: DetachedLimits) => limitsWords({ ...detached, unit })
</script>

<style scoped>
ul {
  margin: 4px 0;
  padding-left: 18px;
}
p {
  margin: 4px 0;
}
</style>
