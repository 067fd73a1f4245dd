<template>
  <table v-if="checks.length > 0" class="plain" data-test="checks">
    <tbody>
      <tr v-for="check in checks" :key="check.id">
        <td class="mark"><MarkSign :mark="markOf(check)" /></td>
        <td>
          <router-link :to="wayTo(check)">{{ check.planName }}</router-link> <span class="soft m small">{{ check.code }}</span>
          <span class="soft small"> {{ whenWords(check) }}</span>
        </td>
        <td class="small">
          <b v-if="check.isGate" class="hold">gate</b> {{ saidOf(check)
          }}<span v-if="check.decided.length > 0" data-test="decided">: {{ decidedWords(check) }}</span
          >{{ check.responsible ? ` · ${check.responsible}` : '' }}
          <span v-if="check.dueAt && check.finishedAt === null && !isSettled(check.state)" :class="isLate(check, now) ? 'nonconforming' : 'soft'">
            · due {{ momentOf(check.dueAt) }}{{ isLate(check, now) ? ', late' : '' }}</span
          ><span v-if="minutesLateOf(check) > 0" class="nonconforming" data-test="was-late"> · {{ lateWords(minutesLateOf(check)) }}</span>
          <div v-if="check.advice && check.verdict === 'notAcceptable'" class="hold" data-test="advice">{{ check.advice }}</div>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<script setup lang="ts">
import { dispositionWords, intervalOf, isSettled, lateWords, momentWords, type Mark } from '@nemawashi/core'
import { minutesLateOf, type OpenedCheck } from '@nemawashi/contract'
import { amount, count, momentOf, stateWords, verdictMark, figureOf } from '../../format/format'
import MarkSign from '../../components/MarkSign.vue'
import { isLate } from '../../format/isLate'
import { wayTo } from './checkWay'

/** Checks that something opened: what they say, how far they are, and whether anything waits for them. */
const { now = Date.now(), unitOf } = defineProps<{ checks: readonly OpenedCheck[]; unitOf: (check: OpenedCheck) => string; now?: number }>()

/** When it came up: after so many pieces or minutes where the step ran. */
function whenWords(check: OpenedCheck): string {
  const { moment, after } = check
  if (after === null || intervalOf(moment) === null) return momentWords[moment]
  return intervalOf(moment) === 'pieces' ? `after ${amount(after.pieces, unitOf(check))}` : `after ${count(after.minutes, 'minute')}`
}
/** There is no decision on a dispatch as one: what is not acceptable keeps it back. */
const saidOf = ({ state, lotCode }: OpenedCheck) => (lotCode === null && state === 'finished' ? 'not acceptable, keeps it back' : stateWords[state])
const decidedWords = (check: OpenedCheck) =>
  check.decided.map(({ disposition, quantity }) => `${figureOf(quantity, unitOf(check))} ${dispositionWords[disposition]}`).join(', ')
const markOf = ({ verdict }: OpenedCheck): Mark => verdictMark(verdict)
</script>

<style scoped>
.mark {
  width: 28px;
}
</style>
