<template>
  <EmptyState v-if="waiting !== null" title="Inspection plan" :text="waiting" />
  <form v-else class="form stack" @submit.prevent="submit" @focusout="leave">
    <DefinitionHead
      :title="isNew ? 'New inspection plan' : `${code} ${edited.name}`"
      :can-change="isEngineer && entity !== null"
      :has-draft="hasDraft"
      :has-released="hasReleased"
      :is-changed="isChanged"
      :is-busy="saver.isBusy.value"
      @release="release"
      @revise="step(define.revisePlan, 'has a draft')"
      @discard="discard(define.discardPlan)"
      @retire="retire"
    >
      <v-btn v-if="entity && isEngineer" variant="text" size="small" data-test="copy" :to="{ path: '/define/plans/new', query: { copy: id } }"
        >Copy</v-btn
      >
      <v-btn
        v-if="entity"
        variant="text"
        size="small"
        data-test="export-plan"
        :href="`/api/v1/plan-exchange/export?format=json&code=${encodeURIComponent(code)}`"
        download
        >JSON</v-btn
      >
      <v-btn
        v-if="entity && shown"
        variant="text"
        size="small"
        data-test="print"
        :href="`/api/v1/plans/${id}/sheet.pdf?revision=${shown.revision}`"
        target="_blank"
        >Print</v-btn
      >
      <DayField v-if="isEngineer && hasDraft" v-model="effectiveFrom" label="Used from (empty: at once)" field="effectiveFrom" />
    </DefinitionHead>
    <RevisionBar v-if="entity" :revisions="entity.revisions" :shown-id="shown?.id ?? null" @choose="chosen = $event" />
    <ErrorNote :failure="failure ?? (saver.failure.value && !saver.isStale.value ? saver.failure.value : null)" />
    <div v-if="!isFixed" class="row top">
      <v-text-field
        v-if="isNew"
        v-model="code"
        v-first-focus
        label="Code"
        style="max-width: 160px"
        :error-messages="errors['code']"
        aria-required="true"
        data-field="code"
      />
      <v-text-field v-model="edited.name" label="Name" class="grow" :error-messages="errors['name']" aria-required="true" data-field="name" />
    </div>

    <PlanLines v-model="edited.lines" v-model:at="at" :is-fixed="isFixed" />
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
import { vFirstFocus } from '../../shell/firstFocus'
import { describeSamplingRule, type SamplingRule } from '@nemawashi/core'
import { Day, type Plan, type PlanLine, type PlanLineInput, define } from '@nemawashi/contract'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { call } from '../../shell/api'
import { useRoute, useRouter } from 'vue-router'
import { useCrumbs } from '../../shell/crumbs'
import DayField from '../../components/DayField.vue'
import EmptyState from '../../components/EmptyState.vue'
import ErrorNote from '../../components/ErrorNote.vue'
import { dayWords } from '../../format/format'
import PickOne from '../../components/PickOne.vue'
import StaleChange from '../../components/StaleChange.vue'
import { useTyped } from '../../composables/useTyped'
import DefinitionHead from '../revisions/DefinitionHead.vue'
import RevisionBar from '../revisions/RevisionBar.vue'
import RevisionCompare from '../revisions/RevisionCompare.vue'
import PlanLineFields from './PlanLineFields.vue'
import PlanLines from './PlanLines.vue'
import { effortWords, inputOf, linesWords, newLine, planWords } from './planWords'
import { useDefinition } from '../revisions/useDefinition'

/** An inspection plan: its lines in order, each with its sampling rule and what that lets through; released at once or from a day on. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ saved: [id: string] }>()

interface Edited {
  name: string
  lines: PlanLine[]
}
const at = ref(0)
const added = ref<string | null>(null)
/** Day from which the draft is to be used; empty: at once. */
const effectiveFrom = ref('')
const bodyOf = (): { name: string; lines: PlanLineInput[] } => ({ name: edited.value.name, lines: edited.value.lines.map(inputOf) })
const {
  isEngineer,
  saver,
  failure,
  waiting,
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
  discard,
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
const { errors, leave } = useTyped(
  saver,
  () => (isNew ? define.createPlan : define.updatePlan).body,
  () => (isNew ? { code: code.value, ...bodyOf() } : { ...bodyOf(), version: entity.value?.version ?? 1 }),
)
const hangsOn = () =>
  (entity.value?.usedBy.length ?? 0) > 0 ? `It hangs on ${entity.value?.usedBy.join(', ')}.` : 'It hangs on no control point yet.'
const release = () =>
  (effectiveFrom.value === '' || Day.safeParse(effectiveFrom.value).success) &&
  step(
    define.releasePlan,
    effectiveFrom.value === '' ? 'released' : `released from ${dayWords(effectiveFrom.value)}`,
    {
      title: `Release ${code.value}?`,
      text: `${hangsOn()} ${effectiveFrom.value === '' ? 'From now on' : `From ${dayWords(effectiveFrom.value)} on`} inspections open after this revision; those that are open keep theirs.`,
      yes: 'Release',
      isForward: true,
    },
    { effectiveFrom: effectiveFrom.value || null },
  )
const retire = () =>
  step(define.retirePlan, 'retired', {
    title: `Retire ${code.value}?`,
    text: `${hangsOn()} No inspection opens after it any more, and a delivery that a control point asks it for is refused. Inspections that are open go on.`,
    yes: 'Retire it',
  })
const lines = computed(() => edited.value.lines)
const current = computed(() => lines.value[at.value] ?? null)
const lineError = computed(() => (saver.failure.value?.facts['line'] === at.value ? saver.failure.value : null))
useCrumbs(() => [{ words: 'Define', to: '/define' }, { words: 'Plans', to: '/define/plans' }, { words: isNew ? 'New' : code.value }])
watch(lines, () => (at.value = Math.min(at.value, Math.max(0, lines.value.length - 1))))

const isFree = (row: { id: string; state: string }) => row.state !== 'retired' && !lines.value.some((line) => line.characteristicId === row.id)
async function addLine(row: { id: string; [key: string]: unknown } | null): Promise<void> {
  if (!row) return
  const { revisions } = await call(define.getCharacteristic, { params: { id: row.id } })
  const line = newLine(row.id, String(row['code']), revisions)
  if (!line) return
  lines.value.push(line)
  at.value = lines.value.length - 1
  await nextTick()
  added.value = null
}

/** A copy begins with the lines of the copied one, under a code of its own. */
const route = useRoute()
onMounted(async () => {
  const from = route.query['copy']
  if (!isNew || typeof from !== 'string') return
  const { name, revisions } = await call(define.getPlan, { params: { id: from } })
  const revision = revisions.find((entry) => entry.state === 'released') ?? revisions[0]
  edited.value = { name: `${name}, copy`, lines: revision?.lines ?? [] }
})

/** A rule that was sent here from the workshop goes on to its line once the plan has a draft, as a change to look at and save. */
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

const effort = computed(() => effortWords(lines.value, 500))
const compared = computed(() => [
  { label: 'name', mine: edited.value.name, theirs: theirs.value?.name ?? '' },
  { label: 'lines', mine: linesWords(lines.value), theirs: linesWords(theirs.value?.revisions[0]?.lines) },
])
</script>

<style scoped>
.form {
  padding: 20px 28px 40px;
  max-width: 980px;
}
</style>
