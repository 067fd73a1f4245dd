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
    />
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
              >{{ line.code }} · {{ line.class }}{{ line.isDecisive ? ' · decisive' : '' }}{{ line.isRequired ? '' : ' · not required' }}</span
            ></span
          >
          <ToleranceStrip v-if="line.kind === 'measured'" :limits="line" />
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

    <section v-if="current" class="workshop">
      <h2>{{ current.name }} · sampling</h2>
      <SamplingEditor v-model="current.sampling" :is-fixed="isFixed" :error="lineError" />
      <div class="row">
        <v-checkbox v-model="current.isRequired" label="has to be answered" :disabled="isFixed" data-field="isRequired" />
        <v-checkbox
          v-model="current.isDecisive"
          label="decisive: one nonconforming piece fails the lot"
          :disabled="isFixed"
          data-field="isDecisive"
        />
      </div>
      <p class="soft small">
        {{
          current.followsRevision === null
            ? 'Its characteristic is still a draft; release it before the plan.'
            : `Follows the library: revision ${current.followsRevision} now, later ones by themselves.`
        }}
      </p>
    </section>

    <div v-if="isEngineer && !isFixed" class="row">
      <v-btn type="submit" color="primary" :loading="saver.isBusy.value" :disabled="!isChanged">{{
        isNew ? 'Save as draft' : 'Save the draft'
      }}</v-btn>
      <v-btn v-if="isChanged && !isNew" variant="text" @click="reset">Undo changes</v-btn>
    </div>
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
import { describeSamplingRule } from '@nemawashi/core'
import { endpoints, type Plan, type PlanLine, type PlanLineInput } from '@nemawashi/contract'
import { computed, nextTick, ref, watch } from 'vue'
import { call } from '../frame/api'
import { useCrumbs } from '../frame/crumbs'
import ErrorNote from '../pieces/ErrorNote.vue'
import PickOne from '../pieces/PickOne.vue'
import StaleChange from '../pieces/StaleChange.vue'
import ToleranceStrip from '../pieces/ToleranceStrip.vue'
import DefinitionHead from './DefinitionHead.vue'
import RevisionBar from './RevisionBar.vue'
import SamplingEditor from './SamplingEditor.vue'
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
const inputOf = ({ characteristicId, sampling, isRequired, isDecisive }: PlanLine): PlanLineInput => ({
  characteristicId,
  sampling,
  isRequired,
  isDecisive,
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
  const {
    id: characteristicId,
    code: lineCode,
    name: lineName,
    kind,
    class: cls,
    unit,
    nominal,
    lower,
    upper,
    revision,
    state,
  } = row as unknown as PlanLine & { id: string; revision: number; state: string }
  lines.value.push({
    characteristicId,
    code: lineCode,
    name: lineName,
    kind,
    class: cls,
    unit,
    nominal,
    lower,
    upper,
    followsRevision: state === 'released' ? revision : null,
    sampling: { kind: 'attributesScheme', level: 'II', aqlPercent: 1 },
    isRequired: true,
    isDecisive: false,
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

const wordsOf = (list: readonly PlanLine[] | undefined) =>
  (list ?? []).map((line) => `${line.code} (${describeSamplingRule(line.sampling)})`).join('; ')
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
.workshop {
  border: 1px solid var(--rule);
  padding: 14px 18px 8px;
}
</style>
