<template>
  <section v-if="isCharted" class="trend" aria-label="Control chart">
    <p class="row small">
      <button type="button" class="fold" :aria-expanded="isShown" data-test="chart" @click="isShown = !isShown">
        Control chart <span class="soft">{{ isShown ? 'close' : whatThereIs }}</span>
      </button>
    </p>
    <p v-for="words in warnings" :key="words" class="small warning" role="status" data-test="chart-warning">{{ words }}</p>
    <template v-if="isShown">
      <ErrorNote :failure="failure" />
      <ControlChart v-if="chart.basis" :chart="chart" :name="line.code" :unit="line.unit ?? ''" :places="places" :caption="caption" />
      <p v-else class="small soft">
        Limits need {{ fewestSamples }} earlier samples (20 to 25 are common practice); there {{ basis.length === 1 ? 'is' : 'are' }}
        {{ basis.length }}.
      </p>
      <div class="row small choices">
        <label>
          Limits from
          <select v-model="from" data-test="chart-basis">
            <option value="before">all samples before this one</option>
            <option value="first">the first {{ firstCount }} shown</option>
            <option value="days">days</option>
          </select>
        </label>
        <template v-if="from === 'days'">
          <input v-model="days.first" type="date" aria-label="First day" />
          <input v-model="days.last" type="date" aria-label="Last day" />
        </template>
        <label>
          Signals
          <select v-model="set" data-test="chart-signals">
            <option v-for="(entry, key) in signalSets" :key="key" :value="key">{{ entry.words }}</option>
          </select>
        </label>
      </div>
      <p v-if="latest.length > 0" class="small soft" data-test="chart-signals-found">
        Lit: {{ latest.map(({ code: sample, rule }) => `${sample}, ${signalRules[rule]}`).join('; ')
        }}{{ chart.signals.length > latest.length ? `; ${chart.signals.length - latest.length} earlier ones, in the numbers` : '' }}.
      </p>
      <p class="small soft" data-test="run-length">{{ rings }}</p>
    </template>
  </section>
</template>

<script setup lang="ts">
import { record, type InspectionLine } from '@nemawashi/contract'
import { runLength, signalRules, signalSets, type SignalSet } from '@nemawashi/core'
import { computed, defineAsyncComponent, reactive, ref, watch } from 'vue'
import ErrorNote from '../../components/ErrorNote.vue'
import { count, whole } from '../../format/format'
import { plantDay } from '../../shell/plantTime'
import { useThing } from '../../shell/queries'
import { basisSamples, fewestSamples, lineChart, samplesOf, type BasisChoice } from './lineChart'

/** The chart beside the entry: what came before and what is typed now, and what its signals and its drift say before a piece is bad. */
const { inspectionId, code, line, numbers } = defineProps<{
  inspectionId: string
  code: string
  line: InspectionLine
  /** The line's own values, as they stand on the bench. */
  numbers: readonly number[]
}>()
const ControlChart = defineAsyncComponent(() => import('./ControlChart.vue'))

const isShown = ref(localStorage.getItem('bench chart') === 'open')
watch(isShown, (value) => localStorage.setItem('bench chart', value ? 'open' : 'closed'))
const storedSet = localStorage.getItem('bench signals')
const set = ref<SignalSet>(storedSet !== null && Object.hasOwn(signalSets, storedSet) ? (storedSet as SignalSet) : 'westernElectric')
watch(set, (value) => localStorage.setItem('bench signals', value))
const from = ref<BasisChoice['from']>('before')
const firstCount = 25
const days = reactive({ first: '', last: plantDay(new Date()) })

const isCharted = computed(() => line.kind === 'measured' && line.details.recording === 'pieces')
const { data, failure } = useThing(record.getLineSeries, () => (isCharted.value ? { params: { id: line.id } } : null))

const samples = computed(() => samplesOf(data.value?.values ?? [], { inspectionId, code, takenAt: new Date().toISOString(), numbers }))
const choice = computed<BasisChoice>(() =>
  from.value === 'first' ? { from: 'first', count: firstCount } : from.value === 'days' ? { from: 'days', ...days } : { from: 'before' },
)
const basis = computed(() => basisSamples(samples.value, choice.value, inspectionId, (takenAt) => plantDay(takenAt)))
const limitOf = (text: string | null) => (text === null ? null : Number(text))
const chart = computed(() => lineChart(samples.value, basis.value, set.value, { lower: limitOf(line.lower), upper: limitOf(line.upper) }))

const places = computed(() => (line.resolution?.split('.')[1]?.length ?? 2) + 1)
const valueWords = (value: number) => `${value.toFixed(places.value)}${line.unit ? ` ${line.unit}` : ''}`
const whatThereIs = computed(() => {
  const earlier = samples.value.filter((sample) => sample.inspectionId !== inspectionId).length
  return earlier === 0 ? 'nothing earlier' : count(earlier, 'earlier sample')
})
/** What the inspection's own sample completes, and where the last ones drift to. */
const warnings = computed(() => {
  const own = samples.value.findIndex((sample) => sample.inspectionId === inspectionId)
  const signals = chart.value.signals.filter(({ at }) => at === own).map(({ rule }) => `Signal: ${signalRules[rule]}.`)
  const { drift } = chart.value
  if (drift === null || own < 0) return signals
  const between = drift.between ? ` (${Math.max(0, Math.floor(drift.between[0]))} to ${Math.ceil(drift.between[1])}, 95 %)` : ''
  return [
    ...signals,
    `Drift: ${drift.slope > 0 ? 'rising' : 'falling'} ${valueWords(Math.abs(drift.slope))} a sample. At this rate the mean reaches the ${drift.limit} limit in about ${Math.max(1, Math.round(drift.samples))} more samples${between}.`,
  ]
})
/** The last signals of the chart, the newest first. */
const latest = computed(() =>
  chart.value.signals
    .slice(-3)
    .toReversed()
    .map(({ rule, at }) => ({ rule, code: chart.value.samples[at]?.code ?? '' })),
)
const kindWords = {
  individuals: 'Individuals and moving range (I-MR)',
  meanRange: 'Mean and range (X̄-R)',
  meanDeviation: 'Mean and standard deviation (X̄-s)',
} as const
const caption = computed(() => {
  const known = chart.value.basis
  if (known === null) return ''
  const cut =
    data.value && data.value.total > data.value.values.length
      ? ` The last ${whole(data.value.values.length)} of ${whole(data.value.total)} values.`
      : ''
  return `${kindWords[known.kind]}, limits at 3σ from ${count(known.subgroups, 'sample')}, ${count(known.values, 'value')}: centre ${valueWords(known.center)}.${cut}`
})
const rings = computed(() => {
  const { mean, error } = runLength(signalSets[set.value].rules)
  const exactly = error === null ? '' : `, ± ${(2 * error).toFixed(0)} (played)`
  return `With nothing wrong these signals ring once in ${mean.toFixed(0)} samples on average (average run length, ARL${exactly}).`
})
</script>

<style scoped>
.trend {
  border-top: 1px solid var(--rule);
  padding-top: 8px;
}
.trend p {
  margin: 0 0 4px;
}
.fold {
  border: 0;
  background: none;
  color: var(--indigo);
  font-weight: 600;
  cursor: pointer;
  padding: 0;
}
.fold .soft {
  font-weight: 400;
}
.warning {
  border-left: 4px solid var(--marginal);
  padding-left: 10px;
}
.choices {
  gap: 16px;
  flex-wrap: wrap;
  margin: 6px 0;
}
select,
.choices input {
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--sheet);
  color: inherit;
  padding: 2px 4px;
}
</style>
