<template>
  <ChartFrame :option="option" :head="head" :rows="rows" :name="`load-${measure}`" :caption="caption" :height="190" />
</template>

<script setup lang="ts">
import type { WeeklyLoad } from '@nemawashi/core'
import { BarChart } from 'echarts/charts'
import { LegendComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { computed } from 'vue'
import ChartFrame from '../../components/ChartFrame.vue'
import { useChartInks } from '../../format/chartInks'
import { dayWords } from '../../format/format'
import type { Measure } from './pastLoad'

/** What control points ask for by week, and what they would ask for after a change beside it: an outline, and full. */
use([BarChart, LegendComponent])
const { before, after, measure, caption } = defineProps<{
  before: readonly WeeklyLoad[]
  after: readonly WeeklyLoad[] | null
  measure: Measure
  caption: string
}>()
const { inks, words } = useChartInks()
const names = computed(() => (after === null ? ['as in force'] : ['as in force', 'after the change']))
const head = computed(() => ['week of', 'occasions', ...names.value])
const numbers = (week: WeeklyLoad | undefined) => String(Math.round(week?.[measure] ?? 0))
const rows = computed(() =>
  before.map((week, i) => [week.from, String(week.occasions), numbers(week), ...(after === null ? [] : [numbers(after[i])])]),
)
const option = computed(() => {
  const outlined = { color: 'transparent', borderColor: inks.value.words, borderWidth: 1.5 }
  const full = { color: inks.value.first }
  return {
    animation: false,
    grid: { left: 52, right: 12, top: after === null ? 14 : 34, bottom: 26 },
    tooltip: { trigger: 'axis', axisPointer: { type: 'shadow' } },
    legend: { show: after !== null, top: 0, left: 44, textStyle: words.value, itemWidth: 14, itemHeight: 10 },
    xAxis: {
      type: 'category',
      data: before.map(({ from }) => dayWords(from)),
      axisLabel: { ...words.value, hideOverlap: true },
      axisTick: { show: false },
      axisLine: { lineStyle: { color: inks.value.grid } },
    },
    yAxis: { type: 'value', min: 0, minInterval: 1, axisLabel: words.value, splitLine: { lineStyle: { color: inks.value.grid } } },
    series: [before, ...(after === null ? [] : [after])].map((weeks, i) => ({
      type: 'bar',
      name: names.value[i],
      barMaxWidth: 16,
      barGap: '15%',
      itemStyle: i === 0 && after !== null ? outlined : full,
      data: weeks.map((week) => Math.round(week[measure])),
    })),
  }
})
</script>
