<template>
  <svg class="tolerance" :width="width" :height="height" :viewBox="`0 0 ${width} ${height}`" role="img" :aria-label="words">
    <defs>
      <linearGradient :id="`${id}-low`">
        <stop offset="0" stop-color="var(--conforming-wash)" stop-opacity="0" />
        <stop offset="1" stop-color="var(--conforming-wash)" />
      </linearGradient>
      <linearGradient :id="`${id}-high`">
        <stop offset="0" stop-color="var(--conforming-wash)" />
        <stop offset="1" stop-color="var(--conforming-wash)" stop-opacity="0" />
      </linearGradient>
      <pattern :id="`${id}-band`" width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0 0h4v4H0z" fill="var(--sheet)" />
        <path d="M0 0v4" class="hatch" />
      </pattern>
    </defs>
    <line x1="0" :x2="width" :y1="middle" :y2="middle" class="ruler" />
    <rect :x="from" :width="Math.max(0, to - from)" :y="height * 0.2" :height="height * 0.6" :fill="fill" />
    <rect
      v-for="(band, i) in strip.bands"
      :key="i"
      :x="band.from * width"
      :width="Math.max(1, (band.to - band.from) * width)"
      :y="height * 0.2"
      :height="height * 0.6"
      :fill="`url(#${id}-band)`"
    />
    <line v-if="strip.lower !== null" :x1="from" :x2="from" :y1="height * 0.12" :y2="height * 0.88" class="edge" />
    <line v-if="strip.upper !== null" :x1="to" :x2="to" :y1="height * 0.12" :y2="height * 0.88" class="edge" />
    <line
      v-if="strip.nominal !== null"
      :x1="strip.nominal * width"
      :x2="strip.nominal * width"
      :y1="height * 0.04"
      :y2="height * 0.96"
      class="nominal"
    />
    <template v-for="(reading, i) in readings" :key="i">
      <circle v-if="reading.mark === 'conforming'" :cx="x(reading)" :cy="middle" :r="r" class="dot conforming" />
      <path v-else-if="reading.mark === 'nonconforming'" :d="cross(x(reading))" class="dot nonconforming" />
      <path v-else-if="reading.mark === 'marginal'" :d="triangle(x(reading))" class="dot marginal" />
    </template>
    <path v-for="(reading, i) in far" :key="`far ${i}`" :d="reading.arrow" class="far" />
    <text v-if="height >= 20 && far[0]" :x="far[0].side < 0 ? 0 : width" y="-2" :text-anchor="far[0].side < 0 ? 'start' : 'end'" class="how-far">
      {{ far[0].words }}
    </text>
    <template v-if="hasNumbers">
      <text v-if="strip.lower !== null" :x="from" :y="height + 16" text-anchor="middle">{{ limits.lower }}</text>
      <text v-if="strip.nominal !== null && !isCrowded" :x="strip.nominal * width" :y="height + 16" text-anchor="middle">{{ limits.nominal }}</text>
      <text v-if="strip.upper !== null" :x="to" :y="height + 16" text-anchor="middle">{{ limits.upper }}</text>
    </template>
  </svg>
</template>

<script setup lang="ts">
import { stripScale, type Acceptance, type Mark } from '@nemawashi/core'
import { computed, useId } from 'vue'

/** A thin ruler from below the lower limit to above the upper one: zone filled, marginal bands hatched, nominal as a tick, readings by the shape of their mark. */
const {
  limits,
  readings = [],
  width = 96,
  height = 14,
  hasNumbers = false,
} = defineProps<{ limits: Acceptance; readings?: readonly { value: string; mark: Mark }[]; width?: number; height?: number; hasNumbers?: boolean }>()

const id = useId()
const strip = computed(() => stripScale(limits))
const middle = computed(() => height / 2)
const r = computed(() => Math.min(6, height * 0.3))
const from = computed(() => (strip.value.lower ?? 0) * width)
const to = computed(() => (strip.value.upper ?? 1) * width)
const isCrowded = computed(() => {
  const { lower, nominal, upper } = strip.value
  return [lower, upper].some((edge) => edge !== null && nominal !== null && Math.abs(edge - nominal) * width < 44)
})
const fill = computed(() =>
  strip.value.lower === null ? `url(#${id}-low)` : strip.value.upper === null ? `url(#${id}-high)` : 'var(--conforming-wash)',
)
const x = (reading: { value: string }) => Math.min(width - r.value, Math.max(r.value, strip.value.place(Number(reading.value)) * width))
/** Readings that lie beyond the ruler: their mark stands at its end, an arrow points on, and words say how far from the limit it is. */
const far = computed(() =>
  readings.flatMap(({ value }) => {
    const side = strip.value.beyond(Number(value))
    if (side === 0) return []
    const limit = side < 0 ? limits.lower : limits.upper
    if (limit === null) return []
    const away = `${Number(Math.abs(Number(value) - Number(limit)).toPrecision(6))} ${side < 0 ? 'under' : 'over'}`
    const tip = side < 0 ? -r.value : width + r.value
    return [
      {
        side,
        words: away,
        arrow: `M${tip - side * r.value} ${middle.value - r.value}L${tip} ${middle.value}L${tip - side * r.value} ${middle.value + r.value}`,
      },
    ]
  }),
)
const cross = (at: number) =>
  `M${at - r.value} ${middle.value - r.value}l${2 * r.value} ${2 * r.value}M${at + r.value} ${middle.value - r.value}l${-2 * r.value} ${2 * r.value}`
const triangle = (at: number) => `M${at} ${middle.value - r.value}L${at + r.value} ${middle.value + r.value * 0.8}H${at - r.value}z`
const words = computed(() => {
  const range = [limits.lower === null ? '' : `from ${limits.lower}`, limits.upper === null ? '' : `to ${limits.upper}`].filter(Boolean).join(' ')
  return `tolerance ${range}${readings.length === 1 ? `, reading ${readings[0]?.value}${far.value[0] ? `, ${far.value[0].words}` : ''}` : ''}`
})
</script>

<style scoped>
.how-far {
  fill: var(--nonconforming);
}
.tolerance {
  overflow: visible;
  display: block;
}
.ruler {
  stroke: var(--rule);
}
.edge,
.nominal {
  stroke: var(--conforming);
  stroke-width: 1.2;
}
.hatch {
  stroke: var(--marginal);
  stroke-width: 2;
}
.dot {
  fill: var(--sheet);
  stroke: currentColor;
  stroke-width: 2;
}
.far {
  fill: none;
  stroke: var(--nonconforming);
  stroke-width: 2;
}
text {
  font: 13px var(--mono);
  fill: var(--soft);
}
</style>
