<template>
  <section class="stack year" aria-labelledby="year-title" data-test="year">
    <h3 id="year-title">Over the last year <span class="soft small">what happened, under the control points in force</span></h3>
    <div class="row top">
      <v-select v-model="scope" class="field" :items="scopes" label="Occasions of" data-field="yearScope" />
      <v-btn v-if="done === null" color="primary" variant="outlined" :loading="isFetching" data-test="play-year" @click="begin">Play the year</v-btn>
      <v-btn v-else variant="outlined" data-test="stop-year" @click="stop">Stop</v-btn>
    </div>
    <ErrorNote :failure="failure" />
    <LoadView v-if="shown" :played="shown" :done="done" :problem="problem" :is-cut="past?.isCut ?? false">
      <template v-if="total && total.occasions > 0">
        {{ count(total.occasions, 'occasion') }} in {{ days }} days: <b>{{ loadWords(shown[0]?.weeks ?? [], days) }}</b>. In fact
        {{ count(total.inFact, 'inspection') }} {{ total.inFact === 1 ? 'was' : 'were' }} opened, under the rules of their day.
      </template>
      <template v-else-if="total">Nothing happened in the last {{ days }} days that control points could look at.</template>
    </LoadView>
    <table v-if="byPoint.length > 0" class="plain" aria-label="By control point">
      <thead>
        <tr>
          <th>Control point</th>
          <th>at</th>
          <th class="right">inspections</th>
          <th class="right">pieces</th>
          <th class="right">time</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in byPoint" :key="row.id">
          <td>
            {{ row.planName }} <span class="soft m small">{{ row.code }}</span>
          </td>
          <td>{{ row.operationName }}</td>
          <td class="right m">{{ whole(row.load.inspections) }}</td>
          <td class="right m">{{ whole(row.load.pieces) }}</td>
          <td class="right m">{{ row.load.minutes > 0 ? timeWords(row.load.minutes) : '–' }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<script setup lang="ts">
import { totalLoad } from '@nemawashi/core'
import type { Part } from '@nemawashi/contract'
import { computed, ref, watch } from 'vue'
import ErrorNote from '../../components/ErrorNote.vue'
import { count, whole } from '../../format/format'
import { useSaver } from '../../composables/useSaver'
import LoadView from './LoadView.vue'
import { loadWords, timeWords } from './pastLoad'
import { usePastLoad } from './usePastLoad'

/** A year of what happened, played under the control points in force: how much work they are, week by week and point by point. */
const { part } = defineProps<{ part: Part }>()
const days = 365
const { past, played, done, problem, isFetching, play, stop, forget } = usePastLoad()
const { failure, save } = useSaver()
const scope = ref('part')
const scopes = computed(() => [
  { value: 'part', title: `this part, ${part.code}` },
  ...(part.familyId === null ? [] : [{ value: 'family', title: 'its whole family' }]),
  { value: 'all', title: 'every part' },
])
const isAsked = ref(false)
const shown = computed(() => (isAsked.value ? (played.value ?? []) : null))
const total = computed(() => (shown.value?.[0] ? totalLoad(shown.value[0].weeks) : null))
const byPoint = computed(() =>
  (shown.value?.[0]?.byPoint ?? []).flatMap(([id, load]) => {
    const point = past.value?.points.find((entry) => entry.id === id)
    return point ? [{ ...point, load }] : []
  }),
)
// What was played for others says nothing of these.
watch([() => part.id, scope], () => (isAsked.value = false))

async function begin(): Promise<void> {
  const about = scope.value === 'part' ? { partId: part.id } : scope.value === 'family' && part.familyId !== null ? { familyId: part.familyId } : {}
  played.value = null
  isAsked.value = true
  forget()
  await save(() => play({ ...about, days }, (points) => [points]))
}
</script>

<style scoped>
.year {
  border-top: 1px solid var(--rule);
  padding-top: 14px;
}
.field {
  flex: 0 1 320px;
}
table {
  max-width: 720px;
}
</style>
