<template>
  <form ref="form" class="point stack" @submit.prevent="emit('save', changesFrom || null)">
    <div class="row">
      <h2 class="grow">{{ point ? `Control point ${point.code}` : 'Attach a plan' }}{{ stopName === '' ? '' : ` · ${stopName}` }}</h2>
      <v-btn variant="text" data-test="close-point" @click="emit('close')">Close</v-btn>
    </div>
    <PickOne
      v-model="draft.planId"
      :endpoint="define.listPlans"
      label="Plan (released)"
      :query="{ state: 'released' }"
      :initial="point ? { id: point.planId, title: `${point.planCode} · ${point.planName}` } : null"
      :error="errors['planId']"
      :is-disabled="isFixed"
      is-needed
      field="planId"
    />
    <div v-if="momentsOf[kind].length > 1" class="row top">
      <v-select v-model="moment" class="grow" :items="momentItems" label="When" :disabled="isFixed" data-field="moment" />
      <v-text-field
        v-if="interval"
        :model-value="draft.every ?? ''"
        class="hours"
        type="number"
        min="1"
        label="Every"
        :suffix="interval"
        :disabled="isFixed"
        :error-messages="errors['every']"
        data-field="every"
        @update:model-value="draft.every = $event === '' || $event === null ? null : Number($event)"
      />
    </div>
    <v-radio-group v-if="subjects.length > 1" v-model="draft.subject" inline label="Looks at" :disabled="isFixed" data-field="subject">
      <v-radio v-for="subject in subjects" :key="subject" :value="subject" :label="subjectWords[subject]" />
    </v-radio-group>
    <p v-if="subjectHint" class="soft small" data-test="subject-hint">{{ subjectHint }}</p>
    <ReachFields v-model="draft" :point="point" :part="part" :kind="kind" :is-fixed="isFixed" :errors="errors" />
    <FrequencyFields v-model="draft.frequency" :is-fixed="isFixed" :operation-kind="kind" />
    <div class="row top">
      <v-text-field v-model="draft.responsible" class="grow" label="Responsible: team or person" :disabled="isFixed" data-field="responsible" />
      <v-text-field
        :model-value="draft.dueHours ?? ''"
        class="hours"
        type="number"
        min="0"
        label="Due after"
        suffix="h"
        :disabled="isFixed"
        data-field="dueHours"
        @update:model-value="draft.dueHours = $event === '' || $event === null ? null : Number($event)"
      />
    </div>
    <v-checkbox
      v-model="draft.isGate"
      :label="`Gate: ${gateWords[stepBlocked(kind, draft.moment, draft.keepsFrom)]}`"
      :disabled="isFixed"
      data-field="isGate"
    />
    <v-radio-group v-if="has('keepsFrom')" v-model="draft.keepsFrom" inline label="Blocks" :disabled="isFixed" data-field="keepsFrom">
      <v-radio value="putAway" label="put-away" />
      <v-radio value="use" label="use, picking and dispatch only: it may be put away on hold" />
    </v-radio-group>
    <v-radio-group v-if="draft.isGate && has('holds')" v-model="draft.holds" inline label="Holds" :disabled="isFixed" data-field="holds">
      <v-radio value="all" label="all that came" />
      <v-radio value="sample" label="no more than the sample; a failure holds the rest" />
    </v-radio-group>
    <v-radio-group v-if="!draft.isGate" v-model="draft.onFailure" inline label="When not accepted" :disabled="isFixed" data-field="onFailure">
      <v-radio value="hold" label="hold what is still there" />
      <v-radio
        v-if="draft.onFailure === 'holdMade' || isInRun(draft.moment)"
        value="holdMade"
        label="hold what was made since the last check that conformed"
      />
      <v-radio value="note" label="only note it" />
    </v-radio-group>
    <v-radio-group v-model="draft.whenConforming" inline label="When accepted" :disabled="isFixed" data-field="whenConforming">
      <v-radio v-for="when in whenConformings" :key="when" :value="when" :label="whenConformingWords[when]" />
    </v-radio-group>
    <v-checkbox
      v-if="has('setsAside')"
      v-model="draft.setsAside"
      label="Segregate nonconforming pieces: they are not released with the others"
      :disabled="isFixed"
      data-field="setsAside"
    />
    <v-text-field
      v-model="draft.advice"
      label="Advice when not accepted"
      :disabled="isFixed"
      :error-messages="errors['advice']"
      data-field="advice"
    />
    <PickOne
      v-model="draft.followPlanId"
      :endpoint="define.listPlans"
      label="Follow-up plan when not accepted"
      is-clearable
      :query="{ state: 'released' }"
      :initial="point?.followPlanId ? { id: point.followPlanId, title: point.followPlanName ?? '' } : null"
      :is-disabled="isFixed"
      :error="errors['followPlanId']"
      field="followPlanId"
    />
    <PickPeople v-model="draft.tells" label="Notify when not accepted, on Today" :is-disabled="isFixed" field="tells" />
    <v-radio-group v-if="spotExtent" v-model="draft.answeredAt" inline label="Answered" :disabled="isFixed" data-field="answeredAt">
      <v-radio v-for="place in answerPlaces" :key="place" :value="place" :label="answerPlaceWords(place, spotExtent)" />
    </v-radio-group>
    <p v-if="errors['answeredAt']" class="nonconforming small" role="alert">{{ errors['answeredAt'] }}</p>
    <v-radio-group v-model="draft.need" inline label="Sample may be changed" :disabled="isFixed" data-field="need">
      <v-radio v-for="need in needs" :key="need" :value="need" :label="needWords[need]" />
    </v-radio-group>
    <div class="row days">
      <DayField v-model="validFrom" label="In force from" :min="today" :is-disabled="isFixed" field="validFrom" />
      <DayField v-model="validUntil" label="In force until" :min="draft.validFrom ?? today" :is-disabled="isFixed" field="validUntil" />
      <span class="soft small">both days count; empty: without end</span>
    </div>
    <p v-if="!changesFrom && errors['validFrom']" class="nonconforming small" role="alert">{{ errors['validFrom'] }}</p>
    <p v-if="errors['validUntil']" class="nonconforming small" role="alert">{{ errors['validUntil'] }}</p>
    <ChangeOnPast v-if="!isFixed && draft.planId" :draft="draft" :point="point" :part="part" />
    <div v-if="point && !isFixed" class="row days">
      <DayField v-model="changesFrom" label="This change counts from" :min="tomorrow" field="changesFrom" />
      <span class="soft small">{{
        changesFrom ? `until then it stays as it is; from that day another one asks in its place` : 'empty: at once'
      }}</span>
    </div>
    <p v-if="changesFrom && errors['validFrom']" class="nonconforming small" role="alert">{{ errors['validFrom'] }}</p>
    <div v-if="!isFixed" class="row save">
      <v-btn type="submit" color="primary" :loading="isBusy" :disabled="!draft.planId">{{ point ? 'Save' : 'Attach' }}</v-btn>
      <v-btn v-if="point" variant="text" data-test="retire" @click="emit('retire')">Retire</v-btn>
    </div>
    <PointPast v-if="point" :point-id="point.id" />
  </form>
</template>

<script setup lang="ts">
import {
  answerPlaces,
  answerPlaceWords,
  onSpotAt,
  dayBeside,
  gateWords,
  intervalOf,
  isUnitKind,
  looksAt,
  isInRun,
  momentsOf,
  momentWords,
  needs,
  needWords,
  stepBlocked,
  subjectWords,
  whenConformings,
  whenConformingWords,
  inapplicableFields,
  type Conditional,
  type Moment,
  type OperationKind,
} from '@nemawashi/core'
import { type FlowPoint, type Part, define } from '@nemawashi/contract'
import { computed, nextTick, onMounted, ref } from 'vue'
import { plantDay } from '../../shell/plantTime'
import DayField from '../../components/DayField.vue'
import PickOne from '../../components/PickOne.vue'
import PickPeople from '../../components/PickPeople.vue'
import ChangeOnPast from './ChangeOnPast.vue'
import FrequencyFields from './FrequencyFields.vue'
import type { PointDraft } from './pointDraft'
import PointPast from './PointPast.vue'
import ReachFields from './ReachFields.vue'

/** What a control point says, written field by field, with what it would have changed in the last 90 days. */
const draft = defineModel<PointDraft>({ required: true })
const {
  point,
  part,
  kind,
  stopName = '',
} = defineProps<{
  point: FlowPoint | null
  part: Part
  kind: OperationKind
  /** The stop that it hangs at. */
  stopName?: string
  isFixed: boolean
  errors: Record<string, string>
  isBusy: boolean
}>()
const emit = defineEmits<{ save: [from: string | null]; retire: []; close: [] }>()

/** It opens in sight; a new one with the cursor in its first field, while whoever looks at those that hang stays at them. */
const form = ref<HTMLFormElement>()
onMounted(async () => {
  await nextTick()
  if ((form.value?.getBoundingClientRect().top ?? 0) > window.innerHeight * 0.6) form.value?.scrollIntoView()
  if (point === null) form.value?.querySelector<HTMLElement>('input:not(:disabled)')?.focus({ preventScroll: true })
})

/** The day from which a change counts; empty: at once. */
const changesFrom = ref('')
const today = plantDay(new Date())
const tomorrow = dayBeside(today, 1)
const momentItems = computed(() => momentsOf[kind].map((value) => ({ value, title: momentWords[value] })))
/** What can be looked at at its moment: before a receipt there are no lots. */
const subjects = computed(() => looksAt(kind).flatMap((look) => (look.moment === draft.value.moment ? [look.subject] : [])))
/** What becomes of goods that are not told apart so. */
const subjectHint = computed(() =>
  isUnitKind(draft.value.subject) ? 'Goods that are not told apart so are looked at as one lot: nothing passes for want of a label.' : '',
)
const spotExtent = computed(() => onSpotAt(kind, draft.value.moment))
/** What would have no effect is not asked. */
const has = (field: keyof Conditional) => !inapplicableFields(kind, draft.value).includes(field)
const interval = computed(() => intervalOf(draft.value.moment))
const moment = computed({
  get: () => draft.value.moment,
  set: (value: Moment) => {
    draft.value.moment = value
    draft.value.every = intervalOf(value) === null ? null : intervalOf(value) === 'pieces' ? 50 : 30
    if (spotExtent.value === null) draft.value.answeredAt = 'bench'
    if (!subjects.value.includes(draft.value.subject)) draft.value.subject = subjects.value[0] ?? 'lot'
  },
})
/** A day as its field has it: empty where there is none. */
const dayField = (field: 'validFrom' | 'validUntil') =>
  computed({ get: () => draft.value[field] ?? '', set: (value: string) => (draft.value[field] = value || null) })
const validFrom = dayField('validFrom')
const validUntil = dayField('validUntil')
</script>

<style scoped>
:deep(.v-selection-control-group--inline) {
  gap: 0 18px;
}
.days {
  flex-wrap: wrap;
}
.days > .small {
  flex: 1 1 100%;
}
.save {
  position: sticky;
  bottom: 0;
  z-index: 2;
  padding: 8px 0;
  background: var(--sheet);
}
.hours {
  max-width: 140px;
}
.point {
  border-top: 1px solid var(--rule);
  padding-top: 16px;
  max-width: 720px;
}
</style>
