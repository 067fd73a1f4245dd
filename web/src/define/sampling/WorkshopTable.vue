<template>
  <table class="plain compare" aria-label="The rules side by side">
    <thead>
      <tr>
        <th><span class="sr-only">what</span></th>
        <th v-for="line in lines" :key="line.letter" class="right">
          <b :style="{ color: line.color }">{{ line.letter }}</b>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.words">
        <th scope="row">{{ row.words }}</th>
        <td v-for="(value, i) in row.values" :key="i" class="right m">{{ value }}</td>
      </tr>
    </tbody>
  </table>
</template>

<script setup lang="ts">
import type { Assessment } from '@nemawashi/core'
import { computed } from 'vue'
import type { RiskLine } from './RiskChart.vue'

/** The numbers that decide between rules, a column a rule. */
const { lines, goodPercent, poorPercent } = defineProps<{ lines: readonly RiskLine[]; goodPercent: number; poorPercent: number }>()

const number = (value: number | null, digits = 3) => (value === null ? '–' : Number(value.toPrecision(digits)).toString())
const percent = (value: number | null) => (value === null ? '–' : `${number(value)} %`)
const of100 = (share: number) => `${number(100 * share)} of 100`
const kinds: readonly { words: () => string; read: (assessment: Assessment) => string }[] = [
  { words: () => `Producer's risk α: lots of ${goodPercent} % not accepted`, read: (a) => of100(a.producersRisk) },
  { words: () => `Consumer's risk β: lots of ${poorPercent} % accepted`, read: (a) => of100(a.consumersRisk) },
  { words: () => 'Accepted 95 times in 100 (AQL of the plan)', read: (a) => percent(a.at95) },
  { words: () => 'Accepted every other time (indifference quality)', read: (a) => percent(a.at50) },
  { words: () => 'Accepted once in ten (limiting quality)', read: (a) => percent(a.at10) },
  { words: () => 'Average outgoing quality limit (AOQL), the worst that goes out', read: (a) => percent(a.outgoingLimit.percent) },
  { words: () => 'Share of the arrivals looked at', read: (a) => (a.shareInspected === null ? 'by the calendar' : percent(100 * a.shareInspected)) },
  { words: () => 'Pieces a lot with curtailment (stop as soon as it is decided)', read: (a) => number(a.piecesPerLot) },
  { words: () => 'Average sample number (ASN), stages finished', read: (a) => number(nearest(a, goodPercent)?.expectedSize ?? null) },
  { words: () => 'Average total inspection (ATI), refused lots sorted', read: (a) => number(nearest(a, goodPercent)?.totalInspection ?? null) },
  { words: () => 'Pieces a month', read: (a) => number(a.piecesPerMonth) },
  { words: () => 'Minutes a month', read: (a) => number(a.minutesPerMonth) },
]
function nearest({ costs }: Assessment, at: number) {
  return costs.reduce<(typeof costs)[number] | null>(
    (best, cost) => (best === null || Math.abs(cost.percent - at) < Math.abs(best.percent - at) ? cost : best),
    null,
  )
}
const rows = computed(() => kinds.map(({ words, read }) => ({ words: words(), values: lines.map((line) => read(line.assessment)) })))
</script>

<style scoped>
.compare {
  max-width: 760px;
}
th[scope='row'] {
  text-align: left;
  font-weight: 400;
}
</style>
