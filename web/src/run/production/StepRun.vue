<template>
  <div class="stack" data-test="step-run">
    <div class="row counts">
      <p v-for="field in counts" :key="field.key" :class="field.look">
        <b class="m">{{ figureOf(step[field.key], unit) }}</b> {{ field.label }}
      </p>
      <p class="soft">
        <b class="m">{{ figureOf(remaining, unit) }}</b> still to be made
      </p>
    </div>
    <template v-if="step.isPaused">
      <h2 class="marginal">{{ step.operationName }} is paused: {{ lastNote('paused') }}</h2>
      <div v-if="mayAct">
        <v-btn size="large" color="primary" :loading="isBusy" data-test="resume" @click="emit('tell', { kind: 'resumed' })">Go on</v-btn>
      </div>
    </template>
    <template v-else-if="gates.length > 0">
      <h2 class="hold">You can't go on with {{ step.operationName }} yet.</h2>
      <GateList :gates="gates" />
    </template>
    <form v-else class="stack" @submit.prevent="send">
      <h2>{{ step.operationName }} is running.</h2>
      <p v-for="check in due" :key="check.id" :class="isLate(check, now) ? 'nonconforming' : 'marginal'" data-test="due">
        {{ isLate(check, now) ? '△ late:' : '△ due:' }} <router-link :to="wayTo(check)">{{ check.planName }}</router-link>, take the check{{
          check.dueAt ? `, until ${momentOf(check.dueAt)}` : ''
        }}
      </p>
      <div class="row top">
        <v-text-field
          v-for="field in typedCounts"
          :key="field.key"
          v-model="typed[field.key]"
          class="number mono"
          :label="field.title"
          inputmode="decimal"
          :disabled="!mayAct"
          :error-messages="field.key === 'good' ? errors['good'] : undefined"
          :data-field="field.key"
        />
        <template v-if="serials.length > 0">
          <v-autocomplete
            v-for="field in lostCounts"
            :key="field.key"
            v-model="named[field.key]"
            class="grow"
            :items="serials.filter((serial) => !isNamedElsewhere(serial, field.key))"
            :label="`${field.title}: which`"
            multiple
            chips
            closable-chips
            :disabled="!mayAct"
            :error-messages="errors[`${field.key}Serials`]"
            :data-field="`${field.key}Serials`"
          />
        </template>
        <p class="sum" :class="isComplete ? 'conforming' : 'soft'" data-test="sum">
          {{ figureOf(together, unit) }} of {{ figureOf(remaining, unit) }}{{ isComplete ? ' ○' : '' }}
        </p>
      </div>
      <div v-if="mayAct" class="row">
        <v-btn size="large" variant="outlined" color="primary" :loading="isBusy" :disabled="together < 1" data-test="report" @click="report"
          >Report them, and go on</v-btn
        >
        <v-btn type="submit" size="large" color="primary" :loading="isBusy" data-test="act">Confirm {{ step.operationName }}</v-btn>
      </div>
    </form>
    <div v-if="mayAct && !step.isPaused" class="row small">
      <v-btn variant="text" data-test="set-up" @click="tellWhy('setUp')">Set-up changed …</v-btn>
      <v-btn v-if="gates.length === 0" variant="text" :disabled="isLastTold" data-test="last-piece" @click="emit('tell', { kind: 'lastPiece' })"
        >Last piece is made</v-btn
      >
      <v-btn variant="text" data-test="pause" @click="tellWhy('paused')">Pause …</v-btn>
    </div>
  </div>
</template>

<script setup lang="ts">
import { isOpen, quantityText } from '@nemawashi/core'
import type { NextStep, OrderStep, StepPieces, StepReportInput } from '@nemawashi/contract'
import { computed, reactive, watch } from 'vue'
import { ask } from '../../shell/ask'
import { figureOf, momentOf, typedQuantity } from '../../format/format'
import { isLate } from '../../format/isLate'
import { wayTo } from '../checks/checkWay'
import GateList from '../checks/GateList.vue'

/** A step that runs: what was made so far, what can be told of it, and whether it can go on. */
const {
  step,
  remaining,
  unit,
  gates,
  serials,
  told = 0,
} = defineProps<{
  step: OrderStep
  remaining: number
  unit: string
  gates: NextStep['gates']
  mayAct: boolean
  isBusy: boolean
  /** Serial numbers that the step can account for; empty where its pieces have none. */
  serials: readonly string[]
  /** What is wrong with the pieces that were told, field by field. */
  errors: Readonly<Record<string, string>>
  /** How many of the pieces that were told here came through: with each the fields begin anew. */
  told?: number
}>()
const emit = defineEmits<{ tell: [report: StepReportInput]; confirm: [pieces: StepPieces] }>()

const counts = [
  { key: 'good', title: 'Good', label: 'good', look: 'conforming' },
  { key: 'scrapped', title: 'Scrapped', label: 'scrapped', look: 'nonconforming' },
  { key: 'setAside', title: 'To rework', label: 'to rework', look: 'hold' },
] as const
/** Pieces that are no longer among the good ones: counted, or named where they have serial numbers. */
const lostCounts = [counts[1], counts[2]] as const
const typedCounts = computed(() => (serials.length > 0 ? [counts[0]] : counts))
const typed = reactive({ good: '', scrapped: '0', setAside: '0' })
const named = reactive<{ scrapped: string[]; setAside: string[] }>({ scrapped: [], setAside: [] })
const isNamedElsewhere = (serial: string, key: 'scrapped' | 'setAside') => named[key === 'scrapped' ? 'setAside' : 'scrapped'].includes(serial)
const countOf = (key: (typeof counts)[number]['key']) => (key !== 'good' && serials.length > 0 ? named[key].length : typedQuantity(typed[key], unit))
const together = computed(() => counts.reduce((sum, { key }) => sum + (countOf(key) || 0), 0))
const isComplete = computed(() => together.value === remaining)
/** Checks that wait for somebody and keep nothing from going on. */
const due = computed(() => step.checks.filter((check) => isOpen(check.state)))
const now = Date.now()
const isLastTold = computed(() => step.reports.some(({ kind }) => kind === 'lastPiece'))
const lastNote = (kind: 'paused') => step.reports.findLast((report) => report.kind === kind)?.note ?? ''
/** Whether somebody has typed over what was offered: it stays, whatever is told of the step elsewhere meanwhile. */
const isBegun = (offered: number) => countOf('good') !== offered || lostCounts.some(({ key }) => countOf(key) !== 0)
// What is left is what mostly is confirmed; a report of fewer is typed over it.
watch(
  () => ({ id: step.id, offered: remaining, told }),
  ({ id, offered }, before) => {
    if (before?.id === id && before.told === told && isBegun(before.offered)) return
    Object.assign(typed, { good: quantityText(offered, unit), scrapped: '0', setAside: '0' })
    Object.assign(named, { scrapped: [], setAside: [] })
  },
  { immediate: true },
)
const pieces = (): StepPieces => ({
  good: countOf('good'),
  scrapped: countOf('scrapped'),
  setAside: countOf('setAside'),
  ...(serials.length > 0 ? { scrappedSerials: named.scrapped, setAsideSerials: named.setAside } : {}),
})
const report = () => emit('tell', { kind: 'pieces', ...pieces() })
const send = () => emit('confirm', pieces())

const questions = {
  setUp: { title: 'What was changed on the set-up?', text: 'What is to be checked after a set-up change opens at once.', yes: 'It was changed' },
  paused: { title: `Pause ${step.operationName}?`, text: 'Its clock is stopped until somebody goes on with it.', yes: 'Pause it' },
} as const
async function tellWhy(kind: 'setUp' | 'paused'): Promise<void> {
  const note = await ask({ ...questions[kind], needsReason: true })
  if (note !== null) emit('tell', { kind, note })
}
</script>

<style scoped>
h2,
p {
  margin: 0;
}
.counts {
  gap: 28px;
}
.counts b {
  font-size: 28px;
  display: block;
  line-height: 1.1;
}
.number {
  max-width: 150px;
}
:deep(.mono input) {
  font-family: var(--mono);
  font-size: 20px;
}
.sum {
  margin: 12px 0 0;
  font-weight: 600;
}
</style>
