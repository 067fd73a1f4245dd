<template>
  <form class="form stack" @submit.prevent="submit">
    <DefinitionHead
      :title="isNew ? 'New inspection plan' : `${code} ${edited.name}`"
      :can-change="isEngineer && entity !== null"
      :has-draft="hasDraft"
      :has-released="hasReleased"
      :is-changed="isChanged"
      :is-busy="saver.isBusy.value"
      @release="step(define.releasePlan, 'released')"
      @revise="step(define.revisePlan, 'has a draft')"
      @retire="step(define.retirePlan, 'retired')"
    >
      <v-btn
        v-if="entity && shown"
        variant="text"
        size="small"
        data-test="print"
        :href="`/api/plans/${id}/sheet.pdf?revision=${shown.revision}`"
        target="_blank"
        >Print</v-btn
      >
    </DefinitionHead>
    <RevisionBar v-if="entity" :revisions="entity.revisions" :shown-id="shown?.id ?? null" @choose="chosen = $event" />
    <ErrorNote :failure="saver.failure.value && !saver.isStale.value ? saver.failure.value : null" />
    <div v-if="!isFixed" class="row top">
      <v-text-field
        v-if="isNew"
        v-model="code"
        v-first-focus
        label="Code"
        style="max-width: 160px"
        :error-messages="errors['code']"
        data-field="code"
      />
      <v-text-field v-model="edited.name" label="Name" class="grow" :error-messages="errors['name']" data-field="name" />
    </div>

    <div class="lines" role="list" aria-label="Lines of the plan, in order">
      <div
        v-for="(line, i) in lines"
        :key="line.characteristicId"
        role="listitem"
        class="line"
        :class="{ on: i === at, over: i === dragOver }"
        :draggable="!isFixed"
        @dragstart="dragged = i"
        @dragover.prevent="dragOver = i"
        @dragend="((dragOver = null), (dragged = null))"
        @drop.prevent="drop(i)"
      >
        <button type="button" class="pick" :aria-pressed="i === at" :data-line="i" @click="at = i" @keydown="moveByKey($event, i)">
          <span class="m soft">{{ i + 1 }}</span>
          <span class="grow"
            ><b>{{ line.name }}</b>
            <span class="soft small"
              >{{ line.code }} · {{ line.class }}{{ line.stage ? ` · ${line.stage}` : '' }}{{ line.isDecisive ? ' · decisive' : ''
              }}{{ line.isRequired ? '' : ' · not required' }}</span
            ></span
          >
          <span v-if="line.detached" class="marginal small" title="keeps its own limits">detached</span>
          <ToleranceStrip v-if="line.kind === 'measured'" :limits="line.detached ?? line" />
          <span class="rule small">{{ describeSamplingRule(line.sampling) }}</span>
        </button>
        <template v-if="!isFixed">
          <button type="button" class="tool" :disabled="i === 0" :aria-label="`Move ${line.name} up`" @click="move(i, i - 1)">↑</button>
          <button type="button" class="tool" :disabled="i === lines.length - 1" :aria-label="`Move ${line.name} down`" @click="move(i, i + 1)">
            ↓
          </button>
          <button type="button" class="tool" :aria-label="`Take ${line.name} out`" @click="takeOut(i)">✕</button>
        </template>
      </div>
      <p v-if="lines.length === 0" class="soft">No line yet. Each line is one question: choose a characteristic below.</p>
    </div>
    <PickOne
      v-if="!isFixed"
      v-model="added"
      :endpoint="define.listCharacteristics"
      label="Add a line: type a characteristic"
      field="addLine"
      :filter="isFree"
      @chosen="addLine"
    />

    <p v-if="arriving" class="small marginal" role="status" data-test="arriving">{{ arriving }}</p>
    <PlanLineFields v-if="current" :key="current.characteristicId" v-model="lines[at]!" :is-fixed="isFixed" :error="lineError" />
    <p v-if="lines.length > 0" class="small soft" data-test="effort">{{ effort }}</p>

    <div v-if="isEngineer && !isFixed" class="row">
      <v-btn type="submit" color="primary" :loading="saver.isBusy.value" :disabled="!isChanged">{{
        isNew ? 'Save as draft' : 'Save the draft'
      }}</v-btn>
      <v-btn v-if="isChanged && !isNew" variant="text" @click="reset">Undo changes</v-btn>
    </div>
    <RevisionCompare
      v-if="entity && shown && entity.revisions.length > 1"
      :key="shown.id"
      :left="shown"
      :revisions="entity.revisions"
      :words-of="planWords"
    />
    <p v-if="entity" class="soft small">
      {{ entity.usedBy.length > 0 ? `Hangs on ${entity.usedBy.join(', ')}.` : 'Hangs on no control point yet: attach it to a receiving operation.' }}
      <router-link to="/attach">Attach</router-link>
    </p>
    <StaleChange
      v-if="saver.isStale.value && saver.failure.value && theirs"
      :failure="saver.failure.value"
      :rows="compared"
      @keep="keepMine"
      @take="takeTheirs"
    />
  </form>
</template>

<script setup lang="ts">
import { vFirstFocus } from '../frame/firstFocus'
import { describeSamplingRule, sampleFor, type SamplingRule } from '@nemawashi/core'
import { endpoints, type Plan, type PlanLine, type PlanLineInput } from '@nemawashi/contract'
import { computed, nextTick, ref, watch } from 'vue'
import { call } from '../frame/api'
import { useRoute, useRouter } from 'vue-router'
import { useCrumbs } from '../frame/crumbs'
import ErrorNote from '../pieces/ErrorNote.vue'
import { count, limitsWords } from '../pieces/format'
import PickOne from '../pieces/PickOne.vue'
import StaleChange from '../pieces/StaleChange.vue'
import ToleranceStrip from '../pieces/ToleranceStrip.vue'
import DefinitionHead from './DefinitionHead.vue'
import RevisionBar from './RevisionBar.vue'
import RevisionCompare from './RevisionCompare.vue'
import PlanLineFields from './PlanLineFields.vue'
import { useDefinition } from './useDefinition'

/** An inspection plan: its lines in order (dragged, or moved with Alt and the arrows), each with its sampling rule and what that lets through. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ saved: [id: string] }>()
const { define } = endpoints

interface Edited {
  name: string
  lines: PlanLine[]
}
const at = ref(0)
const added = ref<string | null>(null)
const inputOf = ({ characteristicId, sampling, isRequired, isDecisive, detached, stage, instruction }: PlanLine): PlanLineInput => ({
  characteristicId,
  sampling,
  isRequired,
  isDecisive,
  detached: detached && { ...detached, nominal: detached.nominal || null, lower: detached.lower || null, upper: detached.upper || null },
  stage,
  instruction,
})
const bodyOf = (): { name: string; lines: PlanLineInput[] } => ({ name: edited.value.name, lines: edited.value.lines.map(inputOf) })
const {
  isEngineer,
  saver,
  isNew,
  entity,
  theirs,
  code,
  chosen,
  shown,
  hasDraft,
  hasReleased,
  isFixed,
  edited,
  isChanged,
  reset,
  submit,
  step,
  keepMine,
  takeTheirs,
} = useDefinition<Plan, Edited>({
  id,
  load: () => call(define.getPlan, { params: { id } }),
  create: (newCode) => call(define.createPlan, { body: { code: newCode, ...bodyOf() } }),
  update: (version) => call(define.updatePlan, { params: { id }, body: { ...bodyOf(), version } }),
  editedOf: (plan, revision) => ({ name: plan?.name ?? '', lines: revision?.lines ?? [] }),
  saved: (savedId) => emit('saved', savedId),
})
const errors = saver.fieldErrors
const lines = computed(() => edited.value.lines)
const current = computed(() => lines.value[at.value] ?? null)
const lineError = computed(() => (saver.failure.value?.facts['line'] === at.value ? saver.failure.value : null))
useCrumbs(() => [{ words: 'Define', to: '/define' }, { words: 'Plans', to: '/define/plans' }, { words: isNew ? 'New' : code.value }])
watch(lines, () => (at.value = Math.min(at.value, Math.max(0, lines.value.length - 1))))

const isFree = (row: { id: string; state: string }) => row.state !== 'retired' && !lines.value.some((line) => line.characteristicId === row.id)
async function addLine(row: { id: string; [key: string]: unknown } | null): Promise<void> {
  if (!row) return
  const { revisions } = await call(define.getCharacteristic, { params: { id: row.id } })
  const revision = revisions.find((entry) => entry.state === 'released') ?? revisions[0]
  if (!revision) return
  const { name, kind, class: cls, unit, nominal, lower, upper, details } = revision
  lines.value.push({
    characteristicId: row.id,
    code: String(row['code']),
    name,
    kind,
    class: cls,
    unit,
    nominal,
    lower,
    upper,
    followsRevision: revision.state === 'released' ? revision.revision : null,
    minutesPerPiece: details.minutesPerPiece,
    isAdaptable: details.isAdaptable,
    sampling: kind === 'noted' ? { kind: 'fixedNumber', sampleSize: 1, accept: 0 } : { kind: 'attributesScheme', level: 'II', aqlPercent: 1 },
    isRequired: true,
    isDecisive: false,
    detached: null,
    stage: '',
    instruction: '',
  })
  at.value = lines.value.length - 1
  await nextTick()
  added.value = null
}
function takeOut(i: number): void {
  lines.value.splice(i, 1)
  at.value = Math.max(0, Math.min(at.value, lines.value.length - 1))
}
function move(from: number, to: number): void {
  const [line] = lines.value.splice(from, 1)
  if (line) lines.value.splice(to, 0, line)
  at.value = to
}
async function moveByKey(event: KeyboardEvent, i: number): Promise<void> {
  const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0
  const to = i + by
  if (by === 0 || to < 0 || to >= lines.value.length) return
  event.preventDefault()
  if (event.altKey && !isFixed.value) move(i, to)
  await nextTick()
  document.querySelector<HTMLElement>(`[data-line="${to}"]`)?.focus()
}
const dragged = ref<number | null>(null)
const dragOver = ref<number | null>(null)
function drop(to: number): void {
  if (dragged.value !== null && dragged.value !== to) move(dragged.value, to)
  dragged.value = dragOver.value = null
}

/** A rule that was sent here from the workshop goes on to its line once the plan has a draft, as a change to look at and save. */
const route = useRoute()
const router = useRouter()
const arriving = ref('')
watch(
  [isFixed, lines],
  () => {
    const { line, sampling } = route.query
    if (typeof line !== 'string' || typeof sampling !== 'string' || !entity.value) return
    const place = lines.value.findIndex((entry) => entry.characteristicId === line)
    if (place < 0) return
    at.value = place
    const rule = JSON.parse(sampling) as SamplingRule
    if (isFixed.value)
      return void (arriving.value = `${describeSamplingRule(rule)} waits for ${lines.value[place]?.name}: revise the plan, and it is put on that line of the draft.`)
    const target = lines.value[place] as PlanLine
    target.sampling = rule as PlanLine['sampling']
    arriving.value = `Put on ${target.name}: ${describeSamplingRule(rule)}. Save the draft to keep it.`
    void router.replace({ query: {} })
  },
  { flush: 'post' },
)

/** Work of one lot: pieces and minutes over all lines, for a lot of 500. */
const effort = computed(() => {
  const lot = 500
  let pieces = 0
  let minutes = 0
  let untimed = 0
  for (const line of lines.value) {
    try {
      const { sampleSize } = sampleFor(line.sampling as SamplingRule, lot)
      pieces += sampleSize
      if (line.minutesPerPiece === null) untimed += 1
      else minutes += sampleSize * line.minutesPerPiece
    } catch {
      untimed += 1
    }
  }
  const time = minutes > 0 ? `, ${minutes < 120 ? `${Math.round(minutes)} minutes` : `${(minutes / 60).toFixed(1)} hours`}` : ''
  const rest = untimed > 0 ? `; ${count(untimed, 'line')} without a time` : ''
  return `A lot of ${lot} takes ${count(pieces, 'reading')} at most${time}${rest}.`
})

const wordsOf = (list: readonly PlanLine[] | undefined) =>
  (list ?? []).map((line) => `${line.code} (${describeSamplingRule(line.sampling)})`).join('; ')
function planWords(revision: Plan['revisions'][number]): readonly { label: string; words: string }[] {
  return revision.lines.map((line, i) => ({
    label: line.code,
    words: [
      `line ${i + 1}`,
      describeSamplingRule(line.sampling as SamplingRule),
      line.isRequired ? '' : 'not required',
      line.isDecisive ? 'decisive' : '',
      line.detached ? `own limits ${limitsWords({ ...line.detached, unit: line.unit })}` : '',
      line.stage,
      line.instruction,
    ]
      .filter((words) => words !== '')
      .join(', '),
  }))
}
const compared = computed(() => [
  { label: 'name', mine: edited.value.name, theirs: theirs.value?.name ?? '' },
  { label: 'lines', mine: wordsOf(lines.value), theirs: wordsOf(theirs.value?.revisions[0]?.lines) },
])
</script>

<style scoped>
.form {
  padding: 20px 28px 40px;
  max-width: 980px;
}
.line {
  display: flex;
  align-items: stretch;
  border-bottom: 1px solid var(--rule);
}
.line.on {
  background: var(--wash);
  box-shadow: inset 4px 0 0 var(--indigo);
}
.line.over {
  border-top: 2px solid var(--indigo);
}
.pick {
  flex: 1;
  min-width: 0;
  display: flex;
  gap: 12px;
  align-items: center;
  text-align: left;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  padding: 7px 12px;
  cursor: pointer;
}
.rule {
  width: 256px;
  flex: none;
}
.tool {
  border: 0;
  background: none;
  color: var(--indigo);
  padding: 0 8px;
  cursor: pointer;
}
.tool:disabled {
  color: var(--rule);
}
</style>
