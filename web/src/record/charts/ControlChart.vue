<template>
  <ChartFrame :option="option" :head="head" :rows="table" :name="`control-chart-${name}`" :caption="caption" :height="246" />
</template>

<script setup lang="ts">
import { signalRules } from '@nemawashi/core'
import { LineChart as Line, ScatterChart } from 'echarts/charts'
import { use } from 'echarts/core'
import { computed } from 'vue'
import ChartFrame from '../../components/ChartFrame.vue'
import { useChartInks } from '../../format/chartInks'
import { dayOf } from '../../format/format'
import type { LineChart } from './lineChart'

/** Points against their limits, the spread below, and the points of each signal lit. */
use([Line, ScatterChart])
const { chart, unit, places } = defineProps<{ chart: LineChart; name: string; unit: string; places: number; caption: string }>()
const { inks, words } = useChartInks()

const lit = computed(() => new Set(chart.signals.flatMap(({ points }) => points)))
const rulesAt = (i: number) => chart.signals.filter(({ at }) => at === i).map(({ rule }) => signalRules[rule])
const spreadName = computed(() => ({ individuals: 'moving range', meanRange: 'range', meanDeviation: 's' })[chart.kind])
const head = computed(() => [
  'sample',
  'day',
  chart.kind === 'individuals' ? 'value' : 'mean',
  'lower limit',
  'upper limit',
  spreadName.value,
  'signals',
])
const valueWords = (value: number | undefined) => value?.toFixed(places) ?? '–'
const table = computed(() =>
  chart.points.map((point, i) => {
    const sample = chart.samples[i]
    return [
      sample?.code ?? '',
      dayOf(sample?.takenAt ?? ''),
      ...[point.value, point.lower, point.upper, point.spread?.value].map(valueWords),
      rulesAt(i).join('; ') || '–',
    ]
  }),
)

const axis = computed(() => ({
  axisLabel: words.value,
  nameTextStyle: { ...words.value, align: 'right', padding: [0, 8, 0, 0] },
  nameGap: 13,
  splitLine: { show: false },
  scale: true,
  splitNumber: 2,
}))
const labels = computed(() => chart.samples.map(({ code }) => code))
const option = computed(() => {
  const { points } = chart
  const limit = (name: string, values: (number | null)[], at: number) => ({
    type: 'line',
    name,
    ...placed(at),
    step: 'middle',
    showSymbol: false,
    lineStyle: { color: inks.value.words, width: 1, type: name === 'centre' ? 'solid' : 'dashed' },
    itemStyle: { color: inks.value.words },
    data: values,
  })
  const placed = (at: number) => ({ xAxisIndex: at, yAxisIndex: at })
  const drawn = (values: (number | null)[], at: number, isLit: (i: number) => boolean) => ({
    type: 'line',
    name: at === 0 ? (head.value[2] as string) : spreadName.value,
    ...placed(at),
    symbol: (_: unknown, { dataIndex }: { dataIndex: number }) => (isLit(dataIndex) ? 'diamond' : 'circle'),
    symbolSize: (_: unknown, { dataIndex }: { dataIndex: number }) => (isLit(dataIndex) ? 11 : 5),
    lineStyle: { color: inks.value.first, width: 1.5 },
    itemStyle: { color: inks.value.first },
    data: values.map((value, i) => (isLit(i) ? { value, itemStyle: { color: inks.value.alarm } } : value)),
  })
  return {
    animation: false,
    grid: [
      { left: 62, right: 16, top: 30, height: 108 },
      { left: 62, right: 16, top: 172, height: 40 },
    ],
    tooltip: { trigger: 'axis', valueFormatter: (value: number | null) => (value === null ? '–' : `${value.toFixed(places)} ${unit}`) },
    axisPointer: { link: [{ xAxisIndex: 'all' }] },
    xAxis: [0, 1].map((gridIndex) => ({
      type: 'category',
      gridIndex,
      data: labels.value,
      axisLabel: { ...words.value, show: gridIndex === 1, hideOverlap: true },
      axisTick: { show: false },
    })),
    yAxis: [0, 1].map((gridIndex) => ({
      type: 'value',
      gridIndex,
      ...axis.value,
      ...(gridIndex === 1 ? { min: 0, splitNumber: 1, name: spreadName.value } : { name: head.value[2] }),
    })),
    series: [
      limit(
        'upper limit (UCL)',
        points.map(({ upper }) => upper),
        0,
      ),
      limit(
        'centre',
        points.map(() => chart.basis?.center ?? null),
        0,
      ),
      limit(
        'lower limit (LCL)',
        points.map(({ lower }) => lower),
        0,
      ),
      drawn(
        points.map(({ value }) => value),
        0,
        (i) => lit.value.has(i),
      ),
      limit(
        'upper limit of the spread',
        points.map(({ spread }) => spread?.upper ?? null),
        1,
      ),
      drawn(
        points.map(({ spread }) => spread?.value ?? null),
        1,
        (i) => {
          const spread = points[i]?.spread
          return spread != null && (spread.value > spread.upper || spread.value < spread.lower)
        },
      ),
    ],
  }
})
</script>
