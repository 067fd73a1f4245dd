<template>
  <figure>
    <VChart ref="chart" class="chart" :option="option" :update-options="{ notMerge: true }" autoresize aria-hidden="true" />
    <figcaption class="row small">
      <span class="soft grow">Lots of {{ whole(lotSize) }}; nonconforming pieces in the lot, and how often such a lot is accepted.</span>
      <button type="button" @click="isTableShown = !isTableShown">Numbers</button>
      <button type="button" @click="savePicture">PNG</button>
      <a :href="csv" download="operating-curve.csv">CSV</a>
    </figcaption>
    <div v-if="isTableShown" class="numbers">
      <table class="plain m">
        <thead>
          <tr>
            <th class="right">nonconforming, %</th>
            <th class="right">accepted, %</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="point in curve" :key="point.percent">
            <td class="right">{{ point.percent.toFixed(2) }}</td>
            <td class="right">{{ (100 * point.accepted).toFixed(2) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </figure>
</template>

<script setup lang="ts">
import { operatingCurve, type Risk, type Sample } from '@nemawashi/core'
import { LineChart } from 'echarts/charts'
import { GridComponent, MarkPointComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { computed, ref } from 'vue'
import VChart from 'vue-echarts'
import { whole } from '../pieces/format'

/** The operating curve of a sample on one lot: how often a lot of each quality is accepted. */
use([LineChart, GridComponent, TooltipComponent, MarkPointComponent, CanvasRenderer])
const { sample, lotSize, risk } = defineProps<{ sample: Sample; lotSize: number; risk: Risk }>()
const chart = ref<InstanceType<typeof VChart>>()
const isTableShown = ref(false)

/** Far enough to see the curve flatten out, on a round end. */
const end = computed(() => {
  const wanted = Math.min(100, Math.max(risk.poorPercent * 1.7, risk.goodPercent * 2, 0.2))
  return [0.2, 0.5, 1, 2, 3, 4, 5, 6, 8, 10, 15, 20, 30, 40, 60, 80, 100].find((step) => step >= wanted) ?? 100
})
const curve = computed(() => operatingCurve(sample, lotSize, end.value))
const csv = computed(
  () =>
    `data:text/csv;charset=utf-8,${encodeURIComponent(['nonconforming_percent,accepted_fraction', ...curve.value.map((point) => `${point.percent},${point.accepted}`)].join('\r\n'))}`,
)

const words = { fontFamily: 'Atkinson Hyperlegible Mono Variable', color: '#5B6675', fontSize: 12 }
const round = (value: number) => Number(value.toPrecision(2))
const option = computed(() => ({
  animation: false,
  grid: { left: 44, right: 28, top: 26, bottom: 40 },
  tooltip: {
    trigger: 'axis',
    valueFormatter: (value: number) => `${value.toFixed(1)} of 100 accepted`,
    axisPointer: { lineStyle: { color: '#8d8a80' } },
  },
  xAxis: {
    type: 'value',
    min: 0,
    max: end.value,
    name: 'nonconforming in the lot, %',
    nameLocation: 'middle',
    nameGap: 26,
    nameTextStyle: words,
    axisLabel: words,
    splitLine: { lineStyle: { color: '#ece7da' } },
  },
  yAxis: {
    type: 'value',
    min: 0,
    max: 100,
    interval: 25,
    name: 'accepted, of 100 lots',
    nameTextStyle: { ...words, align: 'left', padding: [0, 0, 0, -34] },
    axisLabel: words,
    splitLine: { lineStyle: { color: '#ece7da' } },
  },
  series: [
    {
      type: 'line',
      showSymbol: false,
      lineStyle: { color: '#27497A', width: 2.5 },
      itemStyle: { color: '#27497A' },
      data: curve.value.map((point) => [point.percent, 100 * point.accepted]),
      markPoint: {
        symbol: 'circle',
        symbolSize: 10,
        itemStyle: { color: '#FFFDF8', borderColor: '#27497A', borderWidth: 2.5 },
        label: { ...words, color: '#27497A', fontWeight: 600, position: 'right', distance: 8 },
        data: [
          {
            coord: [risk.goodPercent, 100 * risk.goodAccepted],
            label: { formatter: `${round(risk.goodPercent)} % → ${Math.round(100 * risk.goodAccepted)}` },
          },
          {
            coord: [risk.poorPercent, 100 * risk.poorAccepted],
            label: { formatter: `${round(risk.poorPercent)} % → ${Math.round(100 * risk.poorAccepted)}`, position: [12, -14] },
          },
        ],
      },
    },
  ],
}))

function savePicture(): void {
  const url = chart.value?.getDataURL({ pixelRatio: 2, backgroundColor: '#FFFDF8' })
  if (!url) return
  const link = document.createElement('a')
  link.href = url
  link.download = 'operating-curve.png'
  link.click()
}
</script>

<style scoped>
figure {
  margin: 0;
}
.chart {
  height: 250px;
}
button,
figcaption a {
  border: 0;
  background: none;
  color: var(--indigo);
  font-weight: 600;
  cursor: pointer;
  text-decoration: none;
}
.numbers {
  max-height: 220px;
  overflow: auto;
  width: 300px;
}
</style>
