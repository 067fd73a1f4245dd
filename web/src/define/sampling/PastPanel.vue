<template>
  <EmptyState
    v-if="!past"
    title="Recorded lots"
    text="Choose a characteristic above: its recorded lots are replayed under another rule or other limits."
  />
  <EmptyState v-else-if="past.lots.length === 0" title="Recorded lots" text="No lot of this characteristic has been finished yet." />
  <div v-else class="stack">
    <div class="ask">
      <v-select v-model="which" label="Sampling" :items="samplings" data-field="replaySampling" />
      <v-text-field
        v-if="limits"
        v-model="typed"
        label="Other limits"
        :placeholder="placeholder"
        class="mono"
        :error-messages="typedError"
        data-field="replayLimits"
        clearable
        @keydown.enter.prevent="begin"
        @click:clear="begin"
      />
      <v-btn v-if="done === null" color="primary" data-test="replay" @click="begin">Replay {{ count(past.lots.length, 'lot') }}</v-btn>
      <v-btn v-else color="primary" variant="outlined" @click="stop">Stop</v-btn>
    </div>
    <v-progress-linear v-if="done !== null" :model-value="100 * done" color="primary" aria-label="Replaying" />
    <p v-if="problem" class="nonconforming" role="alert">{{ problem }}</p>
    <p v-if="past.isCut" class="small soft">The last {{ past.lots.length }} recorded lots; there are older ones.</p>
    <template v-if="replayed">
      <p class="sentence" data-test="replayed">{{ sentence }}</p>
      <svg
        class="line"
        :viewBox="`0 0 ${width} 92`"
        :height="92"
        width="100%"
        preserveAspectRatio="none"
        role="img"
        :aria-label="`${replayed.lots.length} lots in order of arrival: accepted before, and how likely under the change`"
      >
        <g v-for="(lot, i) in replayed.lots" :key="lot.id" :transform="`translate(${i * step} 0)`">
          <rect :width="Math.max(1, step - 1)" y="6" height="18" :class="lot.wasAccepted ? 'was ok' : 'was no'" />
          <rect
            :width="Math.max(1, step - 1)"
            :y="32 + 54 * (1 - lot.accepted)"
            :height="Math.max(1, 54 * lot.accepted)"
            :class="lot.isInspected ? 'now' : 'skipped'"
          />
          <path v-if="isChanged(lot)" :d="`M${step / 2} 90l-4 0l4 -6l4 6z`" class="mark" />
          <title>{{ lot.code }}: {{ wasWords(lot) }}, now {{ chanceWords(lot) }}. {{ lot.because }}</title>
        </g>
      </svg>
      <p class="small soft">
        Above: how each lot was judged (full teal passed, red did not). Below: how likely it passes now; grey was not looked at. A triangle marks a
        changed verdict.
      </p>
      <div v-if="changed.length > 0" class="table">
        <table class="plain" aria-label="Lots whose verdict changes">
          <thead>
            <tr>
              <th>Lot</th>
              <th>Day</th>
              <th class="right">Pieces</th>
              <th class="right">Found, before → now</th>
              <th>Then</th>
              <th>Now</th>
              <th>Why</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="lot in changed.slice(0, 200)" :key="lot.id">
              <td>
                <router-link :to="`/trace/${lot.id}`">{{ lot.code }}</router-link>
              </td>
              <td>{{ dayOf(lot.day) }}</td>
              <td class="right m">{{ whole(lot.quantity) }}</td>
              <td class="right m">{{ lot.foundBefore }} → {{ lot.foundAfter }} of {{ lot.recorded }}</td>
              <td><MarkSign :mark="lot.wasAccepted ? 'conforming' : 'nonconforming'" /> {{ wasWords(lot) }}</td>
              <td><MarkSign :mark="lot.accepted >= 0.5 ? 'conforming' : 'nonconforming'" /> {{ chanceWords(lot) }}</td>
              <td class="small soft">{{ lot.because }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="changed.length === 0" class="soft">No verdict changes.</p>
      <p v-else class="small soft">
        <a :href="csv" download="replay.csv">All {{ replayed.lots.length }} lots as CSV</a>
      </p>
    </template>
  </div>
</template>

<script setup lang="ts">
import type { CharacteristicDetails, Past } from '@nemawashi/contract'
import {
  CoreError,
  describeSamplingRule,
  parseTolerance,
  type Limits,
  type ReplayedLot,
  type OtherLimits,
  type SamplingChoice,
  type SamplingRule,
} from '@nemawashi/core'
import { computed, ref, watch } from 'vue'
import EmptyState from '../../components/EmptyState.vue'
import { useMeasureUnits } from '../../composables/useMeasureUnits'
import { count, dayOf, limitsWords, whole } from '../../format/format'
import MarkSign from '../../components/MarkSign.vue'
import { strokes } from './chartScale'
import { useReplay } from './useSamplingWorker'

/** Recorded lots replayed under a changed rule: which verdicts change, what it saves, and how many poor lots would have passed. */
const { past, choices, limits, judging, unit, poorPercent } = defineProps<{
  past: Past | null
  choices: readonly SamplingChoice[]
  limits: Limits | null
  /** What its readings are judged by besides: the band and the rounding of the characteristic. */
  judging: Pick<CharacteristicDetails, 'band' | 'rounding'> | null
  unit: string
  poorPercent: number
}>()
const { known } = useMeasureUnits()
const { replayed, done, problem, run, stop } = useReplay()
const which = ref<number>(0)
const typed = ref<string | null>('')
const typedError = ref('')
const placeholder = computed(() => (limits ? limitsWords({ ...limits, unit }) : ''))
const samplings = computed(() => [
  ...choices.flatMap(({ sampling }, i) =>
    sampling.kind === 'continuous' ? [] : [{ title: `Rule ${strokes[i]?.letter}: ${describeSamplingRule(sampling)}`, value: i }],
  ),
  { title: 'as it was recorded', value: -1 },
])
/** The same characteristic with other limits: its band and its rounding stay. */
function withJudging(changed: Limits): OtherLimits {
  const { band = null, rounding = null } = judging ?? {}
  return { ...changed, band, rounding, marginalConforms: band?.countsAsConforming ?? true }
}
function begin(): void {
  typedError.value = ''
  let changed: Limits | undefined
  try {
    changed = typed.value?.trim() ? parseTolerance(typed.value, known.value) : undefined
  } catch (error) {
    return void (typedError.value = error instanceof CoreError ? error.message : String(error))
  }
  const choice = choices[which.value]
  run(
    past?.lots ?? [],
    { limits: changed && withJudging(changed), ...(choice ? { sampling: choice.sampling as SamplingRule, frequency: choice.frequency } : {}) },
    limits,
    poorPercent,
  )
}

// A replay takes a moment; it follows every change of the rules, and the button repeats it with other limits.
watch(
  () => [past, which.value, JSON.stringify(choices)],
  () => {
    replayed.value = null
    if (past && past.lots.length > 0) begin()
  },
  { immediate: true },
)

const width = 900
const step = computed(() => width / Math.max(1, replayed.value?.lots.length ?? 1))
const isChanged = (lot: ReplayedLot) => (lot.wasAccepted ? lot.accepted < 0.5 : lot.accepted >= 0.5)
const changed = computed(() => (replayed.value?.lots ?? []).filter((lot) => (lot.wasAccepted ? lot.accepted < 1 : lot.accepted > 0)))
const wasWords = (lot: ReplayedLot) => (lot.wasAccepted ? 'acceptable' : 'not acceptable')
function chanceWords(lot: ReplayedLot): string {
  if (!lot.isInspected) return 'not looked at'
  if (lot.accepted === 1) return 'acceptable'
  return lot.accepted === 0 ? 'not acceptable' : `passes ${Math.round(100 * lot.accepted)} in 100`
}
const sentence = computed(() => {
  const summary = replayed.value?.summary
  if (!summary) return ''
  const { lots, certainChanges, expectedChanges, changesDeviation, piecesBefore, piecesAfter, poorLots, poorPassed } = summary
  const spread = changesDeviation > 0.05 ? ` (give or take ${changesDeviation.toFixed(1)})` : ''
  const verdicts =
    certainChanges === expectedChanges
      ? `${certainChanges} of ${count(lots, 'verdict')} change`
      : `${certainChanges} of ${count(lots, 'verdict')} change for certain, ${expectedChanges.toFixed(1)} on average${spread}`
  const by = Math.round(piecesAfter - piecesBefore)
  const work = by === 0 ? 'as many pieces' : `${whole(Math.abs(by))} pieces ${by < 0 ? 'fewer' : 'more'}`
  const poor =
    poorLots === 0
      ? `no lot was poorer than ${poorPercent} %`
      : `of ${count(poorLots, 'lot')} poorer than ${poorPercent} %, ${poorPassed.toFixed(1)} would have passed`
  const rest = [
    summary.notInspected > 0 ? `${count(summary.notInspected, 'lot')} not looked at` : '',
    summary.estimated > 0 ? `${count(summary.estimated, 'lot')} with fewer recorded readings than the rule wants, the rest estimated` : '',
  ].filter((words) => words !== '')
  return `${verdicts}; ${work} than before; ${poor}.${rest.length > 0 ? ` ${rest.join('; ')}.` : ''}`
})
const csv = computed(() => {
  const head = 'lot,day,quantity,recorded,found_before,found_now,accepted_before,accepted_now,pieces_before,pieces_now'
  const rows = (replayed.value?.lots ?? []).map((lot) =>
    [
      lot.code,
      lot.day,
      lot.quantity,
      lot.recorded,
      lot.foundBefore,
      lot.foundAfter,
      lot.wasAccepted,
      lot.accepted,
      lot.piecesBefore,
      lot.piecesAfter,
    ].join(','),
  )
  return `data:text/csv;charset=utf-8,${encodeURIComponent([head, ...rows].join('\r\n'))}`
})
</script>

<style scoped>
.ask {
  display: grid;
  grid-template-columns: 1.6fr 1fr auto;
  gap: 12px;
  align-items: start;
}
.sentence {
  font: 600 15px/22px var(--words);
  margin: 0;
}
.was.ok,
.now {
  fill: var(--conforming);
}
.now {
  opacity: 0.7;
}
.was.no {
  fill: var(--nonconforming);
}
.skipped {
  fill: var(--rule);
}
.mark {
  fill: var(--ink);
}
.table {
  max-height: 320px;
  overflow: auto;
}
.table td:nth-child(-n + 4),
.table th {
  white-space: nowrap;
}
:deep(.mono input) {
  font-family: var(--mono);
}
</style>
