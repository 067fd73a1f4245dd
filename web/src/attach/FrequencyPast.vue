<template>
  <figure v-if="past" class="past" data-test="frequency-past">
    <figcaption>
      <template v-if="arrivals > 0"
        >Of {{ whole(arrivals) }} arrivals in the last {{ past.days }} days <b class="m">{{ whole(before) }}</b> were looked at; under this rule it
        would have been <b class="m">{{ whole(after) }}</b>{{ difference }}.</template
      >
      <template v-else>Nothing has come in the last {{ past.days }} days to try this on.</template>
      <span v-if="past.isCut" class="marginal"> Only the latest 20,000 arrivals were tried.</span>
    </figcaption>
    <svg v-if="arrivals > 0" viewBox="0 0 600 92" role="img" :aria-label="`By week: ${words}`">
      <line x1="0" x2="600" y1="70" y2="70" />
      <g v-for="(week, i) in past.weeks" :key="week.from" :transform="`translate(${(600 * i) / past.weeks.length} 0)`">
        <rect class="before" x="2" :width="width" :y="70 - height(week.before)" :height="height(week.before)" />
        <rect class="after" :x="4 + width" :width="width" :y="70 - height(week.after)" :height="height(week.after)" />
      </g>
      <text x="2" y="86">week of {{ dayWords(past.weeks[0]?.from ?? '') }}</text>
      <text x="598" y="86" text-anchor="end">{{ dayWords(past.weeks.at(-1)?.from ?? '') }}</text>
    </svg>
    <details v-if="arrivals > 0">
      <summary>The numbers: <span class="key before" /> looked at, <span class="key after" /> under this rule</summary>
      <table class="plain">
        <thead>
          <tr>
            <th>Week of</th>
            <th class="right">Arrivals</th>
            <th class="right">Looked at</th>
            <th class="right">Under this rule</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="week in past.weeks" :key="week.from">
            <td>{{ dayWords(week.from) }}</td>
            <td class="right m">{{ week.arrivals }}</td>
            <td class="right m">{{ week.before }}</td>
            <td class="right m">{{ week.after }}</td>
          </tr>
        </tbody>
      </table>
    </details>
  </figure>
</template>

<script setup lang="ts">
import type { FrequencyRule } from '@nemawashi/core'
import { endpoints, type FrequencyPast } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import { call } from '../frame/api'
import { useSession } from '../frame/session'
import { dayWords, whole } from '../pieces/format'

/** What a frequency rule would have done with what came in the last 90 days, week by week, before it goes live. */
const { asked } = defineProps<{
  asked: {
    readonly operationId: string
    readonly planId: string | null
    readonly partId: string | null
    readonly familyId: string | null
    readonly supplierId: string | null
    readonly customerId: string | null
    readonly frequency: FrequencyRule
  }
}>()
const { attach } = endpoints
const mayTry = useSession().may(attach.tryFrequency)
const past = ref<FrequencyPast | null>(null)

let latest = 0
watch(
  () => JSON.stringify(asked),
  async () => {
    const mine = ++latest
    const { operationId, planId, partId, familyId, supplierId, customerId, frequency } = asked
    if (planId === null || !mayTry) return void (past.value = null)
    // While a number is typed it is asked once, when it rests.
    await new Promise((resolve) => setTimeout(resolve, 250))
    if (mine !== latest) return
    const body = { operationId, planId, partId, familyId, supplierId, customerId, frequency, days: 90 }
    const answer = await call(attach.tryFrequency, { body }).catch(() => null)
    if (mine === latest) past.value = answer
  },
  { immediate: true },
)

const sum = (of: 'arrivals' | 'before' | 'after') => (past.value?.weeks ?? []).reduce((total, week) => total + week[of], 0)
const arrivals = computed(() => sum('arrivals'))
const before = computed(() => sum('before'))
const after = computed(() => sum('after'))
const difference = computed(() => {
  const more = after.value - before.value
  return more === 0 ? ', the same' : more > 0 ? `, ${whole(more)} more` : `, ${whole(-more)} fewer`
})
const most = computed(() => Math.max(1, ...(past.value?.weeks ?? []).map((week) => Math.max(week.before, week.after))))
const width = computed(() => Math.max(1, 600 / Math.max(1, past.value?.weeks.length ?? 1) / 2 - 6))
const height = (count: number) => (62 * count) / most.value
const words = computed(() => (past.value?.weeks ?? []).map((week) => `${week.from} ${week.before} and ${week.after}`).join(', '))
</script>

<style scoped>
.past {
  margin: 0;
  border-left: 4px solid var(--rule);
  padding: 4px 12px;
}
svg {
  display: block;
  width: 100%;
  max-width: 600px;
  margin-top: 6px;
}
line {
  stroke: var(--rule);
}
text {
  font-size: 11px;
  fill: var(--soft);
}
.before {
  fill: none;
  stroke: var(--soft);
}
.after {
  fill: var(--indigo);
}
.key {
  display: inline-block;
  width: 10px;
  height: 10px;
}
.key.before {
  border: 1px solid var(--soft);
}
.key.after {
  background: var(--indigo);
}
summary {
  cursor: pointer;
  color: var(--soft);
}
</style>
