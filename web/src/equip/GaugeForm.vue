<template>
  <div v-if="form" class="sheet stack">
    <form v-first-focus="isNew" class="stack" @submit.prevent="submit" @focusout="leave">
      <h1>{{ isNew ? 'New gauge' : `${gauge?.code} ${gauge?.name}` }}</h1>
      <p v-if="gauge && !isNew" class="standing" data-test="gauge-standing">
        <b :class="gauge.state === 'inUse' ? '' : 'nonconforming'">{{ upperFirst(gaugeStateWords[gauge.state]) }}</b><template
          v-if="gauge.stateReason"
        >
          since {{ momentOf(gauge.stateSince) }}: {{ gauge.stateReason }}</template
        >.
        <span v-if="gauge.state === 'inUse' && isOverdue(gauge)" class="nonconforming">{{
          gauge.dueOn ? `It was due for calibration on ${dayWords(gauge.dueOn)}.` : 'It was never calibrated.'
        }}</span>
        <template v-else-if="gauge.dueOn">Good until {{ dayWords(gauge.dueOn) }}.</template>
      </p>
      <ErrorNote :failure="saver.note.value" />
      <div class="row wide top">
        <v-text-field
          v-model="form.code"
          label="Code, as it is written on it"
          :readonly="!mayEdit"
          :error-messages="errors['code']"
          aria-required="true"
          data-field="code"
        />
        <v-text-field v-model="form.name" label="Name" :readonly="!mayEdit" :error-messages="errors['name']" aria-required="true" data-field="name" />
      </div>
      <PickOne
        v-model="kindId"
        :endpoint="define.gaugeKinds.list"
        label="Kind"
        :title-of="(row: { code: string }) => row.code"
        is-needed
        :is-disabled="!mayEdit"
        :error="errors['kindId']"
        field="kindId"
        hint="Characteristics ask for a kind of gauge; the kind says whether readings want one by name"
      />
      <div class="row wide top">
        <v-text-field v-model="form.maker" label="Maker" :readonly="!mayEdit" :error-messages="errors['maker']" data-field="maker" />
        <v-text-field
          v-model="form.serialNumber"
          label="Maker's serial number"
          :readonly="!mayEdit"
          :error-messages="errors['serialNumber']"
          data-field="serialNumber"
        />
      </div>
      <div class="row wide top">
        <v-text-field
          v-for="[key, label] in numbers"
          :key="key"
          :model-value="form[key] ?? ''"
          :label="label"
          inputmode="decimal"
          :readonly="!mayEdit"
          :error-messages="errors[key]"
          :data-field="key"
          @update:model-value="form[key] = $event || null"
        />
        <v-autocomplete
          v-model="form.unit"
          :items="symbols"
          label="Unit"
          clearable
          :readonly="!mayEdit"
          :error-messages="errors['unit']"
          data-field="unit"
        />
      </div>
      <div class="row wide top">
        <DayField
          v-model="calibratedOn"
          label="Calibrated on"
          :error-messages="errors['calibratedOn']"
          :is-disabled="!mayEdit"
          field="calibratedOn"
        />
        <v-text-field
          :model-value="form.intervalMonths ?? ''"
          inputmode="numeric"
          label="Interval, months (empty: needs none)"
          :readonly="!mayEdit"
          :error-messages="errors['intervalMonths']"
          data-field="intervalMonths"
          @update:model-value="form.intervalMonths = $event === '' || $event === null ? null : Number($event)"
        />
      </div>
      <p v-if="nextDue && nextDue !== gauge?.dueOn" class="soft small" data-test="next-due">Good until {{ dayWords(nextDue) }}, that day included.</p>
      <div v-if="mayEdit" class="row">
        <v-btn type="submit" color="primary" :loading="saver.isBusy.value" :disabled="!isChanged">Save</v-btn>
        <v-btn v-if="isChanged" variant="text" @click="undo">Undo changes</v-btn>
      </div>
    </form>
    <div v-if="gauge && !isNew && gauge.state !== 'retired' && !isChanged" class="row">
      <v-btn v-if="gauge.state === 'inUse' && mayBring('locked')" variant="outlined" color="error" data-test="lock" @click="setState('locked')"
        >Lock it …</v-btn
      >
      <v-btn v-if="gauge.state === 'locked' && mayBring('inUse')" variant="outlined" color="primary" data-test="unlock" @click="setState('inUse')"
        >Unlock it …</v-btn
      >
      <v-btn v-if="mayBring('retired')" variant="text" data-test="retire" @click="setState('retired')">Retire it …</v-btn>
    </div>
    <GaugeInstrument v-if="gauge && !isNew" :key="`sends ${gauge.id}`" :gauge="gauge" />
    <GaugeUses v-if="gauge && !isNew" :key="gauge.id" :gauge="gauge" />
    <StaleChange
      v-if="saver.isStale.value && saver.failure.value && theirs"
      :failure="saver.failure.value"
      :rows="compared"
      @keep="keepMine"
      @take="takeTheirs"
    />
  </div>
  <EmptyState v-else title="What is measured with" :text="failure?.message ?? 'Loading …'" />
</template>

<script setup lang="ts">
import { calibrationDue, CoreError, type GaugeState } from '@nemawashi/core'
import { define, equip, maySetGaugeState, upperFirst, type Gauge } from '@nemawashi/contract'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../shell/api'
import { ask } from '../shell/ask'
import { useCrumbs } from '../shell/crumbs'
import { vFirstFocus } from '../shell/firstFocus'
import { notify } from '../shell/notify'
import { useThing } from '../shell/queries'
import { useSession } from '../shell/session'
import { useUnsaved } from '../shell/unsaved'
import { useEdited } from '../shell/useEdited'
import DayField from '../components/DayField.vue'
import EmptyState from '../components/EmptyState.vue'
import ErrorNote from '../components/ErrorNote.vue'
import PickOne from '../components/PickOne.vue'
import StaleChange from '../components/StaleChange.vue'
import { useMeasureUnits } from '../composables/useMeasureUnits'
import { useSaver } from '../composables/useSaver'
import { useTheirs } from '../composables/useTheirs'
import { useTyped } from '../composables/useTyped'
import { dayWords, momentOf } from '../format/format'
import GaugeInstrument from './GaugeInstrument.vue'
import GaugeUses from './GaugeUses.vue'
import { gaugeStateWords, isOverdue } from './gaugeWords'

/** One gauge of the register: what it is, whether it is good, the acts on it, and what it measured. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ saved: [] }>()
const route = useRoute()
const router = useRouter()
const session = useSession()
const mayEdit = session.may(equip.createGauge)
const mayBring = (state: GaugeState) => maySetGaugeState(session.person?.roles ?? [], state)
const saver = useSaver()
const { known: units } = useMeasureUnits()
const symbols = computed(() => units.value.map(({ symbol }) => symbol))
const isNew = computed(() => id === 'new')
const { data: gauge, failure, put } = useThing(equip.getGauge, () => (isNew.value ? null : { params: { id } }))

type Form = Omit<Gauge, 'id' | 'version' | 'state' | 'stateReason' | 'stateSince' | 'dueOn'> & { version: number }
const formOf = ({ code, name, kindId, maker, serialNumber, resolution, unit, lower, upper, calibratedOn, intervalMonths, version }: Gauge): Form => ({
  ...{ code, name, kindId, maker, serialNumber, resolution, unit, lower, upper, calibratedOn, intervalMonths, version },
})
const {
  edited: form,
  isChanged,
  show,
  undo: takeBack,
} = useEdited<Form>(
  () => `gauges/${id}`,
  computed(() => gauge.value && formOf(gauge.value)),
  () => ({
    ...{ code: '', name: '', kindId: '', maker: '', serialNumber: '', resolution: null, unit: null },
    ...{ lower: null, upper: null, calibratedOn: null, intervalMonths: 12, version: 1 },
  }),
)
const kindId = computed({ get: () => form.value?.kindId || null, set: (value) => form.value && (form.value.kindId = value ?? '') })
const calibratedOn = computed({ get: () => form.value?.calibratedOn ?? '', set: (day) => form.value && (form.value.calibratedOn = day || null) })
const numbers = [
  ['resolution', 'Resolution'],
  ['lower', 'Measures from'],
  ['upper', 'to'],
] as const
const bodyOf = () => {
  const { version, ...body } = form.value as Form
  return isNew.value ? body : { ...body, version }
}
const { errors, leave } = useTyped(saver, () => (isNew.value ? equip.createGauge : equip.updateGauge).body, bodyOf)
/** Until when it is good by what is typed. */
const nextDue = computed(() => {
  const { calibratedOn, intervalMonths } = form.value ?? {}
  if (!calibratedOn || intervalMonths == null) return null
  try {
    return calibrationDue(calibratedOn, intervalMonths)
  } catch (error) {
    if (error instanceof CoreError) return null
    throw error
  }
})

useCrumbs(() => [
  { words: 'Equip', to: '/equip' },
  { words: 'Gauges', to: '/equip/gauges' },
  ...(form.value ? [{ words: isNew.value ? 'New' : form.value.code }] : []),
])
const { theirs, keepMine, takeTheirs } = useTheirs(saver, { edited: form, show }, submit)
useUnsaved(
  () => isChanged.value,
  () => (isNew.value ? 'the new gauge' : `${form.value?.code} ${form.value?.name}`),
)

async function submit(): Promise<void> {
  const now = form.value
  if (!now) return
  const { version, ...fields } = now
  const done = await saver.save(async () => {
    const saved = isNew.value
      ? await call(equip.createGauge, { body: fields })
      : await call(equip.updateGauge, { params: { id: id }, body: { ...fields, version } })
    show(formOf(saved))
    put(saved, { params: { id: saved.id } })
    emit('saved')
    if (isNew.value) await router.replace({ path: `/equip/gauges/${saved.id}`, query: route.query })
    notify(`Saved ${saved.code}.`)
  })
  if (!done && saver.isStale.value) theirs.value = formOf(await call(equip.getGauge, { params: { id } }))
}
function undo(): void {
  takeBack()
  saver.clear()
}
const stateActs: Readonly<Record<GaugeState, { title: string; text: string; yes: string }>> = {
  locked: {
    title: 'Lock it?',
    text: 'Nobody measures with it until it is unlocked. What it measured so far stands below, to be looked at.',
    yes: 'Lock it',
  },
  inUse: { title: 'Unlock it?', text: 'It can be chosen again at the bench.', yes: 'Unlock it' },
  retired: { title: 'Retire it?', text: 'It stays in the register with all that it measured, and is never used again.', yes: 'Retire it' },
}
async function setState(state: GaugeState): Promise<void> {
  const now = gauge.value
  if (!now) return
  const reason = await ask({ ...stateActs[state], title: `${now.code}: ${stateActs[state].title}`, needsReason: true })
  if (reason === null) return
  await saver.save(async () => {
    const saved = await call(equip.setGaugeState, { params: { id: now.id }, body: { version: now.version, state, reason } })
    put(saved)
    emit('saved')
    notify(`${saved.code} is ${gaugeStateWords[saved.state]}.`)
  })
}

const labels: readonly (readonly [keyof Form, string])[] = [
  ...([
    ['code', 'Code'],
    ['name', 'Name'],
    ['maker', 'Maker'],
    ['serialNumber', "Maker's serial number"],
  ] as const),
  ...numbers.map(([key, label]) => [key, key === 'upper' ? 'Measures to' : label] as const),
  ...([
    ['unit', 'Unit'],
    ['calibratedOn', 'Calibrated on'],
    ['intervalMonths', 'Interval, months'],
  ] as const),
]
const compared = computed(() => [
  ...labels.map(([key, label]) => ({ label, mine: String(form.value?.[key] ?? ''), theirs: String(theirs.value?.[key] ?? '') })),
  // What is chosen by an id is told apart, and not named.
  { label: 'Kind', mine: 'as chosen here', theirs: theirs.value?.kindId === form.value?.kindId ? 'as chosen here' : 'another' },
])
</script>

<style scoped>
.sheet {
  padding: 20px 28px 40px;
  max-width: 900px;
}
.wide > * {
  flex: 1;
}
</style>
