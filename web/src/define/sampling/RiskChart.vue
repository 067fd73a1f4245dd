<template>
  <ChartFrame :option="option" :head="head" :rows="table" :csv-head="csvHead" :name="view" :caption="caption" :height="height" />
</template>

<script lang="ts">
import type { Assessment } from '@nemawashi/core'
import type { RiskView } from './riskView'

export interface RiskLine {
  readonly letter: string
  readonly color: string
  readonly dash: string | readonly number[]
  readonly assessment: Assessment
}
</script>

<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { MarkPointComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { computed } from 'vue'
import ChartFrame from '../../components/ChartFrame.vue'
import { useChartInks } from '../../format/chartInks'

/** Curves over the quality of a lot: how often it is accepted, what goes out, how many pieces it costs. */
use([LineChart, MarkPointComponent])
const {
  lines,
  view = 'accepted',
  end,
  marks = [],
  caption,
  height = 250,
} = defineProps<{
  lines: readonly RiskLine[]
  view?: RiskView
  /** Where the axis ends, per cent. */
  end: number
  /** Points of the first curve that are named on it. */
  marks?: readonly { percent: number; accepted: number }[]
  caption: string
  height?: number
}>()

const axes: Readonly<Record<RiskView, { name: string; unit: string }>> = {
  accepted: { name: 'accepted, of 100 lots', unit: 'of 100 accepted' },
  outgoing: { name: 'average outgoing quality (AOQ), %', unit: '% goes out' },
  pieces: { name: 'average sample number (ASN)', unit: 'pieces' },
  total: { name: 'average total inspection (ATI)', unit: 'pieces' },
}
const axis = computed(() => axes[view])
function pointsOf({ assessment: { curve, costs } }: RiskLine): (readonly [number, number])[] {
  if (view === 'accepted') return curve.map((point) => [point.percent, 100 * point.accepted] as const)
  return costs.map(
    (cost) => [cost.percent, view === 'outgoing' ? cost.outgoingPercent : view === 'total' ? cost.totalInspection : cost.expectedSize] as const,
  )
}
/** Curves end where the axis does, so that the letter at an end is on the picture. */
const drawn = computed(() =>
  lines.map((line) => {
    const points = pointsOf(line)
    const last = points.at(-1)?.[0] ?? 0
    return { ...line, points: last > end ? [...points.filter(([percent]) => percent < end), [end, valueAt(points, end)] as const] : points }
  }),
)
const table = computed(() => {
  const first = drawn.value[0]?.points ?? []
  const every = Math.max(1, Math.ceil(first.length / 60))
  return first
    .filter((_, i) => i % every === 0)
    .map(([percent]) => [percent.toFixed(2), ...drawn.value.map(({ points }) => valueAt(points, percent).toFixed(2))])
})
/** Value of a curve between its points. */
function valueAt(points: readonly (readonly [number, number])[], percent: number): number {
  const at = points.findIndex(([x]) => x >= percent)
  const [right, before] = [points[at], points[at - 1]]
  if (!right) return points.at(-1)?.[1] ?? 0
  if (!before || right[0] === percent) return right[1]
  return before[1] + ((right[1] - before[1]) * (percent - before[0])) / (right[0] - before[0])
}
const head = computed(() => ['quality, %', ...lines.map((line) => (lines.length > 1 ? line.letter : axis.value.name))])
const csvHead = computed(() => ['quality_percent', ...lines.map((line) => `${line.letter} ${line.assessment.words}`)])

/** The letter of a curve, where curves lie apart: half-way down, or at the end where they do not come down. */
function letterOn(letter: string, color: string, points: readonly (readonly [number, number])[]) {
  if (view !== 'accepted') return { endLabel: { ...words.value, show: true, formatter: letter, color, fontWeight: 700 } }
  const at = points.find(([, accepted]) => accepted <= 50) ?? points.at(-1) ?? [0, 0]
  const label = { ...words.value, color, fontWeight: 700, fontSize: 13, formatter: letter, position: 'right', distance: 6 }
  return { markPoint: { symbol: 'circle', symbolSize: 7, itemStyle: { color }, label, data: [{ coord: at }] } }
}
const { inks, words } = useChartInks()
const round = (value: number) => Number(value.toPrecision(2))
const option = computed(() => ({
  animation: false,
  grid: { left: 52, right: 34, top: 26, bottom: 40 },
  tooltip: {
    trigger: 'axis',
    valueFormatter: (value: number) => `${Number(value.toPrecision(3))} ${axis.value.unit}`,
    axisPointer: { lineStyle: { color: inks.value.pointer } },
  },
  xAxis: {
    type: 'value',
    min: 0,
    max: end,
    name: lines.every((line) => line.assessment.model === 'perUnit') ? 'nonconformities per 100 units' : 'nonconforming, %',
    nameLocation: 'middle',
    nameGap: 26,
    nameTextStyle: words.value,
    axisLabel: words.value,
    splitLine: { lineStyle: { color: inks.value.grid } },
  },
  yAxis: {
    type: 'value',
    min: 0,
    ...(view === 'accepted' ? { max: 100, interval: 25 } : {}),
    name: axis.value.name,
    nameTextStyle: { ...words.value, align: 'left', padding: [0, 0, 0, -40] },
    axisLabel: words.value,
    splitLine: { lineStyle: { color: inks.value.grid } },
  },
  series: drawn.value.map(({ letter, color, dash, points }, i) => ({
    type: 'line',
    name: letter,
    showSymbol: false,
    lineStyle: { color, width: 2.5, type: dash },
    itemStyle: { color },
    data: points,
    ...(lines.length > 1 ? letterOn(letter, color, points) : {}),
    ...(i === 0 && view === 'accepted' && marks.length > 0
      ? {
          markPoint: {
            symbol: 'circle',
            symbolSize: 10,
            itemStyle: { color: inks.value.sheet, borderColor: color, borderWidth: 2.5 },
            label: { ...words.value, color, fontWeight: 600, position: 'right', distance: 8 },
            data: marks.map((mark, at) => ({
              coord: [mark.percent, 100 * mark.accepted],
              label: { formatter: `${round(mark.percent)} % → ${Math.round(100 * mark.accepted)}`, ...(at > 0 ? { position: [12, -14] } : {}) },
            })),
          },
        }
      : {}),
  })),
}))
</script>
