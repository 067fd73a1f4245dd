<template>
  <LoadView
    v-if="played || problem || done !== null"
    class="past"
    data-test="change-on-past"
    :played="played ?? []"
    :done="done"
    :problem="problem"
    :is-cut="past?.isCut ?? false"
  >
    <template v-if="occasions === 0">Nothing has happened in the last {{ days }} days to try this on.</template>
    <template v-else>
      Of {{ count(occasions, 'occasion') }} in the last {{ days }} days: <b>{{ loadWords(after, days) }}</b>{{
        difference ? `. That is ${difference} than what is in force asks` : ', the same as in force'
      }}.
    </template>
  </LoadView>
</template>

<script setup lang="ts">
import { totalLoad, type RuledPoint } from '@nemawashi/core'
import type { FlowPoint, Part } from '@nemawashi/contract'
import { computed, onScopeDispose, watch } from 'vue'
import { count } from '../../format/format'
import type { PointDraft } from './pointDraft'
import LoadView from '../rehearsal/LoadView.vue'
import { beforeAndAfter, differenceWords, loadWords, scopeOf } from '../rehearsal/pastLoad'
import { usePastLoad } from '../rehearsal/usePastLoad'

/** What a control point would have changed in the last 90 days, before it goes live: played under what is in force, and with it. */
const { draft, point, part } = defineProps<{ draft: PointDraft; point: FlowPoint | null; part: Part }>()
const days = 90
const { past, played, done, problem, play } = usePastLoad()
const weeksOf = (i: number) => played.value?.[i]?.weeks ?? []
const after = computed(() => weeksOf(1))
const occasions = computed(() => totalLoad(weeksOf(0)).occasions)
const difference = computed(() => differenceWords(weeksOf(0), after.value))

let waiting: ReturnType<typeof setTimeout> | undefined
watch(
  () => JSON.stringify(draft),
  () => {
    clearTimeout(waiting)
    // While a number is typed it is asked once, when it rests.
    waiting = setTimeout(() => void begin(), 250)
  },
  { immediate: true },
)
onScopeDispose(() => clearTimeout(waiting))
async function begin(): Promise<void> {
  const { planId } = draft
  if (planId === null) return
  const changed: RuledPoint = { ...draft, planId, id: point?.id ?? 'new' }
  const scope = scopeOf([draft, ...(point ? [point] : [])], part.familyId)
  // A preview that cannot be had keeps nobody from saving.
  await play({ ...scope, days, planId }, (points) => beforeAndAfter(points, changed)).catch(() => undefined)
}
</script>

<style scoped>
.past {
  border-left: 4px solid var(--rule);
  padding: 4px 12px;
}
</style>
