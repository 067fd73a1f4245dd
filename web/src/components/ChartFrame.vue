<template>
  <figure>
    <VChart
      ref="chart"
      class="chart"
      :style="{ height: `${height}px` }"
      :option="option"
      :update-options="{ notMerge: true }"
      autoresize
      aria-hidden="true"
    />
    <figcaption class="row small">
      <span class="soft grow">{{ caption }}</span>
      <button type="button" :aria-pressed="isTableShown" @click="isTableShown = !isTableShown">Numbers</button>
      <button type="button" @click="savePicture">PNG</button>
      <a :href="csv" :download="`${name}.csv`">CSV</a>
    </figcaption>
    <div v-if="isTableShown" class="numbers" tabindex="0" aria-label="The numbers behind the chart">
      <table class="plain m">
        <thead>
          <tr>
            <th v-for="title in head" :key="title" class="right">{{ title }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row[0]">
            <td v-for="(value, i) in row" :key="i" class="right">{{ value }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </figure>
</template>

<script setup lang="ts">
import { GridComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { computed, ref } from 'vue'
import VChart from 'vue-echarts'
import { useChartInks } from '../format/chartInks'

/** A chart with what everybody wants of one: the numbers behind it as a table, and both to take along. Whoever uses it brings its series. */
use([GridComponent, TooltipComponent, CanvasRenderer])
const {
  option,
  head,
  rows,
  csvHead,
  name,
  caption,
  height = 250,
} = defineProps<{
  option: Record<string, unknown>
  /** The numbers: titles, and rows whose first cell tells them apart. */
  head: readonly string[]
  rows: readonly (readonly string[])[]
  /** Titles in the file, where they say more. */
  csvHead?: readonly string[]
  /** What the files are called. */
  name: string
  caption: string
  height?: number
}>()
const chart = ref<InstanceType<typeof VChart>>()
const isTableShown = ref(false)
const { inks } = useChartInks()
const csv = computed(() => {
  const first = (csvHead ?? head).map((cell) => `"${cell.replaceAll('"', '""')}"`).join(',')
  return `data:text/csv;charset=utf-8,${encodeURIComponent([first, ...rows.map((row) => row.join(','))].join('\r\n'))}`
})
function savePicture(): void {
  const url = chart.value?.getDataURL({ pixelRatio: 2, backgroundColor: inks.value.sheet })
  if (!url) return
  const link = document.createElement('a')
  link.href = url
  link.download = `${name}.png`
  link.click()
}
</script>

<style scoped>
figure {
  margin: 0;
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
  max-width: 640px;
}
</style>
